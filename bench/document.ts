import { readFileSync, writeFileSync } from "node:fs";

const FILE = "docs/benchmarks.md";

/** Puts what a benchmark measured between its marks in the document. @param mark as in `<!-- engine -->` … `<!-- /engine -->` */
export function writeBlock(mark: string, block: string): void {
  const [start, end] = [`<!-- ${mark} -->`, `<!-- /${mark} -->`];
  const text = readFileSync(FILE, "utf8");
  writeFileSync(FILE, `${text.slice(0, text.indexOf(start))}${start}\n${block}\n${text.slice(text.indexOf(end))}`);
}
