import { describe, expect, test } from "@jest/globals";
import { ac, context, reading, rest } from "../../tests/support/readings";
import { unlistedSheet } from "../machine/unlisted";
import { bandFor } from "./bands";
import { judgeAll, judgeOne } from "./judge";
import { parseSchoolName, SCHOOL_ROWS, schoolName, withRows } from "./schoolRows";
import { SCHOOLS, type School, schoolOf } from "./schools";

const [harbour, , parade] = SCHOOLS as [School, School, School];
const bare = unlistedSheet("three-phase-shunt", 12);
const limits = (school: School, step: Parameters<typeof bandFor>[0]) => {
  const band = bandFor(step, bare, school);
  return band?.kind === "between" ? [band.low, band.high] : undefined;
};

describe("rows of a shop's own", () => {
  test("are written behind the school's name and read back; what is not known is left out", () => {
    expect(schoolName("harbour", { drain: "5", crank: "9.6" })).toBe("harbour;crank=9.6;drain=5");
    expect(schoolName("harbour", { crank: "" })).toBe("harbour");
    expect(parseSchoolName("patrol;crank=9.6;moon=full;drain=7")).toEqual({ preset: "patrol", choices: { crank: "9.6" } });
    expect(schoolOf("patrol;moon=full")).toBe(SCHOOLS[1]);
    expect(schoolOf("harbour;crank=9.6;drain=5")).toMatchObject({ id: "harbour;crank=9.6;drain=5", title: "Harbour with 2 of its own" });
  });

  test.each(SCHOOL_ROWS.flatMap(({ id, options }) => options.map((option) => [id, option.id] as const)))("%s=%s leaves a whole school", (row, option) => {
    for (const school of SCHOOLS) {
      const changed = withRows(school, { [row]: option });
      expect([...changed.order].sort()).toEqual([...school.order].sort());
      for (const { low, high, says } of changed.bands) {
        expect(says).not.toMatch(/NaN|undefined/);
        if (low !== undefined && high !== undefined) expect([says, low < high]).toEqual([says, true]);
      }
    }
  });

  test.each<[string, string, Parameters<typeof bandFor>[0], (number | undefined)[]]>([
    ["rest", "12.4", { test: "battery.rest" }, [12.4, 13.1]],
    ["crank", "9", { test: "battery.crank" }, [9, undefined]],
    ["ceiling", "15.5", { test: "charge.volts", rpm: 5000, loads: "normal" }, [14, 15.5]],
    ["ceiling", "none", { test: "charge.volts", rpm: 5000, loads: "normal" }, [14, undefined]],
    ["floor", "13.5", { test: "charge.volts", rpm: 5000, loads: "normal" }, [13.5, 14.8]],
    ["diode", "0.2-0.8", { test: "regulator.diode", at: "1>B+" }, [0.2, 0.8]],
    ["drain", "25", { test: "drain.current" }, [undefined, 25]],
    ["worn", "80", { test: "battery.conductance" }, [80, undefined]],
  ])("%s=%s: the band follows", (row, option, step, band) => {
    expect(limits(withRows(harbour, { [row]: option }), step)).toEqual(band);
  });

  test("order, rest, speed and way of judging follow", () => {
    const own = withRows(harbour, { order: "regulator", hours: "2", rpm: "3000", judging: "rise", first: "ac", partner: "set" });
    expect(own).toMatchObject({ restHours: 2, testRpm: 3000, chargingBy: "rise", statorFirst: "ac", partner: "set" });
    expect(own.order.indexOf("regulator")).toBeLessThan(own.order.indexOf("stator"));
    expect(withRows(parade, { order: "stator" }).order.indexOf("stator")).toBeLessThan(parade.order.indexOf("stator"));
    const low = judgeAll([rest(12.7), reading("charge.volts", 13.2, { rpm: 5000, loads: "normal" })], { ...context(), sheet: bare, school: own });
    expect(low[1]?.judged).toBe("low");
    expect(low[1]?.band?.says).toContain("over the 12.70 V rest");
  });

  test("without a ceiling volts are high only where they climb on with the speed", () => {
    const own = { ...context(), sheet: bare, school: withRows(harbour, { ceiling: "none" }) };
    const judged = (idle: number, fast: number) =>
      judgeAll([reading("charge.volts", idle, { rpm: "idle", loads: "normal" }), reading("charge.volts", fast, { rpm: 5000, loads: "normal" })], own)[1]
        ?.judged;
    expect(judged(15.3, 15.4)).toBe("in");
    expect(judged(13.1, 14.6)).toBe("in");
    expect(judged(14.2, 16.4)).toBe("high");
  });

  test("equality first only notes what is low and alike, and still finds the odd leg", () => {
    const own = { ...context(), sheet: bare, school: withRows(harbour, { balance: "balance" }) };
    const judged = (values: [number, number, number]) => judgeAll(ac(values), own).map(({ judged: how }) => how);
    expect(judgeAll(ac([22, 22, 21.5]), { ...own, school: harbour }).map(({ judged: how }) => how)).toEqual(["low", "low", "low"]);
    expect(judged([22, 22, 21.5])).toEqual(["info", "info", "info"]);
    expect(judged([22, 22, 9])).toContain("low");
    expect(judged([60, 60, 40])).toEqual(["in", "in", "unequal"]);
  });

  test("a tester that speaks in amps is held to the share that the shop asks of one in percent", () => {
    const around = { ...context(), sheet: { ...context().sheet, battery: { chemistry: "agm" as const, ah: 12, cca: 100 } } };
    expect(judgeOne(reading("battery.crankingAmps", 75), around).judged).toBe("in");
    expect(judgeOne(reading("battery.crankingAmps", 75), { ...around, school: withRows(harbour, { worn: "80" }) }).judged).toBe("low");
  });
});
