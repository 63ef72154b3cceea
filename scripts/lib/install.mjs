import { existsSync, readFileSync, statSync } from "node:fs";
import { ROOT, run } from "./run.mjs";

/** Installs the dependencies when they are missing or the lock has changed since. */
export function install() {
  const mark = `${ROOT}node_modules/.package-lock.json`;
  if (existsSync(mark) && statSync(mark).mtimeMs >= statSync(`${ROOT}package-lock.json`).mtimeMs) return;
  process.stdout.write("Installing what Uvrel is built from; the database driver is compiled, which takes a few minutes.\n");
  run("npm", ["ci", "--no-audit", "--no-fund"], headers());
}

/** Debian's own Node headers, when they match this Node: the driver then compiles without a download. */
function headers() {
  const version = "/usr/include/node/node_version.h";
  if (process.env.npm_config_nodedir || !existsSync(version)) return {};
  const text = readFileSync(version, "utf8");
  const part = (name) => new RegExp(`#define NODE_${name}_VERSION (\\d+)`).exec(text)?.[1];
  const found = `v${part("MAJOR")}.${part("MINOR")}.${part("PATCH")}`;
  return found === process.version ? { npm_config_nodedir: "/usr" } : {};
}
