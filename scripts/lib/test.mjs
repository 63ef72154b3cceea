import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "./build.mjs";
import { CHECKS } from "./commands.mjs";
import { bin, tryRun } from "./run.mjs";
import { ensureSystem } from "./system.mjs";

/** All tests: checks, unit tests, the built app in a browser. The last line adds them up. */
export function test() {
  ensureSystem();
  const reports = mkdtempSync(join(tmpdir(), "uvrel-test-"));
  let passed = 0;
  let failed = 0;
  const count = (good, bad) => {
    passed += good;
    failed += bad;
  };
  for (const [name, passes] of CHECKS) {
    const good = passes();
    process.stdout.write(`${name}: ${good ? "passed" : "failed"}\n`);
    count(good ? 1 : 0, good ? 0 : 1);
  }
  build();
  // Workshops of tests that did not end well stay behind; they go with the reports.
  const unit = join(reports, "unit.json");
  tryRun("node", ["--experimental-vm-modules", "--disable-warning=ExperimentalWarning", "node_modules/jest/bin/jest.js", "--json", `--outputFile=${unit}`], {
    TMPDIR: reports,
  });
  count(...unitCounts(unit));
  const pages = join(reports, "pages.json");
  tryRun(bin("playwright"), ["test", "--reporter=list,json"], { PLAYWRIGHT_JSON_OUTPUT_NAME: pages, TMPDIR: reports });
  count(...pageCounts(pages));
  rmSync(reports, { recursive: true, force: true });
  process.stdout.write(`${passed} passed, ${failed} failed\n`);
  if (failed > 0) process.exitCode = 1;
}

/** A runner that left no report failed as a whole. */
function unitCounts(report) {
  if (!existsSync(report)) return [0, 1];
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(report, "utf8"));
  return [numPassedTests, numFailedTests + numRuntimeErrorTestSuites];
}

function pageCounts(report) {
  if (!existsSync(report)) return [0, 1];
  const { stats, errors } = JSON.parse(readFileSync(report, "utf8"));
  return [stats.expected, stats.unexpected + stats.flaky + errors.length];
}
