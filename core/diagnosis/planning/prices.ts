import type { FaultId } from "../../machine/faults";
import type { Part } from "../../machine/part";
import { REPAIRS } from "../../machine/repairs/repairs";
import { type Remedy, remediesOf, remedyOf } from "../remedies";

/** What a part costs to buy, and how long it takes to change or mend. */
interface Price {
  money: number;
  minutes: number;
}

/** A shop's prices: by part, and of an hour's labour, in one currency. */
export interface Prices {
  parts: Readonly<Record<Part, Price>>;
  labourPerHour: number;
}

/** Middling prices of small machines, for shops that have not entered their own. */
export const ASSUMED_PRICES: Prices = {
  parts: {
    battery: { money: 85, minutes: 10 },
    rotor: { money: 260, minutes: 120 },
    stator: { money: 220, minutes: 120 },
    regulator: { money: 130, minutes: 25 },
    wiring: { money: 15, minutes: 30 },
    loads: { money: 20, minutes: 40 },
    starter: { money: 120, minutes: 50 },
    drive: { money: 18, minutes: 20 },
  },
  labourPerHour: 60,
};

/** Money that a bit about what must be mended is worth for itself: it is what the readings after this one stand on. */
export const MONEY_A_BIT = 20;

/** Handling a charger: the hours it works cost nothing. */
const CHARGING_MINUTES = 10;
/** A fault left in: the machine comes back, is looked at again, and its owner remembers. */
const COMEBACK = { money: 90, minutes: 60 } as const;
const UNTOUCHED = 1.6;
/** A part changed for nothing costs the shop's name as well. */
export const NEEDLESS = 1.5;
/** A flat battery sent out uncharged is found out at the door. */
const UNCHARGED_MINUTES = 15;

/** Money for one remedy, labour included. */
export function costOf(remedy: Remedy, prices: Prices): number {
  if (remedy === "charge") return (CHARGING_MINUTES * prices.labourPerHour) / 60;
  const { money, minutes } = prices.parts[remedy];
  return money + (minutes * prices.labourPerHour) / 60;
}

/** Money and minutes for a whole set. @param fault the one that is named: what puts it right may be less than its whole part */
export function billOf(set: string, prices: Prices, fault?: FaultId): { money: number; minutes: number } {
  const own = fault && REPAIRS[fault].bill;
  return remediesOf(set).reduce(
    (sum, remedy) => {
      if (own && fault && remedyOf(fault) === remedy)
        return { money: sum.money + own.money + (own.minutes * prices.labourPerHour) / 60, minutes: sum.minutes + own.minutes };
      const minutes = remedy === "charge" ? CHARGING_MINUTES : prices.parts[remedy].minutes;
      return { money: sum.money + costOf(remedy, prices), minutes: sum.minutes + minutes };
    },
    { money: 0, minutes: 0 },
  );
}

/**
 * Money lost by doing one set where another was needed: what was changed for nothing, and what was left in.
 * @param repaired whether the machine has had a repair already
 */
export function lossOf(done: string, needed: string, prices: Prices, repaired = false): number {
  if (done === needed) return 0;
  const [did, need] = [remediesOf(done), remediesOf(needed)];
  const wasted = did.filter((remedy) => !need.includes(remedy)).reduce((sum, remedy) => sum + (remedy === "charge" ? 1 : NEEDLESS) * costOf(remedy, prices), 0);
  const comeback = COMEBACK.money + (COMEBACK.minutes * prices.labourPerHour) / 60;
  const left = need
    .filter((remedy) => !did.includes(remedy))
    .reduce((sum, remedy) => sum + (remedy === "charge" ? (UNCHARGED_MINUTES * prices.labourPerHour) / 60 : comeback), 0);
  // An ailing machine handed back untouched costs the shop's name as well.
  return wasted + (!repaired && did.every((remedy) => remedy === "charge") && need[0] !== "charge" ? UNTOUCHED * left : left);
}
