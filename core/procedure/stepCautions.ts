import type { Kind } from "../machine/kind";
import type { Sheet } from "../machine/sheet";
import { testOf } from "./catalogue";
import type { CautionId } from "./cautions";
import { looseCautions } from "./loose";
import type { Step } from "./step";

/** Cautions that a kind of machine adds to every running test. */
const KIND_CAUTIONS: Partial<Record<Kind, CautionId>> = { outboard: "marine", boat: "marine", mower: "mower", snowmobile: "track" };
/** Kinds whose flywheel often makes the ignition's volts as well. */
const SHARED_STATOR: readonly Kind[] = ["outboard", "snowmobile", "scooter", "atv", "mower"];

/** The cautions that stand beside a step on this machine, on the bench and on every paper about it. */
export function cautionsOf(step: Step, sheet: Sheet): CautionId[] {
  const test = testOf(step.test);
  const running = test.setUp.engine === "running" || test.setUp.engine === "cranking";
  const kind = sheet.kind && KIND_CAUTIONS[sheet.kind];
  const lithium = sheet.battery.chemistry === "lithium-iron" && test.group === "battery";
  if (sheet.loose) return [...looseCautions(test.cautions), ...(lithium ? (["lithium"] as const) : [])];
  const shared = test.group === "stator" && test.setUp.engine === "running" && sheet.kind !== undefined && SHARED_STATOR.includes(sheet.kind);
  return [...test.cautions, ...(running && kind ? [kind] : []), ...(shared ? (["ignition"] as const) : []), ...(lithium ? (["lithium"] as const) : [])];
}
