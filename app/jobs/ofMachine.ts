import { LOOSE } from "../../core/machine/loose";
import type { Sheet } from "../../core/machine/sheet";

/** What is on the bench: the machine by maker and model, or the part that came in without it. */
export function ofMachine({ maker, model, loose }: Pick<Sheet, "maker" | "model" | "loose">): string {
  const machine = `${maker} ${model}`;
  return loose ? `loose ${LOOSE[loose].toLowerCase()}, ${machine}` : machine;
}
