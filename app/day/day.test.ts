import { describe, expect, test } from "@jest/globals";
import { seedDemo } from "../../demo/workshop";
import { baySchema } from "../../store/day";
import { openStore } from "../../tests/support/store";
import { dayOf } from "./day.server";
import { dueOf } from "./useReminders";

/** A Monday morning by the wall's clock. */
const NOW = new Date(2026, 5, 1, 9, 0);
const DAY = "2026-06-01";

function seeded() {
  const store = openStore();
  seedDemo(store, NOW);
  return store;
}

describe("the day of a workshop", () => {
  test("has one mechanic and one charger until somebody says otherwise", () => {
    const store = openStore();
    expect(store.days.bay()).toEqual({ mechanics: 1, chargers: 1, begins: "08:00", ends: "17:00" });
    store.days.changeBay({ mechanics: 2, chargers: 0, begins: "07:30", ends: "16:00" });
    expect(store.days.bay()).toMatchObject({ mechanics: 2, chargers: 0 });
  });

  test("hands, chargers and hours that cannot be are refused", () => {
    for (const wrong of [{ mechanics: 0 }, { chargers: -1 }, { begins: "8" }, { ends: "24:00" }, { mechanics: 1.5 }])
      expect(baySchema.safeParse({ mechanics: 1, chargers: 1, begins: "08:00", ends: "17:00", ...wrong }).success).toBe(false);
  });

  test("plans the open machines within its hours, and names what hands turn to first", () => {
    const store = seeded();
    const day = dayOf(store, NOW);
    expect(day).toMatchObject({ day: DAY, isToday: true, overnight: [] });
    expect(day.machines).toHaveLength(store.jobs.countOpen());
    const work = day.plan.stretches.filter(({ mechanic }) => mechanic !== undefined);
    expect(work[0]?.from).toBe(NOW.getTime());
    for (const { from, to } of work) expect(from >= day.begins && to <= day.ends).toBe(true);
    expect(day.coming.length).toBeGreaterThan(0);
  });

  test("once the hands have gone home it is tomorrow's", () => {
    const evening = new Date(2026, 5, 1, 19, 0);
    const day = dayOf(seeded(), evening);
    expect(day).toMatchObject({ day: "2026-06-02", isToday: false, done: [] });
    expect(day.plan.stretches[0]?.from).toBe(new Date(2026, 5, 2, 8, 0).getTime());
  });

  test("a machine that waits is planned for when its wait is over; one whose part nobody knows of is not planned", () => {
    const store = seeded();
    const [resting, parted] = store.jobs.listOpen(2, 0).map(({ id }) => id) as [number, number];
    const until = new Date(2026, 5, 1, 15, 0);
    store.jobs.wait(resting, "wait-0001", { what: "rest", until: until.toISOString(), beganAt: NOW.toISOString() });
    store.jobs.wait(parted, "wait-0002", { what: "part", note: "regulator", beganAt: NOW.toISOString() });
    const { plan, machines } = dayOf(store, NOW);
    for (const { from } of plan.stretches.filter(({ jobId }) => jobId === resting)) expect(from).toBeGreaterThanOrEqual(until.getTime());
    expect(plan.stretches.some(({ jobId }) => jobId === parted)).toBe(false);
    expect(machines.find(({ id }) => id === parted)?.wait).toMatchObject({ what: "part" });
  });

  test("what is set by hand is kept, what is dropped stays out, and both are taken back", () => {
    const store = seeded();
    const [set, dropped] = store.jobs.listOpen(2, 0).map(({ id }) => id) as [number, number];
    const begins = new Date(2026, 5, 1, 11, 0);
    store.days.mark(DAY, { jobId: set, beginsAt: begins.toISOString() }, NOW.toISOString(), "Ailsa");
    store.days.mark(DAY, { jobId: dropped, beginsAt: null }, NOW.toISOString());
    const { plan } = dayOf(store, NOW);
    expect(plan.stretches.find(({ jobId }) => jobId === set)).toMatchObject({ from: begins.getTime(), why: expect.stringContaining("you set it for then") });
    expect(plan.stretches.some(({ jobId }) => jobId === dropped)).toBe(false);
    store.days.unmark(DAY, dropped);
    expect(store.days.marks(DAY)).toEqual([{ jobId: set, beginsAt: begins.toISOString() }]);
    // Another day knows nothing of it.
    expect(store.days.marks("2026-06-02")).toEqual([]);
  });

  test("what was read today is told as done", () => {
    const store = seeded();
    const [job] = store.jobs.listOpen(1, 0).map(({ id }) => id) as [number];
    store.jobs.readings.keep(job, { id: "today-00001", test: "battery.rest", value: 12.5, takenAt: new Date(2026, 5, 1, 8, 40).toISOString() });
    expect(store.days.workedSince([job], new Date(2026, 5, 1, 8, 0).toISOString())).toMatchObject([{ jobId: job }]);
    expect(store.days.workedSince([job], new Date(2026, 5, 1, 8, 50).toISOString())).toEqual([]);
  });
});

describe("reminders", () => {
  test("a wait is due when it ends, in the words of the rail; one without an end never is", () => {
    const until = "2026-06-01T15:00:00.000Z";
    expect(dueOf(7, "Guillemot", { what: "rest", until, beganAt: until })).toEqual([{ key: "7", at: Date.parse(until), says: "Guillemot: Rested enough." }]);
    expect(dueOf(7, "Guillemot", { what: "part", beganAt: until })).toEqual([]);
    expect(dueOf(7, "Guillemot", undefined)).toEqual([]);
  });
});
