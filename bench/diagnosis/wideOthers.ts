import { Chance } from "./chance";
import { Alternator, Generator } from "./excited";
import type { SheetData } from "./kinds";
import { OneMachine } from "./others";
import type { Machine } from "./world";

/** What is told of a machine that nobody has a sheet for. */
interface Told {
  family: string;
  systemVolts: number;
  kind: string;
}

/** The machine of a sheet, in this world. */
export function machineOf(sheet: SheetData, seed: number): Machine {
  if (sheet.family === "field-excited") return new Alternator(sheet, seed);
  if (sheet.family === "dc-generator") return new Generator(sheet, seed);
  return new OneMachine(sheet, seed);
}

interface Wide {
  kinds: string[];
  legs: string[];
  amps: [number, number];
  ah: [number, number];
  idle: [number, number];
  testRpm: number;
  poles: [number, number];
  /** Where ohms and volts at 5,000 rpm are printed, in this world's own books. */
  coils: { at: string; volts: [number, number]; ohms: [number, number] }[];
  set: [number, number];
}

const WIDE: Record<string, Wide> = {
  "single-phase-two-wire": {
    kinds: ["mower", "outboard"],
    legs: ["1", "2"],
    amps: [10, 20],
    ah: [14, 40],
    idle: [1400, 1850],
    testRpm: 3600,
    poles: [5, 8],
    coils: [{ at: "1-2", volts: [40, 64], ohms: [0.1, 0.45] }],
    set: [13.9, 14.7],
  },
  "single-phase-common": {
    kinds: ["motorcycle"],
    legs: ["C", "M", "A"],
    amps: [6.5, 10],
    ah: [8, 14],
    idle: [1050, 1350],
    testRpm: 5000,
    poles: [3, 4],
    coils: [
      { at: "C-M", volts: [18, 25], ohms: [0.3, 0.55] },
      { at: "C-A", volts: [18, 25], ohms: [0.7, 1.15] },
    ],
    set: [13.8, 14.8],
  },
  "ground-referenced-pair": {
    kinds: ["scooter", "atv"],
    legs: ["C", "L"],
    amps: [2.2, 5.5],
    ah: [4, 9],
    idle: [1500, 1900],
    testRpm: 5000,
    poles: [3, 5],
    coils: [
      { at: "C", volts: [22, 33], ohms: [0.35, 1.1] },
      { at: "L", volts: [15, 23], ohms: [0.25, 0.7] },
    ],
    set: [13.9, 14.8],
  },
  "dual-output-unregulated": {
    kinds: ["mower"],
    legs: ["D", "A"],
    amps: [2.2, 4.8],
    ah: [14, 28],
    idle: [1600, 1900],
    testRpm: 3600,
    poles: [5, 7],
    coils: [
      { at: "D", volts: [30, 48], ohms: [0.3, 0.65] },
      { at: "A", volts: [18, 28], ohms: [0.2, 0.55] },
    ],
    set: [13.5, 15],
  },
  "multi-winding": {
    kinds: ["motorcycle", "snowmobile"],
    legs: ["1", "2", "3", "4"],
    amps: [11, 25],
    ah: [10, 22],
    idle: [1100, 1700],
    testRpm: 5000,
    poles: [5, 8],
    coils: [
      { at: "1-2", volts: [47, 64], ohms: [0.35, 0.85] },
      { at: "3-4", volts: [94, 128], ohms: [1.3, 2.1] },
    ],
    set: [13.9, 14.8],
  },
  "field-excited": {
    kinds: ["boat", "motorcycle"],
    legs: ["1", "2", "3", "F1", "F2"],
    amps: [30, 85],
    ah: [18, 110],
    idle: [750, 1100],
    testRpm: 3000,
    poles: [6, 16],
    coils: [],
    set: [13.8, 14.6],
  },
  "dc-generator": {
    kinds: ["motorcycle"],
    legs: ["A", "F"],
    amps: [7.5, 14],
    ah: [7, 16],
    idle: [900, 1250],
    testRpm: 3000,
    poles: [2, 3],
    coils: [],
    set: [13.8, 14.8],
  },
};

/** An outboard idles at a propeller's pace, whatever generator it carries. */
const OUTBOARD_IDLE: [number, number] = [650, 950];

export const OTHER_FAMILIES = Object.keys(WIDE);

/** A machine of a family from wide ranges: its true sheet is this world's own, the program is told what eyes see. */
export function wideOther(family: string, seed: number): { sheet: SheetData; told: Told } {
  const c = new Chance(seed ^ 0x3c6ef372);
  const wide = WIDE[family] as Wide;
  const kind = c.pick(wide.kinds);
  const systemVolts = family === "dc-generator" && c.yes(0.5) ? 6 : 12;
  const scale = systemVolts / 12;
  const amps = c.decades(...wide.amps);
  const ah = c.decades(...wide.ah);
  const normal = amps * c.between(0.22, 0.42);
  const band = (test: string, middle: number, at?: string, rpm?: number) => ({
    test,
    ...(at ? { at } : {}),
    low: 0.9 * middle,
    high: 1.1 * middle,
    ...(rpm ? { rpm } : {}),
  });
  // A sound machine's windings are above what its battery asks for at the speed it is tested at.
  const coils = wide.coils.flatMap(({ at, volts, ohms }) => [
    band("stator.acVolts", c.between(...volts), at, 5000),
    band("stator.resistance", c.decades(...ohms), at),
  ]);
  const sheet: SheetData = {
    id: `wide-${family}-${seed}`,
    family,
    systemVolts,
    winding: c.yes(0.7) ? "wye" : "delta",
    polePairs: Math.round(c.between(...wide.poles)),
    ratedAmps: amps,
    loadAmps: { normal, all: Math.min(0.62 * amps, normal * c.between(1.2, 1.7)) },
    sense: c.yes(0.3) ? "battery" : "output",
    legs: wide.legs.map((id) => ({ id })),
    fuses: [{ id: "main", amps: family === "field-excited" ? 80 : 25 }],
    battery: { chemistry: "flooded", ah, cca: ah * c.between(10, 15) },
    idleRpm: Math.round(c.between(...(kind === "outboard" ? OUTBOARD_IDLE : wide.idle))),
    testRpm: kind === "motorcycle" && family === "field-excited" ? 5000 : wide.testRpm,
    bands: [
      band("charge.volts", scale * c.between(...wide.set)),
      ...coils,
      ...(family === "field-excited" ? [band("field.resistance", c.between(3.2, 4.8))] : []),
      ...(family === "dc-generator" ? [band("generator.field", c.between(2.7, 4.6) * scale)] : []),
    ],
  };
  return { sheet, told: { family, systemVolts, kind } };
}
