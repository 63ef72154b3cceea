import { spawnSync } from "node:child_process";
import { chmodSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@playwright/test";
import Database from "better-sqlite3";
import { serve, tool } from "./workshop";

const folder = (): string => mkdtempSync(join(tmpdir(), "uvrel-cli-"));
const uvrel = (args: string[], input = "", env: Record<string, string> = {}) => tool("bin/uvrel.mjs", args, { UVREL_DATA: folder(), ...env }, input);

const CASE = {
  uvrelCase: 1,
  machine: { sheet: "ostrel-burro-520" },
  ambientC: 20,
  meter: { leadOhms: 0.2, ohmsResolution: 0.01 },
  readings: [
    { test: "battery.rest", value: 12.81, restHours: 12 },
    { test: "battery.crank", value: 10.4 },
    { test: "charge.volts", rpm: 5000, loads: "normal", value: 12.6 },
    ...["1-2", "2-3", "3-1"].map((at) => ({ test: "stator.resistance", at, value: 0.2 })),
    ...[0.07, 0.2, 0.2].map((value, i) => ({ test: "stator.toGround", at: String(i + 1), value })),
  ],
};

test("diagnose prints the verdict as JSON, from a file and from standard input", () => {
  const path = join(folder(), "case.json");
  writeFileSync(path, JSON.stringify(CASE));
  for (const result of [uvrel(["diagnose", path]), uvrel(["diagnose", "-"], JSON.stringify(CASE))]) {
    expect(result.stderr).toBe("");
    expect(result.status).toBe(0);
    expect(JSON.parse(result.stdout).verdict).toMatchObject({
      status: "found",
      part: "stator",
      fault: "stator.winding-grounded",
      where: expect.stringContaining("leg 1"),
    });
  }
});

test("npx uvrel works from the project's root", () => {
  const result = spawnSync("npx", ["uvrel", "diagnose", "-"], { encoding: "utf8", input: JSON.stringify(CASE), env: { ...process.env, UVREL_DATA: folder() } });
  expect(JSON.parse(result.stdout).verdict.part).toBe("stator");
});

test("the workshop's own sheets come before the shipped ones", () => {
  const data = folder();
  tool("build/tools/seed.js", [], { UVREL_DATA: data });
  const db = new Database(join(data, "uvrel.sqlite"));
  db.prepare("UPDATE sheets SET body = json_set(body, '$.bands', json('[]')) WHERE id = 'ostrel-burro-520'").run();
  db.close();
  const result = JSON.parse(uvrel(["diagnose", "-"], JSON.stringify(CASE), { UVREL_DATA: data }).stdout);
  expect(result.readings[2].bandFrom).toBe("school");
});

for (const [what, input, says] of [
  ["broken JSON", '{\n"uvrelCase": 1,\n]', /^line 3: is not JSON\n$/],
  ["an unknown sheet", JSON.stringify({ ...CASE, machine: { sheet: "none" } }), /^machine\.sheet: “none” is not in the library/],
  ["an impossible reading", JSON.stringify({ ...CASE, readings: [{ test: "battery.rest", value: 4000 }] }), /^readings\.0\.value: .*cannot be/],
  ["two wrong fields", JSON.stringify({ ...CASE, ambientC: 400, uvrelCase: 3 }), /uvrelCase: must be 1\nambientC: must be 60/],
] as const) {
  test(`diagnose refuses ${what} with one line a field and exit code 2`, () => {
    const result = uvrel(["diagnose", "-"], input);
    expect(result.status).toBe(2);
    expect(result.stdout).toBe("");
    expect(result.stderr).toMatch(says);
  });
}

test("a missing file, a missing argument and an unknown command are refused", () => {
  expect(uvrel(["diagnose", "/no/such/case.json"])).toMatchObject({ status: 2, stderr: "/no/such/case.json: there is no such file\n" });
  expect(uvrel(["diagnose"]).status).toBe(2);
  expect(uvrel(["guess"]).status).toBe(2);
  expect(uvrel(["--help"]).stdout).toContain("diagnose");
});

test("seeding twice adds nothing", () => {
  const data = folder();
  const jobs = (): unknown => new Database(join(data, "uvrel.sqlite"), { readonly: true }).prepare("SELECT count(*) FROM jobs").pluck().get();
  tool("build/tools/seed.js", [], { UVREL_DATA: data });
  const first = jobs();
  tool("build/tools/seed.js", [], { UVREL_DATA: data });
  expect(jobs()).toBe(first);
});

test.describe("a start that cannot be", () => {
  const refused = async (env: Record<string, string>): Promise<string> => {
    const { url, says, code } = await serve({ UVREL_DATA: folder(), PORT: "0", ...env });
    expect(url).toBe("");
    expect(await code).not.toBe(0);
    expect(says().trim().split("\n")).toHaveLength(1);
    return says();
  };

  test("a database newer than the program", async () => {
    const data = folder();
    tool("build/tools/seed.js", [], { UVREL_DATA: data });
    const db = new Database(join(data, "uvrel.sqlite"));
    db.pragma("user_version = 999");
    db.close();
    expect(await refused({ UVREL_DATA: data })).toContain("written by a newer Uvrel");
    expect(tool("build/tools/seed.js", [], { UVREL_DATA: data }).status).toBe(1);
  });

  test("a locked database", async () => {
    const data = folder();
    tool("build/tools/seed.js", [], { UVREL_DATA: data });
    const db = new Database(join(data, "uvrel.sqlite"));
    db.exec("BEGIN EXCLUSIVE");
    expect(await refused({ UVREL_DATA: data })).toContain("locked by another program");
    db.close();
  });

  test("a database that cannot be written", async () => {
    const data = folder();
    chmodSync(data, 0o555);
    // Root may write everything, so the server is started as nobody.
    const nobody = process.getuid?.() === 0 ? { uid: 65_534, gid: 65_534 } : {};
    const { says, code } = await serve({ UVREL_DATA: data, PORT: "0" }, nobody);
    expect(await code).not.toBe(0);
    expect(says()).toContain("cannot be written");
  });

  test("a data folder that is a file", async () => {
    const file = join(folder(), "data");
    writeFileSync(file, "");
    expect(await refused({ UVREL_DATA: file })).toMatch(/names a file|cannot be written/);
  });

  test("a port in use, and a port that is none", async () => {
    const other = createServer().listen(0, "127.0.0.1");
    await new Promise((resolve) => other.once("listening", resolve));
    const { port } = other.address() as { port: number };
    expect(await refused({ PORT: String(port) })).toContain(`Port ${port} is in use`);
    other.close();
    expect(await refused({ PORT: "harbour" })).toContain("PORT is “harbour”; it must be a whole number");
  });
});

test("simulate prints readings, waveforms and a netlist that ngspice runs to the same volts", () => {
  const machine = ["simulate", "corvane-ferrel-650", "--fault", "regulator.diode-open,at=1>B+"];
  const readings = JSON.parse(uvrel([...machine, "--test", "charge.volts~~5000~normal", "--test", "regulator.diode~1>B+"]).stdout) as {
    value: number | string;
  }[];
  expect(readings.map(({ value }) => value)).toEqual([expect.closeTo(14.3, 1), "OL"]);

  const csv = uvrel([...machine, "--test", "stator.acVolts", "--rpm", "3000", "--format", "csv"])
    .stdout.trim()
    .split("\r\n");
  expect(csv[0]).toBe("test,at,rpm,loads,value,notes");
  expect(csv.slice(1).map((line) => line.split(",").slice(0, 3).join(","))).toEqual(["1-2", "2-3", "3-1"].map((pair) => `stator.acVolts,${pair},3000`));

  const named = ["simulate", "--sheet", "mossgate-pavilion-12", "--test", "stator.dcVolts"];
  const [idle, fast] = JSON.parse(uvrel(named).stdout) as { at: string; value: number }[];
  expect([idle?.at, (fast?.value ?? 0) > 2 * (idle?.value ?? 0)]).toEqual(["D", true]);
  expect(uvrel([...named, "mossgate-pavilion-12"]).stderr).toMatch(/^sheet: was given twice/);
  expect(uvrel(["simulate", "--test", "battery.rest"]).stderr).toMatch(/^sheet: is missing/);

  const wave = uvrel([...machine, "--test", "charge.volts~~5000~normal", "--wave", "leg:1,leg:2 @battery"]).stdout;
  expect(wave).toMatch(/^seconds,"leg:1,leg:2",@battery\r\n0,/);

  const netlist = join(folder(), "machine.cir");
  writeFileSync(
    netlist,
    uvrel([...machine, "--test", "charge.volts~~1200~normal", "--spice"]).stdout.replace(/^\.end$/m, ".meas tran seen avg v(show1) from=0.36 to=0.4\n.end"),
  );
  const run = spawnSync("ngspice", ["-b", netlist], { encoding: "utf8" });
  const theirs = Number(/seen\s*=\s*([\d.e+-]+)/.exec(run.stdout)?.[1]);
  const [ours] = JSON.parse(uvrel([...machine, "--test", "charge.volts~~1200~normal"]).stdout) as { value: number }[];
  expect(Math.abs(theirs - (ours?.value ?? 0))).toBeLessThan(0.05);
});

test("simulate names what it cannot take, a line a field, and says what is absurd", () => {
  const bad = uvrel([
    "simulate",
    "corvane-ferrel-650",
    "--fault",
    "regulator.sense-open",
    "--test",
    "horn.volts",
    "--rpm",
    "quick",
    "--loads",
    "some",
    "--format",
    "xml",
  ]);
  expect(bad.status).toBe(2);
  expect(bad.stderr.split("\n").map((line) => line.split(":")[0])).toEqual(expect.arrayContaining(["faults.0.fault", "test.0", "rpm", "loads", "format"]));
  expect(uvrel(["simulate", "no-such-machine"]).stderr).toMatch(/^sheet: there is no sheet “no-such-machine”/);
  expect(uvrel(["simulate", "corvane-ferrel-650", "--test", "battery.rest", "--wave", "leg:1"]).stderr).toMatch(/engine stopped/);
  expect(uvrel(["simulate", "corvane-ferrel-650", "--test", "charge.volts", "--wave", "leg:9"]).stderr).toMatch(/^wave: “leg:9” is no point/);
  const cold = uvrel(["simulate", "corvane-ferrel-650", "--ambient=-45", "--test", "battery.rest"]);
  expect(cold.status).toBe(0);
  expect(cold.stderr).toMatch(/colder than a battery starts at/);

  const sheet = join(folder(), "sheet.json");
  writeFileSync(sheet, "{ not json");
  expect(uvrel(["simulate", sheet]).stderr).toMatch(/is not JSON/);
  writeFileSync(sheet, JSON.stringify({ id: "x" }));
  expect(uvrel(["simulate", sheet]).stderr).toMatch(/maker: is missing/);
});

test("tables are exported from one workshop and imported into another, whole or not at all; papers are written", () => {
  // Some thirty programs are started one after another.
  const [here, there] = [folder(), folder()];
  tool("build/tools/seed.js", [], { UVREL_DATA: here });
  const files = ["sheets", "units", "jobs", "repairs", "readings"].map((table, k) => {
    const format = ["csv", "ndjson", "parquet"][k % 3] as string;
    const file = join(here, `${table}.${format}`);
    const out = uvrel(["export", table, "--format", format, "--out", file], "", { UVREL_DATA: here });
    expect(out.stderr).toBe("");
    expect(out.stdout).toMatch(/holds [\d,]+ rows\.\n$/);
    return file;
  });
  // Readings hang on their jobs: without those nothing is kept.
  const early = uvrel(["import", files[4] as string], "", { UVREL_DATA: there });
  expect(early.status).toBe(2);
  expect(early.stderr).toMatch(/row 1, job: names the job \S+, which is not here: bring in the jobs first\n/);
  expect(early.stderr).toMatch(/Nothing was kept\.\n$/);
  for (const file of files) {
    expect(uvrel(["import", file, "--look"], "", { UVREL_DATA: there }).stdout).toMatch(/ would be new, 0 changed, 0 here already\.\n$/);
    expect(uvrel(["import", file], "", { UVREL_DATA: there }).stdout).toMatch(/: [1-9]\d* are new, 0 changed, 0 here already\.\n$/);
    expect(uvrel(["import", file], "", { UVREL_DATA: there }).stdout).toMatch(/: 0 are new, 0 changed, [1-9]\d* here already\.\n$/);
  }
  const onlyOne = uvrel(["export", "jobs", "--machine", "SK-310", "--format", "ndjson"], "", { UVREL_DATA: there });
  expect(
    onlyOne.stdout
      .trim()
      .split("\n")
      .map((line) => (JSON.parse(line) as { machine: string }).machine),
  ).toEqual(["SK-310", "SK-310"]);
  for (const [args, says] of [
    [["export", "jobs", "--from", "yesterday"], /^from: Must be a day/],
    [["export", "jobs", "--out", "/no/such/folder/x.csv"], /there is no such folder\. Nothing is left of it\.\n$/],
    [["import", join(here, "nothing.csv")], /there is no such file\n$/],
    [["paper", "report", "first", join(here, "x.pdf")], /^of: “first” is no number of a job\n$/],
    [["paper", "log", "nobody", join(here, "x.pdf")], /^of: there is no machine nobody on the books\n$/],
  ] as const) {
    const refused = uvrel([...args], "", { UVREL_DATA: there });
    expect(refused.stderr).toMatch(says);
    expect(refused.status).toBe(2);
  }
  const paper = join(there, "log.pdf");
  expect(uvrel(["paper", "log", "SK-305", paper], "", { UVREL_DATA: there }).stdout).toBe(`${paper} is written.\n`);
  expect(readFileSync(paper).subarray(0, 5).toString()).toBe("%PDF-");
});
