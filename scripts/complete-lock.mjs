// Completes package-lock.json after it has changed. A registry mirror may lack some packages' binaries for other systems; npm
// then leaves them out of the lock and `npm ci` calls the lock incomplete. Each missing one is entered with its version and
// the systems it is for, read from its name, so that `npm ci` passes over it where it does not belong.
import { readFileSync, writeFileSync } from "node:fs";

const SYSTEMS = ["aix", "android", "darwin", "freebsd", "linux", "netbsd", "openbsd", "openharmony", "sunos", "win32"];
const PROCESSORS = ["arm", "arm64", "ia32", "loong64", "mips64el", "ppc64", "riscv64", "s390x", "wasm32", "x64"];

const file = new URL("../package-lock.json", import.meta.url);
const lock = JSON.parse(readFileSync(file, "utf8"));
let added = 0;
for (const [path, entry] of Object.entries(lock.packages)) {
  for (const [name, range] of Object.entries(entry.optionalDependencies ?? {})) {
    if (isLocked(path, name)) continue;
    const words = name.split(/[/-]/);
    const os = SYSTEMS.filter((system) => words.includes(system));
    const cpu = PROCESSORS.filter((processor) => words.includes(processor));
    if (os.length === 0 && cpu.length === 0) continue;
    const libc = words.some((word) => word.startsWith("musl"))
      ? ["musl"]
      : words.some((word) => word.startsWith("gnu")) && os.includes("linux")
        ? ["glibc"]
        : [];
    lock.packages[`node_modules/${name}`] = {
      version: range.replace(/^[^\d]*/, ""),
      ...(cpu.length > 0 ? { cpu } : {}),
      ...(entry.dev ? { dev: true } : {}),
      ...(libc.length > 0 ? { libc } : {}),
      optional: true,
      ...(os.length > 0 ? { os } : {}),
    };
    added += 1;
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
process.stdout.write(`${added} entries added\n`);

/** True when a package found from that place in the tree is locked. */
function isLocked(path, name) {
  const own = path === "" ? `node_modules/${name}` : `${path}/node_modules/${name}`;
  return own in lock.packages || `node_modules/${name}` in lock.packages;
}
