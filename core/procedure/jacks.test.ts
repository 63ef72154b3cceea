import { describe, expect, test } from "@jest/globals";
import { CATALOGUE, testOf } from "./catalogue";
import { isReadIn, JACK_IDS, type Jack, jackFor, wrongJackWords } from "./jacks";

describe("where a meter's lead sits", () => {
  test.each<[string, Parameters<typeof testOf>[0], readonly Jack[]]>([
    ["volts", "battery.rest", ["volts"]],
    ["AC volts", "stator.acVolts", ["volts"]],
    ["ohms", "stator.resistance", ["volts"]],
    ["a diode", "regulator.diode", ["volts"]],
    ["a draw", "drain.current", ["amps", "milliamps"]],
    ["charging amps", "charge.current", ["clamp"]],
    ["what eyes see", "inspect.connector", []],
    ["what a tester says", "battery.conductance", []],
  ])("for %s", (_what, id, jacks) => {
    expect(JACK_IDS.filter((jack) => isReadIn(jack, testOf(id)))).toEqual(jacks);
  });

  test("every test of a meter can be read where its lead belongs", () => {
    const metered = CATALOGUE.filter(({ dial }) => dial !== "eyes" && dial !== "tester");
    expect(metered.length).toBeGreaterThan(20);
    expect(metered.filter((metered) => !isReadIn(jackFor(metered), metered))).toEqual([]);
  });

  test("a lead in the wrong jack is said before it shorts anything", () => {
    expect(wrongJackWords("amps", testOf("charge.volts"))).toMatch(/dead short there\. Move it to the V and Ω jack before the probes touch anything/);
    expect(wrongJackWords("milliamps", testOf("stator.acVolts"))).toMatch(/in the milliamps jack still/);
    expect(wrongJackWords("volts", testOf("drain.current"))).toMatch(/^Key out\. Move the red lead to the amps jack/);
    expect(wrongJackWords("volts", testOf("charge.current"))).toMatch(/clamp, closed round the cable/);
    expect(wrongJackWords("clamp", testOf("charge.volts"))).toMatch(/read with probes, the red lead in the V and Ω jack/);
  });
});
