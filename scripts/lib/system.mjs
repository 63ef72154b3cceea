import { existsSync } from "node:fs";
import { run, Stop } from "./run.mjs";

/** Programs of the operating system: the browser that the tests drive, and the circuit simulator that the circuit core is compared with. */
const SYSTEM = [
  { path: "/usr/bin/chromium", package: "chromium" },
  { path: "/usr/bin/ngspice", package: "ngspice" },
];

/** Installs what is missing when that is allowed, and says what to install when it is not. */
export function ensureSystem() {
  const missing = SYSTEM.filter(({ path }) => !existsSync(path)).map((one) => one.package);
  if (missing.length === 0) return;
  const command = `apt-get update && apt-get install -y ${missing.join(" ")}`;
  if (process.getuid?.() !== 0 || !existsSync("/usr/bin/apt-get"))
    throw new Stop(`The tests need ${missing.join(" and ")}. Install with: sudo sh -c "${command}"`);
  run("sh", ["-c", command], { DEBIAN_FRONTEND: "noninteractive" });
}
