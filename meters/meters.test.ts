import { connect, type Server, type Socket } from "node:net";
import { afterEach, describe, expect, test } from "@jest/globals";
import type { Sheet } from "../core/machine/sheet";
import { ASSUMED_METER } from "../core/meter/meter";
import { DEMO_SHEETS } from "../demo/sheets";
import { PlayedMeter } from "./played";
import { serveLines, serveScpi } from "./scpi";

const sheet = DEMO_SHEETS.find(({ id }) => id === "ostrel-burro-520") as Sheet;
const sound = (): PlayedMeter => new PlayedMeter(sheet, [], ASSUMED_METER, () => 0.9);
/** What is shown over some seconds, ten times a second. */
const watch = (meter: PlayedMeter, from: number, seconds: number) =>
  Array.from({ length: Math.round(seconds * 10) }, (_, k) => meter.show(from + k / 10).value);

describe("a machine with a meter on it", () => {
  test("shows a little of what is in the air while its probes are off, and the open line on ohms", () => {
    const meter = sound();
    meter.lift();
    expect(watch(meter, 0, 2).every((value) => typeof value === "number" && Math.abs(value) < 0.25)).toBe(true);
    meter.turn("Ω", 2);
    expect(meter.show(3)).toEqual({ value: "OL", unit: "Ω" });
  });

  test("is found with its probes on the battery of a machine at rest; a speed is an engine's that runs", () => {
    const meter = sound();
    expect(watch(meter, 1, 2).at(-1)).toBeGreaterThan(12.2);
    expect(watch(meter, 3, 1).at(-1)).toBeLessThan(13);
    expect(meter.stand("rpm=5000 loads=all", 10)).toEqual([]);
    expect(watch(meter, 10.2, 4).at(-1)).toBeGreaterThan(13.2);
  });

  test("finds its range, then shows what the circuit has; revved it charges", () => {
    const meter = sound();
    expect(meter.stand("engine=running rpm=5000 loads=normal red=battery+ black=battery-", 0)).toEqual([]);
    const values = watch(meter, 0.2, 4);
    expect(values[0]).toBe("ranging");
    expect(values.at(-1)).toBeGreaterThan(13.5);
    expect(values.at(-1)).toBeLessThan(15);
  });

  test("stands as a step asks for: ohms of a pair behind the tips, a crank that dips and is over", () => {
    const meter = sound();
    expect(meter.standFor("stator.toGround~1", 0)).toEqual([]);
    expect(meter.show(0.6).value).toBeCloseTo(ASSUMED_METER.leadOhms, 1);
    expect(meter.show(2).value).toBe("OL");
    expect(meter.standFor("battery.crank", 10)).toEqual([]);
    const dip = watch(meter, 10.5, 3).filter((value) => typeof value === "number");
    expect(Math.min(...dip)).toBeLessThan(11.5);
    expect(meter.held(13)?.least).toBeLessThan(Math.min(...dip));
    expect(meter.show(16).value).toBeGreaterThan(12);
  });

  test("has its leads off on the way from one pair of points to another, and not while they stay where they are", () => {
    const meter = sound();
    meter.standFor("charge.volts~~5000~normal", 0);
    expect(watch(meter, 0.2, 2).at(-1)).toBeGreaterThan(13);
    meter.standFor("charge.volts~~5000~all", 10);
    expect(meter.show(10.3).value).toBeGreaterThan(10);
    meter.standFor("charge.outputVolts~~5000~normal", 20);
    for (const at of [20.05, 20.2, 20.45]) expect(meter.show(at).value).toBeLessThan(0.2);
    expect(watch(meter, 20.7, 2).at(-1)).toBeGreaterThan(13);
  });

  test("along a conductor touches something live first, then the points, and once more where nobody took it", () => {
    const meter = sound();
    expect(meter.standFor("charge.positiveDrop~~5000~normal", 0)).toEqual([]);
    expect(watch(meter, 0.2, 0.9).at(-1)).toBeGreaterThan(13);
    const drop = watch(meter, 2.4, 3).at(-1);
    expect(drop).toBeGreaterThan(0.03);
    expect(drop).toBeLessThan(0.2);
    const later = watch(meter, 5.4, 8).filter((value) => typeof value === "number");
    expect(Math.max(...later)).toBeGreaterThan(13);
    expect(meter.standFor("stator.legDrop~2~5000~normal", 20)).toEqual([]);
    expect(watch(meter, 20.2, 1.4).at(-1)).toBeGreaterThan(8);
    expect(watch(meter, 22.4, 2).at(-1)).toBeLessThan(0.4);
  });

  test("a drop of a starter's cable stands while it cranks, is the battery's volts before its contact closes, and comes again", () => {
    const meter = sound();
    expect(meter.standFor("starter.cableDrop", 10)).toEqual([]);
    const cranking = watch(meter, 10.9, 2.5).filter((value) => typeof value === "number");
    expect(Math.max(...cranking)).toBeLessThan(1);
    expect(Math.min(...cranking)).toBeGreaterThan(0.02);
    expect(watch(meter, 14.7, 2).at(-1)).toBeGreaterThan(11);
    expect(watch(meter, 19.9, 2).at(-1)).toBeLessThan(1);
  });

  test("a dip that nobody took comes again, until the hands are set to something else", () => {
    const meter = sound();
    const lowest = (from: number, lasting: number): number => Math.min(...watch(meter, from, lasting).filter((value) => typeof value === "number"));
    expect(meter.standFor("battery.crank", 0)).toEqual([]);
    expect(lowest(0.9, 3)).toBeLessThan(11.5);
    expect(lowest(6, 2)).toBeGreaterThan(12);
    expect(lowest(9.5, 3)).toBeLessThan(11.5);
    expect(meter.stand("engine=off key=out", 14)).toEqual([]);
    expect(lowest(15, 12)).toBeGreaterThan(12);
  });

  test("an open line that nobody took is shown with the tips together again; a figure stays", () => {
    const meter = sound();
    const rangedAt = (at: number): unknown => [meter.show(at), meter.show(at + 0.5)][1]?.value;
    meter.standFor("stator.toGround~1", 0);
    expect([rangedAt(3), rangedAt(8.2), rangedAt(10)]).toEqual(["OL", expect.closeTo(ASSUMED_METER.leadOhms, 1), "OL"]);
    meter.standFor("stator.resistance~1-2", 20);
    const figure = rangedAt(23) as number;
    expect(figure).toBeGreaterThan(ASSUMED_METER.leadOhms + 0.1);
    expect(rangedAt(28.2)).toBeCloseTo(figure, 1);
  });

  test("a fault stays with it however it is set", () => {
    const meter = new PlayedMeter(sheet, [{ fault: "regulator.no-output" }], ASSUMED_METER, () => 0.9);
    meter.stand("engine=running rpm=5000 red=battery+ black=battery-", 0);
    expect(watch(meter, 0.2, 4).at(-1)).toBeLessThan(13);
  });

  test("is put sound again, with a plug parted, as a rig stands", () => {
    const meter = new PlayedMeter(sheet, [{ fault: "regulator.no-output" }], ASSUMED_METER, () => 0.9);
    expect(meter.stand("engine=running rpm=5000 unplug=none pulled=none fault=none red=battery+ black=battery-", 0)).toEqual([]);
    expect(watch(meter, 0.2, 4).at(-1)).toBeGreaterThan(13.5);
    expect(meter.stand("unplug=stator,unit", 10)).toEqual([]);
    expect(watch(meter, 10.2, 4).at(-1)).toBeLessThan(13);
  });

  test.each([
    ["rpm=fast", "rpm", /must be a number/],
    ["gear=3", "gear", /nothing that can be set/],
    ["red=moon", "red", /must be one of/],
    ["faster", "set", /must be name=value/],
  ])("%s is refused", (text, field, says) => {
    const [problem] = sound().stand(text, 0);
    expect([problem?.field, problem?.error]).toEqual([field, expect.stringMatching(says)]);
  });

  test("a step that is none of the machine's is refused", () => {
    expect(sound().standFor("stator.warp~1", 0)[0]?.error).toContain("is no test");
    expect(sound().standFor("stator.resistance~7-9", 0)[0]?.error).toMatch(/is not a point/);
  });
});

