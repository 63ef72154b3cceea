import type { Sheet } from "../machine/sheet";
import { TOOLS, type ToolId } from "./tools";

/** What every search takes. */
const ALWAYS = ["Multimeter, its own battery fresh; leads shorted read near zero", "Clips that hold a probe", "Contact cleaner and dielectric grease"];

/** What is laid ready before anything comes off: the shop's own tools, what the sheet's ways in ask for, and what protects hands and eyes. */
export function layReady(sheet: Pick<Sheet, "access" | "battery" | "loose">, tools: readonly ToolId[]): string[] {
  const own = tools.map((id) => TOOLS[id]);
  const guards = sheet.battery.chemistry === "lithium-iron" ? "Insulated gloves" : "Goggles and gloves: acid, hot cases";
  if (sheet.loose) return [...ALWAYS.slice(0, 2), ...own, guards];
  const opening = (sheet.access ?? []).flatMap(({ tools: named }) => named?.split(",").map((tool) => capital(tool.trim())) ?? []).filter(Boolean);
  return [...ALWAYS, ...own, ...new Set(opening), guards];
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
