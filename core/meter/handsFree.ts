import { OPEN_LINE } from "../units";
import { type LiveDial, type LiveFigure, Settling } from "./settle";

/** What a step wants of a meter that is read without hands. */
export interface Wanted {
  dial: LiveDial;
  /** The open line is an answer. */
  openAllowed: boolean;
  /** The open line is what a sound part shows: what leads alone show is then no figure that is kept unasked. */
  openWhenSound?: boolean | undefined;
  /** The lowest of a dip is wanted, not where it stands. */
  keepLowest: boolean;
  /** Next to nothing is an answer, though leads that are off show as much. */
  zeroAllowed: boolean;
  /** Volts along one conductor are wanted, next to nothing where it is sound: while the engine runs, or while it is cranked. */
  drop?: "running" | "cranking" | undefined;
  /** What the meter shows with its tips together, Ω. */
  leadOhms: number;
  /** Last digit on ohms, Ω. */
  ohmsResolution: number;
  /**
   * Where the probes were for the reading before: nowhere; where they are wanted now, on the same dial, so that the figure has to move
   * before it is read again; or elsewhere, so that they have to be lifted: what stands until then is still the reading before.
   */
  probesWere: "nowhere" | "here" | "elsewhere";
}

/** What comes of a figure: what to say meanwhile, and what to keep once it stands. */
export interface HandsFree {
  says: "lifted" | "tips" | "live" | "moving" | "waiting" | "cranks" | "elsewhere" | "dipping" | "unproved" | "kept";
  keep?: number | typeof OPEN_LINE;
  /** Of a dip that is kept: how far the first pull went below the lowest once the engine turned, V. */
  pull?: number;
  /** The same dip as a curve. */
  curve?: DipCurve;
  /** A figure that stands, and that only whoever holds the probes can tell from one of leads that are off or on other points. */
  offer?: number;
}

/** A dip as it was heard: from shortly before it to when its volts were back, and when it began and ended in it, s and V. */
export interface DipCurve {
  seconds: number[];
  volts: number[];
  from: number;
  to: number;
}

/** So long before a dip its curve begins, s. */
const CURVE_BEFORE = 1;

/** The open line is kept after it has stood so long, of probes that were seen to touch, s. */
const OPEN_STANDS = 2.5;
/** A figure that is to be read at another speed has moved once it differs by so much, as a share. */
const MOVED = 0.006;
/** A dip pulls at least so far, V on 12 V, and is over once most of it has come back for so long, s; longer than that no starter is held. */
const DIP = { falls: 0.5, back: 0.5, over: 0.6, most: 6 } as const;
/** A starter's first pull is over after so long, s; it is one where so many figures caught it, and it went so far below what followed, V. */
const FIRST_PULL = { seconds: 0.3, figures: 3, least: 0.1 } as const;

/**
 * Before a drop the probes touch something live: from so many volts on, for so long; then they are off, or on the points, for so long.
 * A figure within this share of the live one is that touch again.
 */
const LIVE = { volts: 1, stands: 0.5, off: 0.3, again: 0.05 } as const;
/**
 * A drop under the starter: no less than `least` from what stood before its contact closed, and no more than `most`, V, for `lasts` s once
 * it has stood for `stands`. When the starter is let go what stood before is back: nothing, within `nothing`, or the battery's volts, within `volts`.
 */
const CRANKED = { least: 0.03, most: 5, stands: 0.7, lasts: 0.8, back: { nothing: 0.02, volts: 0.4 } } as const;

/** Leads show so much more or less than they did when they were zeroed, by how firmly the tips are pressed together, Ω. */
const LEADS_VARY = 0.1;

