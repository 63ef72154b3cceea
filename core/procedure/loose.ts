import type { Loose } from "../machine/loose";
import type { CautionId } from "./cautions";
import type { Test } from "./test";

/** Which tests a part without its machine can be put to. */
const TESTS: Record<Loose, readonly string[]> = {
  battery: ["battery.rest", "battery.cell", "battery.load", "battery.conductance", "battery.crankingAmps", "battery.innerOhms", "inspect.fluid"],
  stator: ["stator.resistance", "stator.toGround", "stator.diode"],
  regulator: ["regulator.diode"],
  generator: ["inspect.brushes", "field.resistance", "stator.resistance", "stator.toGround", "generator.field", "generator.armature", "generator.motoring"],
};

/** Whether a test can be taken on a part without its machine. */
export function isOfLoose({ id }: Pick<Test, "id">, loose: Loose): boolean {
  return TESTS[loose].includes(id);
}

/** What can hurt somebody at a part by itself; the other cautions are of the machine round it. */
const HARMS: readonly CautionId[] = ["hydrogen", "acid", "load-tester", "generator-fixed", "polarise", "no-sparks"];

/** Those of a test's cautions that hold for a part by itself. */
export function looseCautions(cautions: readonly CautionId[]): CautionId[] {
  return cautions.filter((id) => HARMS.includes(id));
}

/** How the part lies there, in place of what is done with a machine. */
const LIES: Record<Loose, string> = {
  battery: "On the bench, nothing on its posts.",
  stator: "On the bench, its core bare and its plug open.",
  regulator: "In the hand, its plugs open and clean.",
  generator: "On the bench, its wires open.",
};

/** What is done with the part itself, in tests that ask for it. */
const DONE: Record<string, string> = {
  "battery.load": "Load it at half the rated cranking amps for 15 s; read at the end.",
  "generator.motoring": "Clamp it in a vice. Join F to the housing, then touch A to the live post of a good battery, seconds only.",
  "inspect.brushes": "Take the brush holder or its cover band off.",
};

/** How a loose part is made ready for a test. */
export function looseSetUp(test: string, loose: Loose): string {
  return [LIES[loose], DONE[test]].filter(Boolean).join(" ");
}
