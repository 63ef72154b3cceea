import { cellOf } from "../battery/model";
import { steadyVolts } from "../circuit/cell";
import { hasCapacitor } from "../machine/capacitor";
import type { Sheet } from "../machine/sheet";
import { healthyState } from "../machine/state";
import { bandFor } from "../procedure/bands";
import type { School } from "../procedure/schools";
import type { Step } from "../procedure/step";
import { ampsAt, type OutputPoint } from "./output";

/** What a voltmeter fitted to the machine should show on the road, V; a limit that nothing sets is left out. */
interface RoadGauge {
  keyOn: { low?: number };
  /** Whether it charges at idle with the lights on; where it does not, the volts sink there and that is no fault. */
  chargesAtIdle: boolean;
  riding: { low?: number; high?: number };
  everythingOn: { low?: number; high?: number };
  /** What a full battery shows with the loads as ridden on it and nothing charging: below it under way the battery pays for the ride. None without one. */
  turnHome: number | undefined;
}

/** The figures follow from the sheet's bands, filled by the school, from its output curve, and from its battery in the circuit. */
export function roadGauge(sheet: Sheet, school: School, curve: readonly OutputPoint[]): RoadGauge {
  const limits = (step: Step): { low?: number; high?: number } => {
    const band = bandFor(step, sheet, school);
    if (band?.kind !== "between") return {};
    return { ...(band.low === undefined ? {} : { low: band.low }), ...(band.high === undefined ? {} : { high: band.high }) };
  };
  const { loadAmps, battery } = healthyState(sheet);
  const none = hasCapacitor(sheet);
  const { high: _high, ...keyOn } = none ? {} : limits({ test: "battery.settled" });
  return {
    keyOn,
    chargesAtIdle: ampsAt(curve, sheet.idleRpm) >= loadAmps.normal,
    riding: limits({ test: "charge.volts", rpm: sheet.testRpm, loads: "normal" }),
    everythingOn: limits({ test: "charge.volts", rpm: sheet.testRpm, loads: "all" }),
    turnHome: none ? undefined : steadyVolts(cellOf({ ...battery, charge: 1 }), -loadAmps.normal),
  };
}
