import { FAMILIES } from "./all";
import type { Family } from "./family";
import type { EarthedLook, GeneratorLook, Looks, UnitLook } from "./looks";
import { sameWires } from "./registry";

/** What eyes see of a charging system whose sheet nobody has, and which families that leaves. */

/** Answers so far; what nobody has looked at is left out. */
export interface Seen {
  wires?: number | undefined;
  unit?: UnitLook | undefined;
  generator?: GeneratorLook | undefined;
  earthed?: EarthedLook | undefined;
}

/** The families that what was seen leaves possible, a family that stands for several of them before these. */
export function familiesSeen({ wires, unit, generator, earthed }: Seen): Family[] {
  const fits = FAMILIES.filter(
    ({ looks }) =>
      (wires === undefined || looks.wires.includes(wires)) &&
      (unit === undefined || looks.unit.includes(unit)) &&
      (generator === undefined || looks.generator === generator) &&
      (earthed === undefined || looks.earthed === earthed),
  );
  // Kinds of unit on the same wires are left to the readings where one family stands for all of them.
  const open = fits.filter(({ mayBe }) => mayBe.length > 0);
  return fits.filter((family) => family.mayBe.length > 0 || !open.some(({ terminals }) => sameWires(terminals, family.terminals)));
}

/** What would tell the families that are left apart, the cheapest first; nothing where one is left. */
export function tellingNext(left: readonly Family[]): string | undefined {
  const differ = (of: (looks: Looks) => string): boolean => new Set(left.map(({ looks }) => of(looks))).size > 1;
  if (left.length < 2) return undefined;
  if (differ(({ generator }) => generator)) return "Look at the generator itself: brushes on rings, brushes on a barred drum, or a flywheel.";
  if (differ(({ earthed }) => earthed)) return "Read ohms from each wire to clean engine metal, unplugged: open on all, or a few ohms on one.";
  if (differ(({ wires }) => wires.join())) return "Count the wires that come out of the engine.";
  if (differ(({ unit }) => unit.join())) return "Follow the wires to what they end in.";
  return "Read ohms between every two wires: three alike are three-phase; two that add up to the third have a common wire.";
}
