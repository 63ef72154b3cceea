import type { Chemistry } from "../battery/charge";
import type { Sheet } from "../machine/sheet";
import { TOOLS, type ToolId } from "./tools";

/** What every search takes. */
const ALWAYS = ["Multimeter, its own battery fresh; leads shorted read near zero", "Clips that hold a probe", "Contact cleaner and dielectric grease"];

/** What protects hands and eyes where there is no acid. */
const GUARDS: Partial<Record<Chemistry, string>> = { "lithium-iron": "Insulated gloves", capacitor: "Gloves: hot cases" };

/** What is laid ready before anything comes off: the shop's own tools, what the sheet's ways in ask for, and what protects hands and eyes. */
export function layReady(sheet: Pick<Sheet, "access" | "battery" | "loose">, tools: readonly ToolId[]): string[] {
  const own = tools.map((id) => TOOLS[id]);
  const guards = GUARDS[sheet.battery.chemistry] ?? "Goggles and gloves: acid, hot cases";
  if (sheet.loose) return [...ALWAYS.slice(0, 2), ...own, guards];
  const opening = (sheet.access ?? []).flatMap(({ tools: named }) => named?.split(",").map((tool) => capital(tool.trim())) ?? []).filter(Boolean);
  return [...ALWAYS, ...own, ...new Set(opening), guards];
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
