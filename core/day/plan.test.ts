import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { type DayJob, lasting, overnight, planDay, type Task } from "./plan";

const NOW = Date.UTC(2026, 5, 1, 8);
const at = (hour: number, minute = 0): number => Date.UTC(2026, 5, 1, hour, minute);
const ENDS = at(17);
const hands = (minutes: number, more: object = {}): Task => ({ kind: "hands", minutes, title: `work ${minutes}`, ...more });
const wait = (minutes: number, what: "charge" | "rest" | "part" = "charge"): Task => ({ kind: "wait", minutes, what, title: what });
const job = (id: number, tasks: Task[], more: Partial<DayJob> = {}): DayJob => ({ id, name: `job ${id}`, tasks, readyAt: 0, ...more });
const ONE = { mechanics: 1, chargers: 1 };
const workOf = (plan: ReturnType<typeof planDay>) => plan.stretches.filter(({ what }) => what === "hands");

describe("the day's plan", () => {
  test("a machine that will charge by itself is put on first, and the others are worked on meanwhile", () => {
    const plan = planDay([job(1, [hands(60)]), job(2, [hands(60)]), job(3, [hands(5), wait(110), hands(20)])], ONE, NOW, ENDS);
    expect(workOf(plan)[0]).toMatchObject({ jobId: 3, from: NOW, why: "it then charges 2 h by itself" });
    expect(plan.idle).toBe(0);
    expect(plan.stretches.find(({ what }) => what === "charge")).toMatchObject({ from: at(8, 5), to: at(9, 55), mechanic: undefined });
  });

  test("a rest is never cut short, nor a charge", () => {
    const plan = planDay([job(1, [hands(10)], { readyAt: at(11) }), job(2, [hands(10), wait(120, "rest"), hands(5)])], ONE, NOW, ENDS);
    expect(workOf(plan).find(({ jobId }) => jobId === 1)?.from).toBe(at(11));
    const [first, second] = workOf(plan).filter(({ jobId }) => jobId === 2);
    expect((second?.from ?? 0) - (first?.to ?? 0)).toBeGreaterThanOrEqual(120 * 60_000);
  });

  test("with one charger two batteries charge one after the other, and whoever frees it is told", () => {
    const plan = planDay([job(1, [hands(5), wait(120), hands(5)]), job(2, [hands(5), wait(120), hands(5)])], ONE, NOW, ENDS);
    const charges = plan.stretches.filter(({ what }) => what === "charge");
    expect(charges[1]?.from).toBeGreaterThanOrEqual(charges[0]?.to ?? 0);
    const freed = planDay([job(1, [hands(10)], { readyAt: at(9), onCharger: true }), job(2, [hands(5), wait(60), hands(5)])], ONE, NOW, ENDS);
    expect(workOf(freed).find(({ jobId }) => jobId === 1)?.why).toBe("it frees the charger");
    expect(freed.stretches.find(({ what }) => what === "charge")?.from).toBeGreaterThanOrEqual(at(9));
    const none = planDay([job(1, [hands(5), wait(120)])], { mechanics: 1, chargers: 0 }, NOW, ENDS);
    expect(none).toMatchObject({ stretches: [], tomorrow: [1] });
  });

  test("a machine set for a time begins then, and hands are kept free for it", () => {
    const plan = planDay([job(1, [hands(100)]), job(2, [hands(30)], { pinnedAt: at(9) }), job(3, [hands(50)])], ONE, NOW, ENDS);
    expect(workOf(plan).find(({ jobId }) => jobId === 2)).toMatchObject({ from: at(9), why: "you set it for then" });
  });

  test("two mechanics share the work; nobody is on two machines at once", () => {
    const plan = planDay(
      [1, 2, 3, 4].map((id) => job(id, [hands(60)])),
      { mechanics: 2, chargers: 1 },
      NOW,
      ENDS,
    );
    expect(Math.max(...workOf(plan).map(({ to }) => to))).toBe(at(10));
    expect(new Set(workOf(plan).map(({ mechanic }) => mechanic)).size).toBe(2);
  });

  test("what does not fit into the day is left for tomorrow", () => {
    expect(planDay([job(1, [hands(20)]), job(2, [hands(120)])], ONE, at(16), ENDS)).toMatchObject({ tomorrow: [2] });
    expect(planDay([job(1, [hands(20)])], ONE, at(18), ENDS)).toMatchObject({ stretches: [], tomorrow: [1] });
    expect(planDay([], ONE, NOW, ENDS)).toEqual({ stretches: [], idle: 0, tomorrow: [] });
  });

  test("a rested machine says what starting it would lose; times are said as a workshop says them", () => {
    expect(workOf(planDay([job(1, [hands(10, { losesRest: true })])], ONE, NOW, ENDS))[0]?.why).toBe("it is rested now, and starting it would lose that");
    expect([5, 99, 120, 250].map(lasting)).toEqual(["5 min", "99 min", "2 h", "4 h"]);
  });

  test("in the evening the longest charge that takes little is named, as far as chargers are free", () => {
    const rail = [
      job(1, [hands(20), hands(5), wait(600)]),
      job(2, [hands(5), wait(300)]),
      job(3, [hands(5), wait(60)]),
      job(4, [hands(90), wait(900)]),
      job(5, [hands(5), wait(800, "rest")]),
      job(6, [hands(5), wait(800)], { readyAt: at(20) }),
    ];
    expect(overnight(rail, { chargers: 1 }, at(17))).toEqual([{ jobId: 1, hands: 25, charge: 600 }]);
    expect(overnight(rail, { chargers: 3 }, at(17)).map(({ jobId }) => jobId)).toEqual([1, 2]);
    expect(overnight([...rail, job(7, [hands(1)], { onCharger: true, readyAt: at(22) })], { chargers: 1 }, at(17))).toEqual([]);
  });

  test("whatever the rail holds, no hands are in two places, no wait is cut, no charger is used twice", () => {
    const task = fc.oneof(
      fc.integer({ min: 1, max: 90 }).map((minutes) => hands(minutes)),
      fc.integer({ min: 10, max: 300 }).map((minutes) => wait(minutes)),
      fc.integer({ min: 10, max: 300 }).map((minutes) => wait(minutes, "rest")),
    );
    const jobs = fc.array(fc.tuple(fc.array(task, { maxLength: 5 }), fc.integer({ min: -60, max: 400 })), { maxLength: 9 });
    fc.assert(
      fc.property(jobs, fc.integer({ min: 1, max: 3 }), fc.integer({ min: 0, max: 2 }), (made, mechanics, chargers) => {
        const rail = made.map(([tasks, late], k) => job(k, [hands(3), ...tasks], { readyAt: NOW + late * 60_000 }));
        const plan = planDay(rail, { mechanics, chargers }, NOW, ENDS);
        const work = workOf(plan);
        for (const planned of work) {
          expect(planned.to).toBeLessThanOrEqual(ENDS);
          expect(planned.from).toBeGreaterThanOrEqual(Math.max(NOW, rail[planned.jobId]?.readyAt ?? 0));
          for (const other of work)
            if (other !== planned && other.mechanic === planned.mechanic) expect(planned.to <= other.from || other.to <= planned.from).toBe(true);
        }
        for (const { id } of rail) {
          const own = plan.stretches.filter(({ jobId }) => jobId === id).sort((a, b) => a.from - b.from || a.to - b.to);
          for (const [k, next] of own.slice(1).entries()) expect(next.from).toBeGreaterThanOrEqual(own[k]?.to ?? 0);
        }
        const charging = plan.stretches.filter(({ what }) => what === "charge");
        for (const { from } of charging) expect(charging.filter((other) => other.from <= from && from < other.to).length).toBeLessThanOrEqual(chargers);
      }),
      { numRuns: 60 },
    );
  });
});
