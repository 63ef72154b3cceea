/** Whether a meter reads otherwise than the shop's others, on machines that were sound. */

/** One figure as a meter of the shop read it. */
export interface MeterFigure {
  meter: string;
  /** What it was read of: model, test, place, speed and loads; figures of one such kind are compared. */
  of: string;
  dial: "V" | "V AC" | "Ω";
  job: number;
  value: number;
}

/** How a meter reads on a dial against all others. */
interface MeterBias {
  meter: string;
  dial: MeterFigure["dial"];
  /** Share by which it reads higher than the others; its standard deviation after all that was read. */
  by: number;
  deviation: number;
  figures: number;
  jobs: number;
}

/** Before anything was read: meters of workshops lie within a percent or so; machines of one model differ by more, by dial. */
const METERS_APART = 0.006;
const MACHINES_APART: Record<MeterFigure["dial"], number> = { V: 0.008, "V AC": 0.04, Ω: 0.08 };
/** A bias is said from so many jobs, when it is so large and so sure. */
const SAID = { jobs: 8, least: 0.004, deviations: 2.5 } as const;

/**
 * The bias of every meter and dial: the mean of its figures' distance from what the others read of the same kind, shrunk towards none (a
 * normal mean with a normal prior; Gelman et al., Bayesian Data Analysis, 2.5). One job counts once, however many of its figures there are.
 */
export function meterBiases(figures: readonly MeterFigure[]): MeterBias[] {
  const kinds = new Map<string, MeterFigure[]>();
  for (const figure of figures) kinds.set(`${figure.dial} ${figure.of}`, [...(kinds.get(`${figure.dial} ${figure.of}`) ?? []), figure]);
  const apart = new Map<string, { meter: string; dial: MeterFigure["dial"]; jobs: Map<number, number[]>; figures: number }>();
  for (const of of kinds.values()) {
    for (const figure of of) {
      const others = of.filter(({ meter }) => meter !== figure.meter).map(({ value }) => value);
      const middle = others.reduce((sum, value) => sum + value, 0) / others.length;
      if (others.length === 0 || middle === 0) continue;
      const key = `${figure.meter} ${figure.dial}`;
      const entry = apart.get(key) ?? { meter: figure.meter, dial: figure.dial, jobs: new Map<number, number[]>(), figures: 0 };
      apart.set(key, entry);
      entry.jobs.set(figure.job, [...(entry.jobs.get(figure.job) ?? []), figure.value / middle - 1]);
      entry.figures++;
    }
  }
  return [...apart.values()].map(({ meter, dial, jobs, figures: count }) => {
    const means = [...jobs.values()].map((shares) => shares.reduce((sum, share) => sum + share, 0) / shares.length);
    const weight = means.length / MACHINES_APART[dial] ** 2;
    const precision = weight + 1 / METERS_APART ** 2;
    const mean = means.reduce((sum, share) => sum + share, 0) / means.length;
    return { meter, dial, by: (mean * weight) / precision, deviation: Math.sqrt(1 / precision), figures: count, jobs: means.length };
  });
}

/** The biases that are worth saying: large enough to turn a judgement, and too sure to be chance. */
export function biasesToSay(biases: readonly MeterBias[]): MeterBias[] {
  return biases
    .filter(({ by, deviation, jobs }) => jobs >= SAID.jobs && Math.abs(by) >= SAID.least && Math.abs(by) >= SAID.deviations * deviation)
    .sort((a, b) => Math.abs(b.by) - Math.abs(a.by));
}

/** "Meter 5 reads about 0.9 % low in volts: 31 readings of 12 jobs against those of the other meters." */
export function biasWords({ meter, dial, by, figures, jobs }: MeterBias): string {
  const size = `${(Math.abs(by) * 100).toFixed(1)} %`;
  return `${meter} reads about ${size} ${by < 0 ? "low" : "high"} on ${DIAL_WORDS[dial]}: ${figures} readings of ${jobs} jobs, against what the other meters read of the same models.`;
}

const DIAL_WORDS = { V: "volts DC", "V AC": "volts AC", Ω: "ohms" } as const;
