import { conditionOf } from "../core/machine/condition";
import type { Sheet } from "../core/machine/sheet";
import type { Meter } from "../core/meter/meter";
import { simulateStep } from "../core/procedure/simulate";
import type { ReadingValue } from "../core/units";
import type { DemoJob, DemoStep } from "./jobs";

/** A step of a demo job with what the meter showed there. */
type DemoReading = DemoStep & { value: ReadingValue };

/** What was read is the same each time; a process that fills several databases reads each machine once. */
const taken = new Map<string, DemoReading[]>();

/** Takes every step of a demo job on its simulated machine: with its faults before the repair, without them after. */
export function demoReadings(job: DemoJob, sheet: Sheet, meter: Meter): DemoReading[] {
  const name = `${job.unit} ${job.openedHoursAgo}`;
  const known = taken.get(name);
  if (known) return known;
  const world = { ambientC: job.ambientC, charge: job.charge };
  const [ailing, mended] = [conditionOf(job.faults, world), conditionOf([], world)];
  const readings = job.steps.map((step) => {
    const { value } = simulateStep(sheet, step.afterRepair ? mended : ailing, step, meter, step.restHours === undefined ? {} : { restHours: step.restHours });
    return { ...step, value };
  });
  taken.set(name, readings);
  return readings;
}
