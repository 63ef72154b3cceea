/** Where along the windings the case is touched, from ohms leg to leg and leg to case. */
interface GroundTouch {
  /** The leg whose winding touches (wye), or the pair (delta); `neutral` when all legs are alike. */
  winding: string;
  /** How far in from the leg's own terminal, 0 to 1. */
  fraction: number;
  /** Half-width of the fraction from the meter's last digit. */
  uncertainty: number;
}

interface Ohms {
  /** Leg to leg, Ω: a–b, b–c, c–a. */
  ab: number;
  bc: number;
  ca: number;
  /** Leg to case, Ω. */
  a: number;
  b: number;
  c: number;
}

/**
 * Locates the touch point of a grounded winding. Lead resistance cancels, because only differences enter.
 * Wye, faulted leg a the lowest: x = ½(R_ag − R_bg + R_ab)/R_a with R_a = (R_ab + R_ca − R_bc)/2.
 * Delta, winding a–b holding the two lowest legs: x = ½[1 + (R_ag − R_bg)/R_ab].
 * Source: Kirchhoff's laws on the resistive network.
 * @param legs names of a, b, c
 * @param resolution last digit of the meter, Ω
 */
export function locateGroundTouch(winding: "wye" | "delta", legs: readonly [string, string, string], ohms: Ohms, resolution: number): GroundTouch {
  const toCase = [ohms.a, ohms.b, ohms.c];
  const spread = Math.max(...toCase) - Math.min(...toCase);
  const pairs = [ohms.ab, ohms.bc, ohms.ca];
  const pairMean = (ohms.ab + ohms.bc + ohms.ca) / 3;
  const i = toCase.indexOf(Math.min(...toCase));
  const at = <T>(list: readonly T[], k: number): T => list[((k % 3) + 3) % 3] as T;
  if (winding === "wye") {
    const own = (at(pairs, i) + at(pairs, i - 1) - at(pairs, i + 1)) / 2;
    const uncertainty = own > 0 ? Math.min(1, (0.5 * resolution) / own) : 1;
    if (spread <= Math.max(resolution, 0.02 * pairMean)) return { winding: "neutral", fraction: 1, uncertainty };
    const others = (at(toCase, i + 1) + at(toCase, i + 2)) / 2;
    const fraction = own > 0 ? (0.5 * (at(toCase, i) - others + (at(pairs, i) + at(pairs, i - 1)) / 2)) / own : 0;
    return { winding: at(legs, i), fraction: clamp(fraction), uncertainty };
  }
  const far = toCase.indexOf(Math.max(...toCase));
  const [p, q] = [(far + 1) % 3, (far + 2) % 3];
  const between = at(pairs, p);
  const fraction = between > 0 ? 0.5 * (1 + (at(toCase, p) - at(toCase, q)) / between) : 0.5;
  return {
    winding: `${at(legs, p)}-${at(legs, q)}`,
    fraction: clamp(fraction),
    uncertainty: between > 0 ? Math.min(1, (0.5 * resolution) / between) : 1,
  };
}

/** Says a touch point in workshop words, no finer than the meter allows. */
export function touchWords(touch: GroundTouch): string {
  if (touch.winding === "neutral") return "at the neutral or in the lead, all legs alike";
  const name = touch.winding.includes("-") ? `winding ${touch.winding}` : `leg ${touch.winding}`;
  if (touch.uncertainty > 0.2) return `${name}; the meter's last digit is too coarse to say how far in`;
  const pair = touch.winding.split("-");
  const from = pair.length > 1 ? `from leg ${pair[0]}` : "from the lead";
  return `${name}, ${fractionWords(touch.fraction)} ${from}`;
}

function fractionWords(x: number): string {
  if (x < 0.1) return "right at the terminal, counted";
  if (x < 0.29) return "about a quarter in";
  if (x < 0.42) return "about a third in";
  if (x < 0.58) return "about half way in";
  if (x < 0.71) return "about two thirds in";
  return "near the far end, counted";
}

function clamp(x: number): number {
  return Math.min(1, Math.max(0, x));
}
