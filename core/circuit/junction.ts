/**
 * A rectifying junction with its series resistance: v = n·Vt·ln(i/Is + 1) + Rs·i (Shockley). The time-domain solver uses its
 * chord between two working currents, so that the diode dial and the running machine speak of the same part.
 */
export interface Junction {
  /** Saturation current, A. */
  saturation: number;
  /** Emission factor times thermal voltage, V. */
  slope: number;
  /** Series resistance, Ω. */
  ohms: number;
  /** Current it carries at work, A: the chord is drawn through a fifth and most of it. */
  workAmps: number;
}

/** Shares of the working current between which the chord is drawn: its errors below, between and above them are alike. */
const CHORD = [0.2, 0.85] as const;

/** Fall of the forward volts with temperature at constant current (typical of silicon), V/K. */
const VOLTS_PER_K = -0.002;

/**
 * A junction from what a data sheet tells.
 * @param volts forward volts at 1 mA and 25 °C
 * @param slope n·Vt in V
 * @param ohms series resistance
 * @param workAmps current it carries at work
 * @param celsius temperature of the junction
 */
export function junctionOf(volts: number, slope: number, ohms: number, workAmps: number, celsius = 25): Junction {
  const at = volts + VOLTS_PER_K * (celsius - 25);
  return { saturation: 0.001 / (Math.exp(at / slope) - 1), slope, ohms, workAmps };
}

/** Forward volts at a current, V. */
export function forwardVolts({ saturation, slope, ohms }: Junction, amps: number): number {
  return slope * Math.log(amps / saturation + 1) + ohms * amps;
}

/** The junction as volts and ohms in series: the chord of its curve between two working currents. */
export function chordOf(junction: Junction): { volts: number; ohms: number } {
  const [low, high] = [CHORD[0] * junction.workAmps, CHORD[1] * junction.workAmps];
  const at = [forwardVolts(junction, low), forwardVolts(junction, high)] as const;
  const ohms = (at[1] - at[0]) / (high - low);
  return { volts: at[0] - ohms * low, ohms };
}

/**
 * Current and slope at given volts, by Newton's method on the series pair; exact for any volts, so that a solver around it
 * needs no limit on its steps.
 * @returns amps, and siemens = di/dv
 */
export function conduct({ saturation, slope, ohms }: Junction, volts: number): { amps: number; siemens: number } {
  if (volts <= 0) {
    const exp = Math.exp(volts / slope);
    return { amps: saturation * (exp - 1), siemens: (saturation * exp) / slope };
  }
  // Two starts bracket the root: the bare junction for small volts, the bare resistance beyond the knee.
  const knee = slope * Math.log(slope / (saturation * ohms) + 1);
  let amps = volts < knee ? saturation * (Math.exp(volts / slope) - 1) : (volts - knee) / ohms;
  for (let round = 0; round < 60; round++) {
    const miss = slope * Math.log(amps / saturation + 1) + ohms * amps - volts;
    const next = amps - miss / (slope / (amps + saturation) + ohms);
    const stepped = next <= -saturation ? amps / 2 : next;
    if (Math.abs(stepped - amps) <= 1e-12 + 1e-10 * Math.abs(stepped)) {
      amps = stepped;
      break;
    }
    amps = stepped;
  }
  return { amps, siemens: 1 / (slope / (amps + saturation) + ohms) };
}
