import { OPEN_LINE } from "../units";

/** What a live meter tells at one moment. */
export interface LiveFigure {
  /** Seconds, rising. */
  at: number;
  /** The figure, the open line, or undefined while the meter shows none. */
  value: number | typeof OPEN_LINE | undefined;
}

/** What a meter's probes are doing: lifted ones show next to nothing, as ones on a part without volts do. */
type Contact = { state: "lifted" } | { state: "moving"; value: number | typeof OPEN_LINE | undefined } | { state: "settled"; value: number };

/** How a dial shows that probes are off, and when its figure stands. */
interface DialRule {
  /** Seconds over which a figure has to stand. */
  window: number;
  /** It stands while all of them lie within so much, in the dial's unit, or this share of it. */
  within: number;
  share: number;
  /** Open leads show the open line, or volts up to so much that wander. */
  open: "line" | number;
}

const RULES: Record<"V DC" | "V AC" | "Ω" | "diode" | "A DC", DialRule> = {
  "V DC": { window: 0.7, within: 0.03, share: 0.004, open: 0.25 },
  "V AC": { window: 0.8, within: 0.22, share: 0.015, open: 0.25 },
  Ω: { window: 0.7, within: 0.02, share: 0.02, open: "line" },
  diode: { window: 0.6, within: 0.006, share: 0.01, open: "line" },
  "A DC": { window: 1, within: 0.3, share: 0.03, open: 0 },
};

/** A display flickers between two digits, seldom three: so much counts as standing, and as no drift. */
const FLICKERS = { spread: 2.1, drift: 1.1 } as const;
/** Next to nothing stands within so much, V, a few last digits of a usual display: open leads wander further. */
const NOTHING_SPREAD = 0.035;
/** For how long next to nothing is watched, s. */
const LONGEST = 2.5;
/** Fewer figures than this are no window, however long. */
const LEAST_FIGURES = 4;
/** Between two figures further apart the meter was away, s: what stood before counts no more. */
const AWAY = 0.6;

export type LiveDial = keyof typeof RULES;
export const LIVE_DIALS = Object.keys(RULES) as LiveDial[];

/**
 * Tells from a live meter's figures alone whether its probes are on, and when what it shows stands: spread and slope over a window that
 * fits the dial.
 */
export class Settling {
  readonly #rule: DialRule;
  readonly #digit: number;
  #window: LiveFigure[] = [];
  #openSince: number | undefined;
  /** What volts have shown next to nothing, as long as they stood within a narrow spread. */
  #nothing: { at: number; value: number }[] = [];

  /** @param digit last digit of the display, where it is coarse: it flickers by one whatever the probes do */
  constructor(dial: LiveDial, digit = 0) {
    this.#rule = RULES[dial];
    this.#digit = digit;
  }

  /** Takes the next figure. */
  feed(figure: LiveFigure): Contact {
    const last = this.#window.at(-1);
    if (last && (figure.at - last.at > AWAY || figure.at < last.at)) this.#window = [];
    const { value } = figure;
    this.#watchNothing(figure);
    if (value === undefined) {
      this.#window = [];
      return { state: "moving", value: undefined };
    }
    if (this.#isOpen(value)) {
      this.#window = [];
      this.#openSince ??= figure.at;
      return { state: "lifted" };
    }
    this.#openSince = undefined;
    if (value === OPEN_LINE) {
      // On volts and amps more than the range: the meter looks for another, its probes are on.
      this.#window = [];
      return { state: "moving", value };
    }
    this.#window.push(figure);
    const from = figure.at - this.#rule.window;
    // One figure older than the window stays, so that a window is never shorter than it has to be.
    while (this.#window.length > 1 && (this.#window[1] as LiveFigure).at <= from) this.#window.shift();
    const values = this.#window.map((liveFigure) => liveFigure.value as number);
    const [low, high] = [Math.min(...values), Math.max(...values)];
    const room = this.#room(high);
    const whole = (this.#window[0] as LiveFigure).at <= from && values.length >= LEAST_FIGURES;
    const half = values.length >> 1;
    const mean = (part: readonly number[]): number => part.reduce((sum, value) => sum + value, 0) / part.length;
    const drifts = Math.abs(mean(values.slice(half)) - mean(values.slice(0, half))) > Math.max(room / 3, FLICKERS.drift * this.#digit);
    if (!whole || high - low > room || drifts) return { state: "moving", value };
    return { state: "settled", value: middle(values.slice(half)) };
  }

  /** How long the open line has stood, s: with probes that somebody holds on a part it is an answer. */
  openFor(at: number): number {
    return this.#openSince === undefined ? 0 : at - this.#openSince;
  }

  /**
   * Volts next to nothing that have stood for so many seconds: a part without volts between the probes, or leads that are off and show so
   * little. Undefined while they wander, or on other dials. @param seconds no more than `LONGEST`
   */
  nothing(seconds: number): number | undefined {
    const last = this.#nothing.at(-1);
    const stood = this.#nothing.filter(({ at }) => last && at > last.at - seconds);
    return last && (this.#nothing[0] as { at: number }).at <= last.at - seconds ? middle(stood.map(({ value }) => value)) : undefined;
  }

  #watchNothing({ at, value }: LiveFigure): void {
    const last = this.#nothing.at(-1);
    if (typeof value !== "number" || !this.#isOpen(value) || (last && (at - last.at > AWAY || at < last.at))) this.#nothing = [];
    if (typeof value !== "number" || !this.#isOpen(value)) return;
    this.#nothing.push({ at, value });
    const spread = (): number => {
      const values = this.#nothing.map((figure) => figure.value);
      return Math.max(...values) - Math.min(...values);
    };
    while (spread() > NOTHING_SPREAD || (this.#nothing[1] && at - this.#nothing[1].at >= LONGEST)) this.#nothing.shift();
  }

  #room(size: number): number {
    return Math.max(this.#rule.within, this.#rule.share * Math.abs(size), FLICKERS.spread * this.#digit);
  }

  #isOpen(value: number | typeof OPEN_LINE): boolean {
    if (this.#rule.open === "line") return value === OPEN_LINE;
    return value !== OPEN_LINE && Math.abs(value) < this.#rule.open;
  }
}

function middle(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  const value = sorted.length % 2 ? (sorted[half] as number) : ((sorted[half - 1] as number) + (sorted[half] as number)) / 2;
  return Number(value.toFixed(4));
}
