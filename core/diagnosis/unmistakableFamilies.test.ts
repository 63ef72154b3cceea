import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Part } from "../machine/part";
import { unlistedSheet } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { advise } from "./advice";

/** As the unmistakable cases of three-phase machines: a few readings of one or two digits, written down by hand. */
const METER = { name: "coarse", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 };
type Written = Omit<Reading, "id">;
type Case = [name: string, leads: Part | "nothing", readings: Written[]];

const rest = (value: number, charged = false): Written => ({ test: "battery.rest", value, charged });
const crank = (value: number, charged = false): Written => ({ test: "battery.crank", value, charged });
const runs = (rpm: number) => ({
  fast: (value: number): Written => ({ test: "charge.volts", rpm, loads: "normal", value }),
  loaded: (value: number): Written => ({ test: "charge.volts", rpm, loads: "all", value }),
  ac: (at: string, value: number): Written => ({ test: "stator.acVolts", at, rpm, value }),
  atUnit: (at: string, value: number): Written => ({ test: "stator.acVoltsAtUnit", at, rpm, value }),
  legDrop: (at: string, value: number): Written => ({ test: "stator.legDrop", at, rpm, loads: "normal", value }),
  lead: (value: number): Written => ({ test: "stator.dcVolts", at: "D", rpm, value }),
  drops: (out: number, home: number): Written[] => [
    { test: "charge.positiveDrop", rpm, loads: "normal", value: out },
    { test: "charge.groundDrop", rpm, loads: "normal", value: home },
  ],
});
const ohms = (at: string, value: number | "OL"): Written => ({ test: "stator.resistance", at, value });
const toCase = (at: string, value: number | "OL"): Written => ({ test: "stator.toGround", at, value });
const diode = (at: string, value: number | "OL"): Written => ({ test: "regulator.diode", at, value });
const feed = (value: number): Written => ({ test: "regulator.feed", value });
const ground = (value: number | "OL"): Written => ({ test: "regulator.ground", value, raw: true });
const drain = (value: number): Written => ({ test: "drain.current", value });

const says = (test: "inspect.belt" | "inspect.brushes" | "generator.motoring", value: string): Written => ({ test, value });
const field = (value: number | "OL"): Written => ({ test: "field.resistance", value });
const supply = (value: number): Written => ({ test: "field.supply", value });
const wound = (value: number | "OL"): Written => ({ test: "generator.field", value });
const armature = (value: number | "OL"): Written => ({ test: "generator.armature", value });
const alone = (value: number): Written => ({ test: "generator.output", rpm: "idle", value });
const atUnit = (at: "A" | "F", value: number | "OL"): Written => ({ test: "generator.atUnit", at, value });
const fullField = (value: number): Written => ({ test: "field.fullField", rpm: 3000, value });

const boat = runs(3000);
const mower = runs(3600);
const road = runs(5000);

