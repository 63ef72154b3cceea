import Papa from "papaparse";

/** Comma-separated text of a table, one header line, lines ended as RFC 4180 asks. */
export function csvOf(fields: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  return `${Papa.unparse({ fields: [...fields], data: rows.map((row) => [...row]) })}\r\n`;
}
