import type { Day } from "../../app/day/day.server";
import type { Planned } from "../../core/day/plan";

/** A day made up for tests: one mechanic, one charger, 08:00 to 16:00, noon now. */

export const at = (hour: number, minute = 0): number => new Date(2026, 5, 1, hour, minute).getTime();

export const machine = (id: number, more: Partial<Day["machines"][number]> = {}): Day["machines"][number] => ({
  id,
  tag: `T-${id}`,
  name: `Machine ${id}`,
  wait: null,
  pinned: null,
  dropped: false,
  repaired: false,
  ...more,
});

export const hands = (jobId: number, from: number, to: number, title = "Rest volts"): Planned => ({ jobId, title, from, to, mechanic: 0, what: "hands" });

export function dayWith(stretches: Planned[], machines: Day["machines"], more: Partial<Day> = {}): Day {
  return {
    day: "2026-06-01",
    isToday: true,
    now: at(12),
    begins: at(8),
    ends: at(16),
    bay: { mechanics: 1, chargers: 1, begins: "08:00", ends: "16:00" },
    plan: { stretches, idle: 0, tomorrow: [] },
    toCome: false,
    overnight: [],
    done: [],
    machines,
    coming: [],
    ...more,
  };
}