const CASES: Record<string, { sheet: string; cases: Case[] }> = {
  "single-phase-two-wire": {
    sheet: "mossgate-cloister-18",
    cases: [
      [
        "39 V AC on the garden tractor, live feed, good case ground, no rise",
        "regulator",
        [
          rest(12.4),
          crank(10.4),
          mower.fast(12.3),
          mower.ac("1-2", 30),
          mower.atUnit("1-2", 30),
          mower.legDrop("1", 0),
          mower.legDrop("2", 0),
          feed(12.3),
          ground(0.2),
        ],
      ],
      ["a wire to the case, nothing charged", "stator", [rest(12.2), mower.fast(12.2), toCase("1", 0.3), toCase("2", 0.4), ohms("1-2", 0.4)]],
      ["no AC, the winding open", "stator", [rest(12.3), mower.fast(12.2), mower.ac("1-2", 1), ohms("1-2", "OL"), toCase("1", "OL"), toCase("2", "OL")]],
      [
        "the case has no ground, read twice and seen",
        "wiring",
        [rest(12.4), mower.fast(12.3), mower.ac("1-2", 30), feed(12.3), ground("OL"), ground("OL"), { test: "inspect.ground", value: "broken" }],
      ],
      ["everything right", "nothing", [rest(12.7), crank(10.9), mower.fast(14.2), mower.loaded(14.1), toCase("1", "OL"), mower.ac("1-2", 30), drain(1)]],
    ],
  },
  "single-phase-common": {
    sheet: "corvane-tern-400",
    cases: [
      [
        "the main winding open",
        "stator",
        [rest(12.3), road.fast(12.6), road.loaded(12.1), ohms("C-M", "OL"), ohms("C-A", 1.1), ohms("M-A", "OL"), road.ac("C-M", 1), road.ac("C-A", 24)],
      ],
      ["a wire to the case", "stator", [rest(12.3), road.fast(12.4), toCase("C", 0.3), toCase("M", 0.5), toCase("A", 1)]],
      [
        "the unit's lower half dead",
        "regulator",
        [
          rest(12.3),
          road.fast(12.2),
          toCase("C", "OL"),
          ...["C", "M", "A"].flatMap((leg) => [diode(`${leg}>B+`, 0.5), diode(`B->${leg}`, "OL")]),
          road.ac("C-M", 25),
          road.ac("C-A", 25),
        ],
      ],
      [
        "everything right",
        "nothing",
        [
          rest(12.7),
          crank(10.8),
          road.fast(14.2),
          road.loaded(13.8),
          ...road.drops(0.1, 0),
          toCase("C", "OL"),
          ...["C", "M", "A"].flatMap((leg) => [diode(`${leg}>B+`, 0.5), diode(`B->${leg}`, 0.5)]),
          road.ac("C-M", 25),
          road.ac("C-A", 25),
          drain(1),
        ],
      ],
    ],
  },
  "ground-referenced-pair": {
    sheet: "corvane-dabchick-50",
    cases: [
      [
        "the charging coil dead, the lighting coil good",
        "stator",
        [rest(12.2), road.fast(12.1), ohms("C", "OL"), ohms("L", 0.6), road.ac("C", 0), road.ac("L", 19)],
      ],
      [
        "both coils right and nothing charged",
        "regulator",
        [
          rest(12.3),
          road.fast(12.2),
          ohms("C", 0.8),
          road.ac("C", 28),
          road.ac("L", 19),
          road.atUnit("C", 28),
          road.legDrop("C", 0),
          feed(12.2),
          ground(0.2),
          { test: "fuse.continuity", at: "main", value: 0.2, raw: true },
        ],
      ],
      [
        "nothing at the unit's output, its fuse melted: the unit shorts it",
        "regulator",
        [
          rest(12.5),
          crank(10.7),
          road.fast(12.5),
          { test: "charge.outputVolts", rpm: 5000, loads: "normal", value: 0.1 },
          { test: "charge.outputVolts", rpm: 5000, loads: "normal", value: 0 },
          { test: "charge.positiveDrop", rpm: 5000, loads: "normal", value: -12.5 },
        ],
      ],
      ["climbs past every ceiling", "regulator", [rest(12.9), road.fast(17.1), road.loaded(16.2), road.ac("C", 28)]],
      [
        "everything right",
        "nothing",
        [rest(12.7), crank(10.6), road.fast(14.1), road.loaded(13.9), ohms("C", 0.8), ohms("L", 0.6), ...road.drops(0.1, 0), road.ac("C", 28), drain(1)],
      ],
    ],
  },
  "dual-output-unregulated": {
    sheet: "mossgate-pavilion-12",
    cases: [
      ["the DC lead dead, lamp AC right", "stator", [rest(12.1), mower.fast(12), mower.lead(0), mower.ac("A", 15)]],
      [
        "the diode in the lead open",
        "stator",
        [rest(12.1), mower.fast(12), mower.lead(0.1), { test: "stator.diode", at: "G>D", value: "OL" }, { test: "stator.diode", at: "D>G", value: "OL" }],
      ],
      [
        "both leads low alike",
        "rotor",
        [rest(12.2), crank(10.4), mower.fast(12.3), mower.lead(5), mower.ac("A", 7), ohms("A", 0.6), { test: "rotor.pull", value: "weak-all" }],
      ],
      [
        "15 V with nothing on, and right",
        "nothing",
        [
          rest(12.7),
          { test: "battery.settled", value: 12.6 },
          crank(11.1),
          mower.fast(14.7),
          mower.loaded(14.4),
          mower.lead(11),
          mower.ac("A", 15),
          { test: "charge.positiveDrop", rpm: 3600, loads: "normal", value: 0.1 },
          mower.legDrop("D", 0),
          drain(0.5),
        ],
      ],
    ],
  },
  "multi-winding": {
    sheet: "brannoch-tor-440",
    cases: [
      [
        "the charging pair open, the auxiliary pair good",
        "stator",
        [rest(12.3), road.fast(12.8), road.loaded(12.3), ohms("1-2", "OL"), ohms("3-4", 1.9), road.ac("1-2", 1), road.ac("3-4", 108)],
      ],
      [
        "both pairs right on the four-pin and no charge",
        "regulator",
        [
          rest(12.4),
          road.fast(12.3),
          ohms("1-2", 0.8),
          ohms("3-4", 1.9),
          toCase("1", "OL"),
          toCase("3", "OL"),
          road.ac("1-2", 54),
          road.ac("3-4", 108),
          road.atUnit("1-2", 54),
          road.atUnit("3-4", 108),
          feed(12.3),
          ground(0.2),
        ],
      ],
      ["a pair to the case", "stator", [rest(12.3), road.fast(12.6), toCase("1", 0.4), toCase("2", 0.5), toCase("3", "OL")]],
      [
        "everything right",
        "nothing",
        [rest(12.8), crank(10.8), road.fast(14.2), road.loaded(14.1), toCase("1", "OL"), toCase("3", "OL"), road.ac("1-2", 54), road.ac("3-4", 108), drain(1)],
      ],
    ],
  },
  "field-excited": {
    sheet: "tidewright-farway-29",
    cases: [
      ["field open at the brushes", "rotor", [rest(12.4), boat.fast(12.2), says("inspect.belt", "ok"), field("OL"), supply(12.2), fullField(12.2)]],
      [
        "full field brings it at once",
        "regulator",
        [
          rest(12.5),
          boat.fast(12.3),
          says("inspect.belt", "ok"),
          field(4.1),
          { test: "field.resistanceAtUnit", value: 4.2 },
          supply(12.3),
          fullField(15.4),
          ground(0.2),
        ],
      ],
      ["no feed to the field", "wiring", [rest(12.5), boat.fast(12.2), says("inspect.belt", "ok"), field(4.2), supply(0.4), fullField(12.2)]],
      ["the belt is off", "drive", [rest(12.3), boat.fast(12.2), says("inspect.belt", "missing"), field(4.2), supply(12.1), fullField(12.2)]],
      [
        "the launch with all three steps right",
        "nothing",
        [
          rest(12.7),
          crank(11.2),
          boat.fast(14.2),
          boat.loaded(14.1),
          says("inspect.belt", "ok"),
          field(4.1),
          fullField(15.3),
          toCase("1", "OL"),
          ...["1-2", "2-3", "3-1"].map((at) => ohms(at, 0.3)),
          ...["1>B+", "2>B+", "3>B+", "B->1", "B->2", "B->3"].map((at) => diode(at, 0.5)),
          drain(1),
        ],
      ],
    ],
  },
  "dc-generator": {
    sheet: "corvane-merle-250",
    cases: [
      [
        "it turns as a motor and does not charge",
        "regulator",
        [
          rest(6.2),
          boat.fast(6.1),
          says("generator.motoring", "turns"),
          alone(2.7),
          wound(2.1),
          armature(0.2),
          atUnit("A", 0.3),
          atUnit("F", 2.1),
          { test: "regulator.feed", value: 6.1 },
          ground(0.2),
        ],
      ],
      ["the field is open", "stator", [rest(6.2), boat.fast(6.1), wound("OL"), armature(0.2), alone(0.2), says("generator.motoring", "hums")]],
      ["brushes worn to nothing", "rotor", [rest(6.2), boat.fast(6.1), says("generator.motoring", "nothing"), armature(40), says("inspect.brushes", "worn")]],
      ["a brush stuck in its holder", "rotor", [rest(6.2), boat.fast(6.1), says("generator.motoring", "nothing"), armature("OL"), wound("OL"), alone(0)]],
      [
        "it builds up backwards after a rebuild, read twice",
        "stator",
        [rest(6.2), boat.fast(6.1), alone(-2.8), alone(-2.7), wound(2), armature(0.2), says("generator.motoring", "turns")],
      ],
      ["everything right", "nothing", [rest(6.4), crank(5.2), boat.fast(7.1), boat.loaded(7), says("generator.motoring", "turns"), wound(2), drain(0.3)]],
    ],
  },
};

