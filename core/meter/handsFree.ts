import { OPEN_LINE } from "../units";
import { type LiveDial, type LiveFigure, Settling } from "./settle";

/** What a step wants of a meter that is read without hands. */
export interface Wanted {
  dial: LiveDial;
  /** The open line is an answer. */
  openAllowed: boolean;
  /** The lowest of a dip is wanted, not where it stands. */
  keepLowest: boolean;
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
  says: "lifted" | "tips" | "moving" | "waiting" | "elsewhere" | "dipping" | "kept";
  keep?: number | typeof OPEN_LINE;
}

/** The open line is kept after it has stood so long, of probes that were seen to touch, s. */
const OPEN_STANDS = 2.5;
/** A figure that is to be read at another speed has moved once it differs by so much, as a share. */
const MOVED = 0.006;
/** A dip pulls at least so far, V on 12 V, and is over once most of it has come back for so long, s; longer than that no starter is held. */
const DIP = { falls: 0.5, back: 0.5, over: 0.6, most: 6 } as const;

/** Reads one step's figure off a live meter with nobody touching a key: when it stands, when it is an open line, how low a dip went. */
export class HandsFreeReading {
  readonly #wanted: Wanted;
  readonly #settling: Settling;
  #armed: boolean;
  #touched = false;
  #before: number | undefined;
  #done = false;
  #dip: { base: number; lowest: number; began: number; backSince: number | undefined } | undefined;
  #level: number | undefined;

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
      return opens ? this.#keep(OPEN_LINE) : { says: "lifted" };
    }
    if (typeof value !== "number") return { says: "moving" };
    if (this.#isTips(value)) {
      this.#touched = true;
      this.#armed = true;
      return { says: "tips" };
    }
    if (this.#wanted.keepLowest) return this.#lowest(value, at, contact.state === "settled");
    if (!this.#armed) {
      if (this.#wanted.probesWere === "elsewhere") return { says: "elsewhere" };
      this.#before ??= value;
      if (Math.abs(value - this.#before) <= MOVED * Math.abs(this.#before)) return { says: "waiting" };
      this.#armed = true;
    }
    return contact.state === "settled" ? this.#keep(contact.value as number) : { says: "moving" };
  }

  /** Tips put together show the leads, or no volts at all on the diode dial: that is the meter's check, and no reading. */
  #isTips(value: number): boolean {
    const { dial, leadOhms, ohmsResolution } = this.#wanted;
    if (dial === "Ω") return Math.abs(value - leadOhms) <= 1.01 * ohmsResolution;
    return dial === "diode" && Math.abs(value) < 0.005;
  }

  #keep(value: number | typeof OPEN_LINE): HandsFree {
    this.#done = true;
    return { says: "kept", keep: value };
  }

  #lowest(value: number, at: number, stands: boolean): HandsFree {
    if (!this.#dip) {
      if (this.#level !== undefined && value < this.#level - DIP.falls) this.#dip = { base: this.#level, lowest: value, began: at, backSince: undefined };
      else if (stands || this.#level === undefined) this.#level = value;
      return { says: this.#dip ? "dipping" : "waiting" };
    }
    const { base, began } = this.#dip;
    this.#dip.lowest = Math.min(this.#dip.lowest, value);
    const isBack = value > this.#dip.lowest + DIP.back * (base - this.#dip.lowest);
    this.#dip.backSince = isBack ? (this.#dip.backSince ?? at) : undefined;
    const over = (this.#dip.backSince !== undefined && at - this.#dip.backSince >= DIP.over) || at - began >= DIP.most;
    return over ? this.#keep(this.#dip.lowest) : { says: "dipping" };
  }
}
