import Papa from "papaparse";

/** Comma-separated text of a table, one header line, lines ended as RFC 4180 asks; no text in a cell begins like a formula. */
export function csvOf(fields: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  return `${Papa.unparse({ fields: [...fields], data: rows.map((row) => [...row]) }, { escapeFormulae: true })}\r\n`;
}
