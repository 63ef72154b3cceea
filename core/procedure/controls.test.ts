import { describe, expect, test } from "@jest/globals";
import { unlistedSheet } from "../machine/unlisted";
import { controlsOf } from "./controls";
import { judgeAll } from "./judge";
import { SCHOOLS, type School } from "./schools";
import type { Reading } from "./step";

const [school] = SCHOOLS as [School];
const sheet = unlistedSheet("three-phase-shunt", 12);
const meter = { name: "Bench meter", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 };

function controls(complaint: string[], readings: Omit<Reading, "id">[], of = sheet) {
  const judged = judgeAll(
    readings.map((reading, k) => ({ ...reading, id: `${k}` })),
    { sheet: of, school, meter, ambientC: 20 },
  );
  return controlsOf(of, complaint, judged);
}

const REST = { test: "battery.rest", value: 12.75 } as const;
const CRANK = { test: "battery.crank", value: 10.8 } as const;
const RUN = { test: "charge.volts", rpm: sheet.testRpm, loads: "all", value: 14.2 } as const;

describe("a plain cause", () => {
  test("is confirmed by three readings, and says what they rule out", () => {
    expect(controls(["key-left-on"], [])).toMatchObject({ causes: ["Key or lights left on?"], passed: false, failed: undefined, says: "" });
    expect(controls(["key-left-on"], [REST, CRANK])?.passed).toBe(false);
    const done = controls(["key-left-on"], [REST, CRANK, RUN]);
    expect(done?.passed).toBe(true);
    expect(done?.says).toBe(
      `Read: rest volts 12.75 V; crank dip 10.80 V; charging volts at the battery, ${sheet.testRpm.toLocaleString("en")} rpm, all loads 14.20 V. Ruled out: a battery that holds no charge; battery and starter under load; rotor, stator, regulator and their wiring.`,
    );
  });

  test("is not believed against a reading out of its band", () => {
    const found = controls(["key-left-on"], [REST, { ...CRANK, value: 7.2 }, RUN]);
    expect(found?.passed).toBe(false);
    expect(found?.failed?.step.test).toBe("battery.crank");
  });

  test("leaves its battery flat: it is charged and read again before anything is held against it", () => {
    const flat = controls(["key-left-on"], [{ ...REST, value: 11.9 }]);
    expect(flat).toMatchObject({ charge: true, failed: undefined });
    const charged = controls(["key-left-on"], [{ ...REST, value: 11.9 }, { ...REST, charged: true }, { ...CRANK, charged: true }, RUN]);
    expect(charged).toMatchObject({ charge: false, passed: true });
    expect(controls(["key-left-on"], [{ ...REST, value: 11.9, charged: true }])?.failed?.step.test).toBe("battery.rest");
  });

  test("is none where the complaint speaks of the system, where none was named, or where only a part came in", () => {
    expect(controls(["key-left-on", "flat-after-ride"], [REST])).toBeUndefined();
    expect(controls(["slow-crank"], [REST])).toBeUndefined();
    expect(controls(["key-left-on"], [REST], { ...sheet, loose: "battery" })).toBeUndefined();
  });
});
