import type { Sheet } from "../../core/machine/sheet";
import type { Tracks } from "./Scope";

/** Hands a text to the browser as a file. */
function save(text: string, name: string, type: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}

/** What the scope shows, as comma-separated text: seconds, then one column a channel. */
export async function saveWaves({ step, ailing }: Tracks, channels: readonly string[], sheet: Sheet): Promise<void> {
  const { csvOf } = await import("../../formats/table");
  const length = ailing[0]?.length ?? 0;
  const rows = Array.from({ length }, (_, i) => [Number((i * step).toPrecision(9)), ...ailing.map((track) => Number((track[i] ?? 0).toPrecision(7)))]);
  save(csvOf(["seconds", ...channels], rows), `${sheet.id}-waves.csv`, "text/csv");
}

/** The circuit in the SPICE format. */
export function saveNetlist(text: string, sheet: Sheet): void {
  save(text, `${sheet.id}.cir`, "text/plain");
}
