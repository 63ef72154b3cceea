/** A meter as it matters to judging: its leads, its last digit on ohms, how it averages AC, when its diode dial gives up. */
export interface Meter {
  name: string;
  /** Resistance of both leads together, Ω: what it shows with the probes shorted. */
  leadOhms: number;
  /** Size of the last digit on the lowest ohms range, Ω. */
  ohmsResolution: number;
  trueRms: boolean;
  /** Open-circuit volts of the diode dial; readings near it are the open line. */
  diodeMaxVolts: number;
}

/** What is assumed of a meter nobody described: a common handheld. */
export const ASSUMED_METER: Meter = { name: "common handheld", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 };