/** Reads one step's figure off a live meter with nobody touching a key: when it stands, when it is an open line, how low a dip went. */
export class HandsFreeReading {
  readonly #wanted: Wanted;
  readonly #settling: Settling;
  #armed: boolean;
  #touched = false;
  #before: number | undefined;
  #done = false;
  #dip: { base: number; lowest: number; turning: number; figures: number; began: number; backSince: number | undefined } | undefined;
  #level: number | undefined;
  /** What was heard of a dip so far, and of the time just before it. */
  #heard: { at: number; value: number }[] = [];
  /** The live touch before a drop: since when it stands, what it showed, and since when the probes have been off it. */
  #live: { from: number; value: number; offSince: number | undefined } | undefined;
  /** Before the starter's contact closes, and what stood while it was closed. */
  #crank: { open: number; closed: { value: number; from: number; to: number } | undefined } | undefined;

  constructor(wanted: Wanted) {
    this.#wanted = wanted;
    this.#settling = new Settling(wanted.dial, wanted.dial === "Ω" ? wanted.ohmsResolution : 0);
    // A clamp or a meter in series has no leads that show when they are off.
    this.#armed = wanted.probesWere === "nowhere" || (wanted.probesWere === "elsewhere" && wanted.dial === "A DC");
  }

  feed(figure: LiveFigure): HandsFree {
    if (this.#done) return { says: "kept" };
    const contact = this.#settling.feed(figure);
    const { value, at } = figure;
    if (contact.state === "lifted") {
      this.#armed = true;
      const opens = this.#wanted.openAllowed && this.#touched && this.#settling.openFor(at) >= OPEN_STANDS;
      return opens ? this.#keep(OPEN_LINE) : this.#nextToNothing(at);
    }
    if (typeof value !== "number") return { says: "moving" };
    if (this.#isTips(value)) {
      this.#touched = true;
      this.#armed = true;
      return this.#wanted.openWhenSound && contact.state === "settled" ? { says: "tips", offer: contact.value } : { says: "tips" };
    }
    if (this.#wanted.drop === "cranking") return this.#underStarter(contact.state === "settled" ? contact.value : undefined, at);
    if (this.#wanted.keepLowest) return this.#lowest(value, at, contact.state === "settled");
    if (!this.#armed) {
      if (this.#wanted.probesWere === "elsewhere") return { says: "elsewhere" };
      this.#before ??= value;
      if (Math.abs(value - this.#before) <= MOVED * Math.abs(this.#before)) return { says: "waiting" };
      this.#armed = true;
    }
    if (this.#wanted.drop && this.#isLive(value, at)) {
      const { from } = this.#live as { from: number };
      return contact.state === "settled" && at - from >= OPEN_STANDS ? { says: "live", offer: contact.value } : { says: "live" };
    }
    return contact.state === "settled" ? this.#keep(contact.value) : { says: "moving" };
  }

  /** Volts next to nothing: kept of a drop whose probes were live before, offered of all else once they stand. */
  #nextToNothing(at: number): HandsFree {
    const { drop } = this.#wanted;
    if (drop === "cranking") return this.#underStarter(this.#settling.nothing(CRANKED.stands), at);
    if (this.#live) this.#live.offSince ??= at;
    const nothing = this.#settling.nothing(OPEN_STANDS);
    if (nothing === undefined || !this.#wanted.zeroAllowed) return { says: "lifted" };
    return drop && this.#wasLive(at) ? this.#keep(nothing) : { says: "unproved", offer: nothing };
  }

  /** Whether probes are on something live, in the touch that comes before a drop: a figure like that, or the first one of many volts. */
  #isLive(value: number, at: number): boolean {
    const size = Math.abs(value);
    if (this.#wasLive(at) && Math.abs(size - (this.#live as { value: number }).value) > LIVE.again * size) return false;
    if (size < LIVE.volts) return false;
    if (!this.#live || this.#live.offSince !== undefined || Math.abs(size - this.#live.value) > LIVE.again * size)
      this.#live = { from: at, value: size, offSince: undefined };
    return true;
  }

  /** The probes were live for long enough, and have left it for as long as a hand takes. */
  #wasLive(at: number): boolean {
    const live = this.#live;
    return live?.offSince !== undefined && live.offSince - live.from >= LIVE.stands && at - live.offSince >= LIVE.off;
  }

  /** Tips put together show the leads, or no volts at all on the diode dial: that is the meter's check, and no reading. */
  #isTips(value: number): boolean {
    const { dial, leadOhms, ohmsResolution, openWhenSound } = this.#wanted;
    if (dial === "Ω") return Math.abs(value - leadOhms) <= Math.max(1.01 * ohmsResolution, openWhenSound ? LEADS_VARY : 0);
    return dial === "diode" && Math.abs(value) < 0.005;
  }

  #keep(value: number | typeof OPEN_LINE): HandsFree {
    this.#done = true;
    return { says: "kept", keep: value };
  }

  /** @param stands what stands just now; undefined while nothing does */
  #underStarter(stands: number | undefined, at: number): HandsFree {
    this.#crank ??= stands === undefined ? undefined : { open: stands, closed: undefined };
    const crank = this.#crank;
    if (stands === undefined || !crank) return { says: crank ? "cranks" : "moving" };
    const back = Math.abs(crank.open) < LIVE.volts ? CRANKED.back.nothing : CRANKED.back.volts;
    if (Math.abs(stands - crank.open) <= back) {
      const { closed } = crank;
      if (closed && closed.to - closed.from >= CRANKED.lasts) return this.#keep(closed.value);
      crank.closed = undefined;
      return { says: "cranks" };
    }
    if (Math.abs(stands - crank.open) < CRANKED.least) return { says: "cranks" };
    const isDrop = Math.abs(stands) <= CRANKED.most;
    crank.closed ??= isDrop ? { value: stands, from: at, to: at } : undefined;
    if (isDrop && crank.closed && Math.abs(stands - crank.closed.value) <= CRANKED.least) {
      crank.closed.to = at;
      return { says: "dipping" };
    }
    // Neither what stood before nor what stood under the starter: the probes were moved, and this is what stands before it.
    this.#crank = { open: stands, closed: undefined };
    return { says: "cranks" };
  }

  #lowest(value: number, at: number, stands: boolean): HandsFree {
    this.#heard.push({ at, value });
    if (!this.#dip) {
      this.#heard = this.#heard.filter((sample) => at - sample.at <= CURVE_BEFORE);
      if (this.#level !== undefined && value < this.#level - DIP.falls)
        this.#dip = { base: this.#level, lowest: value, turning: Number.POSITIVE_INFINITY, figures: 0, began: at, backSince: undefined };
      else if (stands || this.#level === undefined) this.#level = value;
      return { says: this.#dip ? "dipping" : "waiting" };
    }
    const { base, began } = this.#dip;
    this.#dip.lowest = Math.min(this.#dip.lowest, value);
    if (at - began < FIRST_PULL.seconds) this.#dip.figures++;
    else this.#dip.turning = Math.min(this.#dip.turning, value);
    const isBack = value > this.#dip.lowest + DIP.back * (base - this.#dip.lowest);
    this.#dip.backSince = isBack ? (this.#dip.backSince ?? at) : undefined;
    const over = (this.#dip.backSince !== undefined && at - this.#dip.backSince >= DIP.over) || at - began >= DIP.most;
    if (!over) return { says: "dipping" };
    return { ...this.#keep(this.#dip.lowest), ...firstPull(this.#dip), curve: this.#curve(began, this.#dip.backSince ?? at) };
  }

  #curve(began: number, ended: number): DipCurve {
    const first = this.#heard[0]?.at ?? began;
    const since = (at: number): number => Number((at - first).toFixed(3));
    return { seconds: this.#heard.map(({ at }) => since(at)), volts: this.#heard.map(({ value }) => value), from: since(began), to: since(ended) };
  }
}

/** How far a dip's first pull went below the rest of it; nothing where it was not caught, or did not. */
function firstPull({ lowest, turning, figures }: { lowest: number; turning: number; figures: number }): Pick<HandsFree, "pull"> {
  const pull = turning - lowest;
  return figures >= FIRST_PULL.figures && Number.isFinite(pull) && pull >= FIRST_PULL.least ? { pull: Number(pull.toFixed(4)) } : {};
}
