import type { Test } from "./test";

/** Where an instrument's red lead sits, or that it is a clamp. */
export const JACKS = {
  volts: "V and Ω jack",
  amps: "amps jack",
  milliamps: "milliamps jack",
  clamp: "clamp, closed round the wire",
} as const;

export type Jack = keyof typeof JACKS;

export const JACK_IDS = Object.keys(JACKS) as [Jack, ...Jack[]];

/** What of a test says by which jack it is read. */
type Dialled = Pick<Test, "dial" | "unit">;

/** Whether a test is read on a meter with the lead in a jack. A clamp does not see the milliamps of a sleeping machine. */
export function isReadIn(jack: Jack, { dial, unit }: Dialled): boolean {
  if (dial === "eyes" || dial === "tester") return false;
  if (dial !== "A DC") return jack === "volts";
  return unit === "mA" ? jack === "amps" || jack === "milliamps" : jack === "clamp";
}

/** Where the lead belongs for a test: a draw begins in the jack that bears most, so that no fuse goes. */
export function jackFor({ dial, unit }: Dialled): Jack {
  if (dial !== "A DC") return "volts";
  return unit === "mA" ? "amps" : "clamp";
}

/** What is to be said before the probes of a lead in the wrong jack touch anything: in a jack for amps a meter is a dead short across volts. */
export function wrongJackWords(jack: Jack, test: Dialled): string {
  const wanted = jackFor(test);
  if (wanted === "clamp") return "This step is read with a clamp, closed round the cable: no lead is parted for it.";
  if (jack === "clamp") return `This step is read with probes, the red lead in the ${JACKS[wanted]}.`;
  if (wanted === "volts")
    return `The red lead is in the ${JACKS[jack]} still: across volts the meter is a dead short there. Move it to the ${JACKS.volts} before the probes touch anything.`;
  return `Key out. Move the red lead to the ${JACKS.amps} before the cable is parted: the meter lies in series now.`;
}
