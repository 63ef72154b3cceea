import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { brotliCompressSync } from "node:zlib";
import { bin, ROOT, run } from "./run.mjs";

const SOURCES = [
  "app",
  "bench",
  "cli",
  "core",
  "demo",
  "formats",
  "meters",
  "papers",
  "public",
  "server",
  "store",
  "workers",
  "package-lock.json",
  "package.json",
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
  pack(`${ROOT}build/client/assets`);
  run(bin("vite"), ["build", "--config", "vite.tools.config.ts", "--logLevel", "warn"], { NODE_ENV: "production" });
  writeFileSync(STAMP, "");
}

/** Lays a small copy beside every script and style: packed once and well, where a server packing at each request packs fast and badly. */
function pack(folder) {
  for (const name of readdirSync(folder).filter((one) => /\.(js|css)$/.test(one)))
    writeFileSync(`${folder}/${name}.br`, brotliCompressSync(readFileSync(`${folder}/${name}`)));
}

function newest(path) {
  const entry = statSync(path);
  if (!entry.isDirectory()) return entry.mtimeMs;
  return Math.max(entry.mtimeMs, ...readdirSync(path).map((name) => newest(`${path}/${name}`)));
}