let open: Server | undefined;
const talking = new Set<Socket>();
afterEach(async () => {
  for (const socket of talking) socket.destroy();
  talking.clear();
  await new Promise<void>((resolve) => (open ? open.close(() => resolve()) : resolve()));
  open = undefined;
});

/** Sends text to a server and gives the lines that come back. */
async function converse(server: Server, text: string, lines: number, split = false): Promise<string[]> {
  open = server;
  const port = await new Promise<number>((resolve) => server.listen(0, "127.0.0.1", () => resolve((server.address() as { port: number }).port)));
  return new Promise((resolve, reject) => {
    const socket = connect({ host: "127.0.0.1", port });
    talking.add(socket);
    let heard = "";
    socket.on("error", reject);
    socket.on("data", (data) => {
      heard += String(data);
      if (heard.split("\n").length > lines) {
        socket.destroy();
        resolve(heard.trim().split("\n").slice(0, lines));
      }
    });
    socket.on("connect", () => {
      if (!split) socket.write(text);
      else for (const letter of text) socket.write(letter);
    });
  });
}

describe("a stand-in spoken to", () => {
  test("says who it is, what it measures and what was wrong, one answer a line, several commands in one", async () => {
    const text = "*IDN?\nCONF:RES;CONF?\nBLAH\nSYST:ERR?;SYST:ERR?\nMEASURE:VOLTAGE:DC?\nFETC?\n";
    const [who, what, error, volts, again] = await converse(serveScpi(sound(), "bench"), text, 5);
    expect(who).toBe("UVREL,STAND-IN BENCH,ostrel-burro-520,1");
    expect(what).toBe('"RES"');
    expect(error).toBe('-113,"Undefined header; BLAH";+0,"No error"');
    expect(Number(volts)).not.toBeNaN();
    expect(Number(again)).not.toBeNaN();
  });

  test("puts pieces together", async () => {
    expect(await converse(serveScpi(sound(), "bench"), "*IDN?\r\n", 1, true)).toEqual([expect.stringContaining("STAND-IN BENCH")]);
  });

  test("lives through an endless line", async () => {
    const [after] = await converse(serveScpi(sound(), "clamp"), `${"x".repeat(3000)}\n*CLS\n*IDN?\n`, 1);
    expect(after).toContain("STAND-IN CLAMP");
  });

  test("a logger's lines hold time, figure and unit, in order", async () => {
    const meter = sound();
    meter.stand("red=battery+ black=battery-", performance.now() / 1000);
    const lines = await converse(serveLines(meter, 200), "", 20);
    const cells = lines.map((line) => line.split(","));
    expect(cells.every(([, figure, unit]) => Number.isFinite(Number(figure)) && unit === "V")).toBe(true);
    const times = cells.map(([time]) => Number(time));
    expect([...times].sort((a, b) => a - b)).toEqual(times);
  });
});
