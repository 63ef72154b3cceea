import type { Condition } from "./condition";
import type { Sheet } from "./sheet";
import { healthyState } from "./state";

/** What is possible but hard to believe about a machine or its condition, a sentence each; it is simulated all the same. */
export function absurdities(sheet: Sheet, condition: Condition): string[] {
  const state = healthyState(sheet);
  const cells = sheet.systemVolts / 12;
  const [winding] = state.windings;
  const peak = (winding?.voltsPerRpm ?? 0) * sheet.testRpm;
  const found: (string | false)[] = [
    peak > 250 * cells && `${Math.round(peak)} V peak in one winding at ${sheet.testRpm} rpm is more than such machines make`,
    peak < 10 * cells && `${peak.toFixed(1)} V peak in one winding at ${sheet.testRpm} rpm cannot charge a ${sheet.systemVolts} V battery`,
    (winding?.ohms ?? 0) > 10 && `${(winding?.ohms ?? 0).toFixed(1)} Ω in one winding is far above what such stators have`,
    (sheet.ratedAmps ?? 0) > 120 && `${sheet.ratedAmps} A of output is more than such machines make`,
    state.loadAmps.all > 1.5 * (sheet.ratedAmps ?? Number.POSITIVE_INFINITY) &&
      `loads of ${state.loadAmps.all} A can never be fed by ${sheet.ratedAmps} A of output`,
    state.unit.setVolts > 17 * cells && `a set point of ${state.unit.setVolts.toFixed(1)} V boils the battery`,
    state.unit.setVolts < 12.9 * cells && `a set point of ${state.unit.setVolts.toFixed(1)} V never charges the battery`,
    condition.ambientC > 50 && `${condition.ambientC} °C is hotter than any workshop`,
    condition.ambientC < -35 && `${condition.ambientC} °C is colder than a battery starts at`,
    new Set(condition.faults.map(({ fault }) => fault)).size > 3 && `${condition.faults.length} faults at once are more than ever travel together`,
  ];
  return found.filter((absurdity) => absurdity !== false);
}
