/** Reads a typed number, decimal comma allowed; an empty field is undefined, anything else NaN for the checks to refuse. */
export function typedNumber(value: FormDataEntryValue | null): number | undefined {
  const text = String(value ?? "").trim();
  if (text === "") return undefined;
  return /^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(text) ? Number(text.replace(",", ".")) : Number.NaN;
}
