// A family's name stands in its own file and in data, and nowhere in the program: what sets a family apart is asked of the family.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";

const tracked = execFileSync("git", ["ls-files", "--cached", "--others", "--exclude-standard", "*.ts", "*.tsx"], { encoding: "utf8" })
  .split("\n")
  .filter(Boolean);
const FAMILIES = /^core\/machine\/families\//;
/** Programs and their data: demo machines name their family, the benchmarks' world is written without this core. */
const FREE = /\.test\.tsx?$|^(tests|demo|bench)\//;

const ids = tracked
  .filter((file) => FAMILIES.test(file) && !FREE.test(file))
  .flatMap((file) => [...readFileSync(file, "utf8").matchAll(/^ +id: "([a-z-]+)",\n +title: /gm)].map(([, id]) => id));
const name = new RegExp(`["'\`](${ids.join("|")})["'\`]`);
const lines = tracked
  .filter((file) => !FAMILIES.test(file) && !FREE.test(file))
  .flatMap((file) =>
    readFileSync(file, "utf8")
      .split("\n")
      .flatMap((line, i) => (name.test(line) ? [`${file}:${i + 1} names the family ${name.exec(line)?.[1]}`] : [])),
  );
if (ids.length === 0) lines.push("no family was found: this check looks at nothing");
for (const line of lines) process.stderr.write(`${line}\n`);
if (lines.length > 0) process.exitCode = 1;
