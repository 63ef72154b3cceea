import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Before all tests of a run: everything they write, hundreds of workshops, goes into one folder that is removed with the run. */
export default function scratch() {
  const folder = mkdtempSync(join(tmpdir(), "uvrel-tests-"));
  process.env.TMPDIR = folder;
  process.on("exit", () => rmSync(folder, { recursive: true, force: true, maxRetries: 5 }));
}
