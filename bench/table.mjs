import { readFileSync, writeFileSync } from "node:fs";

const FILE = "docs/benchmarks.md";

/** A table of what was measured: rows of what, value, what must hold (empty: nothing), and whether it does. */
export function tableOf(title, rows) {
  return [
    `| ${title} | value | must hold | |`,
    "|---|---|---|---|",
    ...rows.map(([what, value, must, holds]) => `| ${what} | ${value} | ${must} | ${must === "" ? "" : holds ? "holds" : "**falls short**"} |`),
  ].join("\n");
}

/** Puts a text between its marks in the document. @param mark as in `<!-- pages -->` … `<!-- /pages -->` */
export function writeBlock(mark, block) {
  const [start, end] = [`<!-- ${mark} -->`, `<!-- /${mark} -->`];
  const text = readFileSync(FILE, "utf8");
  writeFileSync(FILE, `${text.slice(0, text.indexOf(start))}${start}\n${block}\n${text.slice(text.indexOf(end))}`);
}
