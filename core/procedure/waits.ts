import { chargeFromRest } from "../battery/charge";
import { CHARGER, hoursToCharge } from "../battery/figures";
import type { Sheet } from "../machine/sheet";
import { healthyState } from "../machine/state";

/** What a job can wait for. */
export const WAITS = { charge: "On the charger", rest: "Resting", part: "Waiting for a part", nothing: "Nothing to wait for" } as const;
type WaitKind = keyof typeof WAITS;
export const WAIT_KINDS = Object.keys(WAITS) as [WaitKind, ...WaitKind[]];

/** A wait as it was begun: the hands are free until it is over. */
export interface Wait {
  what: WaitKind;
  /** Which part, or who was asked. */
  note?: string | undefined;
  /** When it is over, ISO time; undefined where nobody knows. */
  until?: string | undefined;
  beganAt: string;
}

/** The wait that a job is in: the latest begun, unless that says that none is left. */
export function waitOf(waits: readonly Wait[]): Wait | undefined {
  const latest = waits.reduce<Wait | undefined>((last, wait) => (last === undefined || wait.beganAt >= last.beganAt ? wait : last), undefined);
  return latest?.what === "nothing" ? undefined : latest;
}

/** Whether a wait is over by its own time. @param now ms */
export function isOver({ until }: Wait, now: number): boolean {
  return until !== undefined && Date.parse(until) <= now;
}

/** A charge laid out on the clock. */
interface ChargePlan {
  /** How full the battery is thought to be, 0 to 1; undefined where its rest volts tell nothing. */
  charge: number | undefined;
  /** Amps it may be charged with, and with what it may at most for an hour. */
  slowAmps: number;
  fastAmps: number;
  volts: number;
  /** Hours until it is full, and until it has rested enough to be judged. */
  hours: number;
  judgedHours: number;
}

/**
 * How long a charge takes and when the battery may be judged after it: what is missing over what the charger gives, the tail in which
 * a battery takes ever less, then the school's rest.
 * @param restVolts its latest rest volts; without them it is taken for empty
 * @param amps what the charger gives
 * @throws {RangeError} for a capacitor, which nobody puts on a charger
 */
export function chargePlan(sheet: Sheet, restVolts: number | undefined, restHours: number, amps: number): ChargePlan {
  const { battery, systemVolts } = sheet;
  const { chemistry } = battery;
  if (chemistry === "capacitor") throw new RangeError("A capacitor is not put on a charger.");
  const { ah } = healthyState(sheet).battery;
  const bears = CHARGER[chemistry];
  const charge = restVolts === undefined ? undefined : chargeFromRest(restVolts, chemistry, systemVolts);
  const hours = hoursToCharge(chemistry, ah, charge ?? 0, amps);
  return {
    charge,
    slowAmps: bears.slow * ah,
    fastAmps: bears.fast * ah,
    volts: bears.volts * (systemVolts / 12),
    hours,
    judgedHours: hours + restHours,
  };
}
