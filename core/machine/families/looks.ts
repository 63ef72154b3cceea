/** How the machines of a family look to eyes and an ohmmeter. */

/** What stands between the generator and the battery. */
export const UNIT_LOOKS = {
  finned: "a finned block with a plug",
  blades: "a small block with three blades in a row",
  none: "nothing but a bulge or a sleeve in one lead",
  can: "a can or box with coils and contacts under its lid",
  "on-generator": "it sits on the generator itself",
} as const;
export type UnitLook = keyof typeof UNIT_LOOKS;

/** What is seen at the generator. */
export const GENERATOR_LOOKS = {
  flywheel: "it hides behind the flywheel or a cover",
  rings: "two brushes on smooth rings",
  commutator: "brushes on a barred copper drum",
} as const;
export type GeneratorLook = keyof typeof GENERATOR_LOOKS;

/** What an ohmmeter shows from the wires to clean engine metal, all unplugged. */
export const EARTHED_LOOKS = { none: "open on every wire", some: "a few ohms on a wire or two" } as const;
export type EarthedLook = keyof typeof EARTHED_LOOKS;

/** How a family's machines look. */
export interface Looks {
  /** Wires that come out of the engine, plugs for the field left out. */
  wires: readonly number[];
  unit: readonly UnitLook[];
  generator: GeneratorLook;
  earthed: EarthedLook;
}
