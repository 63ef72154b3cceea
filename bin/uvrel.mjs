#!/usr/bin/env node
import { existsSync } from "node:fs";
import { fileURLToPath } from "node:url";

const built = new URL("../build/tools/uvrel.js", import.meta.url);
if (existsSync(fileURLToPath(built))) await import(built.href);
else {
  process.stderr.write("The command line is not built yet: run `npm run build` once.\n");
  process.exitCode = 1;
}