const EVERY = Object.entries(CASES).flatMap(([family, { sheet, cases }]) =>
  cases.flatMap((unmistakable) => [
    [`${family}, with its sheet`, sheetOf(sheet), ...unmistakable] as const,
    [`${family}, without a sheet`, unlistedSheet(family, sheetOf(sheet).systemVolts, sheetOf(sheet).kind), ...unmistakable] as const,
  ]),
);

test.each(EVERY)("%s", (_, sheet, name, leads, written) => {
  const advice = advise(populationOf(sheet), jobFacts(written, { meter: METER }));
  const odds = Object.fromEntries(advice.parts.map((part) => [part.what, part.odds])) as Record<Part, number>;
  const said = { name, status: advice.status, odds: leads === "nothing" ? undefined : odds[leads] };
  if (leads === "nothing") {
    expect(said).toMatchObject({ name, status: "healthy" });
    return;
  }
  expect(said).toEqual({ name, status: expect.not.stringMatching("contradiction"), odds: expect.anything() });
  expect([name, odds[leads] >= 0.8, odds[leads]]).toEqual([name, true, odds[leads]]);
});

/** What nothing holds back goes as high as magnets and battery let it, and no coil, wire or battery that failed lifts it there. */
const UNREGULATED = ["dual-output-unregulated"];
/** A dynamo's field that touches its housing is fed in full as well: its ohms tell. */
const BESIDE: Record<string, Written[]> = { "dc-generator": [wound(1.9)] };
test.each(
  Object.entries(CASES)
    .filter(([family]) => !UNREGULATED.includes(family))
    .flatMap(([family, { sheet: id }]) => [
      [`${family}, with its sheet`, sheetOf(id), BESIDE[family] ?? []] as const,
      [`${family}, without a sheet`, unlistedSheet(family, sheetOf(id).systemVolts, sheetOf(id).kind), BESIDE[family] ?? []] as const,
    ]),
)("%s: volts that climb past every ceiling are the regulator's", (_, sheet, beside) => {
  const scale = sheet.systemVolts / 12;
  const idle: Written = { test: "charge.volts", rpm: "idle", loads: "normal", value: 13.2 * scale };
  const { fast, loaded } = runs(sheet.testRpm);
  const advice = advise(populationOf(sheet), jobFacts([rest(12.9 * scale), idle, fast(16.6 * scale), loaded(16 * scale), ...beside], { meter: METER }));
  expect(advice.parts.find(({ what }) => what === "regulator")?.odds).toBeGreaterThanOrEqual(0.8);
});

describe("the cases", () => {
  test("are at least three a family, and one of them a sound machine", () => {
    for (const { cases } of Object.values(CASES)) {
      expect(cases.length).toBeGreaterThanOrEqual(3);
      expect(cases.some(([, leads]) => leads === "nothing")).toBe(true);
    }
  });
});
