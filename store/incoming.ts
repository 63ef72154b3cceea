import { randomUUID } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";

/** Tables that somebody looks through before they are kept wait in a folder beside the database. */

/** So long a table waits to be kept, ms. */
const WAITS = 24 * 3_600_000;
const NAME = /^[0-9a-f-]{36}$/;

const folderOf = (data: string): string => join(data, "incoming");

/** Lays a table by. @returns the name by which it is taken up again */
export function layBy(data: string, bytes: Uint8Array, now: number): string {
  const folder = folderOf(data);
  mkdirSync(folder, { recursive: true });
  for (const name of readdirSync(folder)) if (now - statSync(join(folder, name)).mtimeMs > WAITS) rmSync(join(folder, name), { force: true });
  const name = randomUUID();
  writeFileSync(join(folder, name), bytes);
  return name;
}

/** A table that was laid by; undefined where it waits no longer. */
export function laidBy(data: string, name: string): Uint8Array | undefined {
  const file = join(folderOf(data), name);
  return NAME.test(name) && existsSync(file) ? readFileSync(file) : undefined;
}

/** Takes a table that was kept out of the folder. */
export function takeUp(data: string, name: string): void {
  if (NAME.test(name)) rmSync(join(folderOf(data), name), { force: true });
}
