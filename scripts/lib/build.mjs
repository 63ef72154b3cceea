import { existsSync, readdirSync, statSync, writeFileSync } from "node:fs";
import { bin, ROOT, run } from "./run.mjs";

const SOURCES = [
  "app",
  "bench",
  "cli",
  "core",
  "demo",
  "formats",
  "public",
  "server",
  "store",
  "workers",
  "package-lock.json",
  "react-router.config.ts",
  "vite.config.ts",
  "vite.tools.config.ts",
];
const STAMP = `${ROOT}build/.stamp`;

/** Builds pages, server and command line when a source is newer than the last build. */
export function build() {
  if (existsSync(STAMP) && statSync(STAMP).mtimeMs >= Math.max(...SOURCES.map((source) => newest(`${ROOT}${source}`)))) return;
  process.stdout.write("Building.\n");
  run(bin("react-router"), ["build"], { NODE_ENV: "production" });
  run(bin("vite"), ["build", "--config", "vite.tools.config.ts", "--logLevel", "warn"], { NODE_ENV: "production" });
  writeFileSync(STAMP, "");
}

function newest(path) {
  const entry = statSync(path);
  if (!entry.isDirectory()) return entry.mtimeMs;
  return Math.max(entry.mtimeMs, ...readdirSync(path).map((name) => newest(`${path}/${name}`)));
}
