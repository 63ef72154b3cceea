import { familyOf } from "./families/registry";
import type { Sheet } from "./sheet";
import type { Standing } from "./standing";

/** Some generators give nothing until they have been revved past some speed once, or until some seconds after the start. */

type Waking = Pick<Sheet, "family" | "wakes">;

/** Whether a machine that runs has not woken yet. */
export function isAsleep({ wakes }: Waking, { engine, awake }: Standing): boolean {
  return wakes !== undefined && engine === "running" && awake === false;
}

/** What wakes it, before anything is read on the running engine; undefined where it gives at once. Of one without a sheet nobody knows. */
export function wakingWords({ family, wakes }: Waking): string | undefined {
  if (wakes) {
    const past = wakes.aboveRpm === undefined ? "" : `rev it past ${wakes.aboveRpm.toLocaleString("en")} rpm once`;
    const after = wakes.afterSeconds === undefined ? "" : `count ${wakes.afterSeconds} s`;
    return `It wakes late: ${[past, after].filter(Boolean).join(", then ")} before you read.`;
  }
  return familyOf(family).field?.fed === "key" ? "Some wake late: rev it once and count ten before you call it dead." : undefined;
}

/** Follows a machine from its start until it wakes. */
export class Wakefulness {
  readonly #wakes: Sheet["wakes"];
  #revved = false;
  #seconds = 0;

  constructor({ wakes }: Waking) {
    this.#wakes = wakes;
  }

  get awake(): boolean {
    const { aboveRpm, afterSeconds = 0 } = this.#wakes ?? {};
    return (aboveRpm === undefined || this.#revved) && this.#seconds >= afterSeconds;
  }

  /** The engine has run at a speed for so long; the seconds count from the speed that wakes it. */
  ran(rpm: number, seconds: number): void {
    this.#revved ||= rpm >= (this.#wakes?.aboveRpm ?? 0);
    if (this.#revved) this.#seconds += seconds;
  }

  /** The engine was stopped. */
  stopped(): void {
    this.#revved = false;
    this.#seconds = 0;
  }
}
