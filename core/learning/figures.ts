import jstat from "jstat";
import type { Sheet, SheetBand } from "../machine/sheet";

/** What sound machines of a model say of its sheet's figures: a band that nearly all of them lie in, set beside the printed one. */

/** One figure of one sound machine. */
export interface SoundFigure {
  test: string;
  at: string | null;
  rpm: number | null;
  loads: string | null;
  value: number;
  /** Which machine it was; two figures of one say less than of two. */
  machine: string;
}

/** What is proposed for one band of a sheet. */
export interface Proposal {
  band: SheetBand;
  low: number | undefined;
  high: number | undefined;
  /** Figures and machines it rests on, and how many of the figures lie outside the printed band. */
  figures: number;
  machines: number;
  outside: number;
  way: "tighter" | "wider" | "moved";
}

/** Fewer figures, of fewer machines, draw no band. */
const FEWEST = { figures: 8, machines: 2 } as const;
/** The band is to hold so many of all sound machines, with such confidence. */
const HOLDS = { share: 1.96, confidence: 0.9 } as const;
/** A limit that moves by less than this share of the printed band's width stays. */
const MOVES = 0.12;
/** Beyond so many robust deviations a figure is a misread. */
const MISREAD = 4.5;

/**
 * Proposes limits for the bands of a sheet from figures of its sound machines: two-sided normal tolerance limits (Howe 1969), figures far
 * outside by the median absolute deviation left out.
 * @param figures corrected as they were judged
 */
export function proposalsFor(sheet: Pick<Sheet, "bands">, figures: readonly SoundFigure[]): Proposal[] {
  return sheet.bands.flatMap((band) => {
    if (band.low === undefined && band.high === undefined) return [];
    const ours = figures.filter(
      ({ test, at, rpm, loads }) =>
        test === band.test &&
        (band.at === undefined || band.at === at) &&
        (band.rpm === undefined || band.rpm === rpm) &&
        (band.loads === undefined ? loads !== "all" : band.loads === loads),
    );
    const kept = withoutMisreads(ours);
    const machines = new Set(kept.map(({ machine }) => machine)).size;
    if (kept.length < FEWEST.figures || machines < FEWEST.machines) return [];
    const limits = toleranceOf(kept.map(({ value }) => value));
    const found = compared(band, limits);
    if (!found) return [];
    const outside = kept.filter(({ value }) => (band.low !== undefined && value < band.low) || (band.high !== undefined && value > band.high)).length;
    return [{ band, ...found, figures: kept.length, machines, outside }];
  });
}

function withoutMisreads(figures: readonly SoundFigure[]): SoundFigure[] {
  const middle = medianOf(figures.map(({ value }) => value));
  // 1.4826 makes of the median absolute deviation a standard deviation.
  const spread = 1.4826 * medianOf(figures.map(({ value }) => Math.abs(value - middle)));
  return spread === 0 ? [...figures] : figures.filter(({ value }) => Math.abs(value - middle) <= MISREAD * spread);
}

function medianOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? (sorted[half] ?? 0) : ((sorted[half - 1] ?? 0) + (sorted[half] ?? 0)) / 2;
}

/** Limits that hold nearly all of the machines that these were drawn from. */
export function toleranceOf(values: readonly number[]): { low: number; high: number } {
  const count = values.length;
  const mean = values.reduce((sum, value) => sum + value, 0) / count;
  const deviation = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (count - 1));
  const reach = HOLDS.share * Math.sqrt(((count - 1) * (1 + 1 / count)) / jstat.chisquare.inv(1 - HOLDS.confidence, count - 1)) * deviation;
  return { low: mean - reach, high: mean + reach };
}

/** The limits that a band had better have, to its own number of places; nothing where they are as good as the printed ones. */
function compared(band: SheetBand, limits: { low: number; high: number }): Pick<Proposal, "low" | "high" | "way"> | undefined {
  const width = band.low !== undefined && band.high !== undefined ? band.high - band.low : Math.abs(band.low ?? band.high ?? 1);
  const places = Math.max(...[band.low, band.high].map((limit) => (limit === undefined ? 0 : (String(limit).split(".")[1]?.length ?? 0))), width < 1 ? 2 : 1);
  const step = 10 ** -places;
  const low = band.low === undefined ? undefined : Number((Math.floor(limits.low / step + 1e-9) * step).toFixed(places));
  const high = band.high === undefined ? undefined : Number((Math.ceil(limits.high / step - 1e-9) * step).toFixed(places));
  const shift = (now: number | undefined, printed: number | undefined): number => (now === undefined || printed === undefined ? 0 : (now - printed) / width);
  const [below, above] = [shift(low, band.low), shift(high, band.high)];
  if (Math.abs(below) < MOVES && Math.abs(above) < MOVES) return undefined;
  const wider = below < -MOVES / 2 || above > MOVES / 2;
  const tighter = below > MOVES / 2 || above < -MOVES / 2;
  return { low, high, way: wider && tighter ? "moved" : wider ? "wider" : "tighter" };
}

/** A sheet with what is proposed in the place of what is printed, and where it comes from. */
export function withProposals(sheet: Sheet, proposals: readonly Proposal[]): Sheet {
  return {
    ...sheet,
    bands: sheet.bands.map((band) => {
      const found = proposals.find((proposal) => proposal.band === band);
      if (!found) return band;
      const { low, high, machines } = found;
      return {
        ...band,
        ...(low === undefined ? {} : { low }),
        ...(high === undefined ? {} : { high }),
        page: `read on ${machines} machines`,
      };
    }),
  };
}
