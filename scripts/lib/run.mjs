import { spawn, spawnSync } from "node:child_process";
import { fileURLToPath } from "node:url";

/** The project's own folder. */
export const ROOT = fileURLToPath(new URL("../../", import.meta.url));

/** A reason to stop that one sentence explains. */
export class Stop extends Error {}

/** Runs a program to its end, its output passed through; true when it ended well. */
export function tryRun(program, args, env = {}) {
  const result = spawnSync(program, args, { cwd: ROOT, stdio: "inherit", env: { ...process.env, ...env } });
  return result.status === 0;
}

/** As `tryRun`, and stops when the program fails. */
export function run(program, args, env = {}) {
  if (!tryRun(program, args, env)) throw new Stop(`${[program, ...args].join(" ")} did not end well; see above.`);
}

/** Path of a program that came with the dependencies. */
export function bin(name) {
  return `${ROOT}node_modules/.bin/${name}`;
}

/** Runs a program that stays up, and hands the signals on to it. */
export function stay(program, args, env = {}) {
  const child = spawn(program, args, { cwd: ROOT, stdio: "inherit", env: { ...process.env, ...env } });
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
  child.on("exit", (code, signal) => {
    process.exitCode = signal ? 0 : (code ?? 1);
  });
}
