import Papa from "papaparse";

/**
 * Comma-separated text of a table, one header line, lines ended as RFC 4180 asks.
 * @param guarded whether text that somebody wrote is marked where a spreadsheet would run it as a formula; names of our own are not
 */
export function csvOf(fields: readonly string[], rows: readonly (readonly (string | number)[])[], guarded = false): string {
  return `${Papa.unparse({ fields: [...fields], data: rows.map((row) => [...row]) }, { escapeFormulae: guarded })}\r\n`;
}
