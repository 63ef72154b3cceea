import type { Sheet, SheetBand } from "../core/machine/sheet";
import type { Wire } from "../core/machine/wire";

/** The invented makers' sheets of the demo workshop. Electrical figures are those of plausible machines of each kind. */

const yellow: Wire = { base: "yellow" };
const white: Wire = { base: "white" };

const legs = (...wires: Wire[]): Sheet["legs"] => wires.map((wire, i) => ({ id: String(i + 1), pin: String(i + 1), wire }));

/** The bands every one of these sheets prints, each with its page. */
function bands(
  chapter: string,
  own: { pair: [number, number]; ac5000: [number, number]; charge: [number, number]; drain: number },
): SheetBand[] {
  return [
    { test: "charge.volts", rpm: 5000, low: own.charge[0], high: own.charge[1], page: `${chapter}-4` },
    { test: "stator.resistance", low: own.pair[0], high: own.pair[1], page: `${chapter}-6` },
    { test: "stator.acVolts", rpm: 5000, low: own.ac5000[0], high: own.ac5000[1], page: `${chapter}-7` },
    { test: "drain.current", high: own.drain, page: `${chapter}-3` },
  ];
}

export const DEMO_SHEETS: readonly Sheet[] = [
  {
    id: "corvane-ferrel-650",
    maker: "Corvane",
    model: "Ferrel 650",
    years: "2016–2023",
    kind: "motorcycle",
    family: "three-phase-shunt",
    systemVolts: 12,
    earth: "negative",
    winding: "wye",
    polePairs: 9,
    legs: legs(yellow, yellow, yellow),
    statorConnector: { name: "C2", place: "behind the left side cover" },
    outputWire: { base: "red", tracer: "white" },
    groundWire: { base: "green" },
    unitGround: "wire",
    sense: "output",
    fuses: [
      { id: "main", amps: 30, feeds: "battery and charge line" },
      { id: "F3", amps: 10, feeds: "clock, alarm and parcel-box lamp" },
    ],
    battery: { chemistry: "agm", ah: 9, cca: 135 },
    idleRpm: 1200,
    testRpm: 5000,
    ratedAmps: 30,
    loadAmps: { normal: 9, all: 14 },
    bands: [
      ...bands("16", { pair: [0.2, 0.4], ac5000: [51, 72], charge: [13.8, 14.9], drain: 1 }),
      { test: "battery.rest", low: 12.7, high: 13.2, page: "16-2" },
    ],
    source: "Corvane Ferrel 650 workshop sheet, issue 3",
  },
  {
    id: "ostrel-burro-520",
    maker: "Ostrel",
    model: "Burro 520",
    years: "2018–2024",
    kind: "atv",
    family: "three-phase-shunt",
    systemVolts: 12,
    earth: "negative",
    winding: "wye",
    polePairs: 9,
    legs: legs(yellow, yellow, yellow),
    statorConnector: { name: "C2", place: "under the front rack, right" },
    outputWire: { base: "red" },
    groundWire: { base: "green" },
    unitGround: "wire",
    sense: "battery",
    fuses: [
      { id: "main", amps: 30, feeds: "battery and charge line" },
      { id: "F4", amps: 15, feeds: "beacon and winch relay" },
    ],
    battery: { chemistry: "agm", ah: 18, cca: 270 },
    idleRpm: 1300,
    testRpm: 5000,
    ratedAmps: 42,
    loadAmps: { normal: 14, all: 24 },
    bands: [
      ...bands("9", { pair: [0.14, 0.27], ac5000: [64, 88], charge: [13.9, 14.9], drain: 1 }),
      { test: "battery.crank", low: 9.8, page: "9-2" },
    ],
    source: "Ostrel Burro 520 service book, 2nd printing",
  },
  {
    id: "corvane-linnet-125",
    maker: "Corvane",
    model: "Linnet 125",
    years: "2014–2022",
    kind: "scooter",
    family: "three-phase-shunt",
    systemVolts: 12,
    earth: "negative",
    winding: "wye",
    polePairs: 6,
    legs: legs(white, white, white),
    statorConnector: { name: "J7", place: "under the seat bucket" },
    outputWire: { base: "red" },
    groundWire: { base: "green", tracer: "black" },
    unitGround: "wire",
    sense: "output",
    fuses: [{ id: "main", amps: 15, feeds: "battery and charge line" }],
    battery: { chemistry: "agm", ah: 7, cca: 100 },
    idleRpm: 1700,
    testRpm: 5000,
    ratedAmps: 18,
    loadAmps: { normal: 6, all: 8 },
    bands: bands("7", { pair: [0.5, 0.95], ac5000: [46, 66], charge: [13.7, 14.9], drain: 0.5 }),
    source: "Corvane Linnet 125 workshop sheet, issue 5",
  },
  {
    id: "brannoch-corrie-600",
    maker: "Brannoch",
    model: "Corrie 600",
    years: "2015–2021",
    kind: "snowmobile",
    family: "three-phase-shunt",
    systemVolts: 12,
    earth: "negative",
    winding: "delta",
    polePairs: 6,
    legs: legs({ base: "yellow" }, { base: "yellow", tracer: "black" }, { base: "yellow", tracer: "red" }),
    statorConnector: { name: "P11", place: "left of the airbox" },
    outputWire: { base: "red", tracer: "blue" },
    groundWire: { base: "black" },
    unitGround: "case",
    sense: "output",
    fuses: [{ id: "main", amps: 20, feeds: "battery and charge line" }],
    battery: { chemistry: "flooded", ah: 14, cca: 170 },
    idleRpm: 1800,
    testRpm: 5000,
    ratedAmps: 25,
    loadAmps: { normal: 7, all: 12 },
    bands: bands("5", { pair: [0.28, 0.52], ac5000: [49, 70], charge: [13.6, 14.8], drain: 1 }),
    source: "Brannoch Corrie 600 shop figures",
  },
  {
    id: "tidewright-sound-40",
    maker: "Tidewright",
    model: "Sound 40",
    years: "2012–2020",
    kind: "outboard",
    family: "three-phase-shunt",
    systemVolts: 12,
    earth: "negative",
    winding: "delta",
    polePairs: 6,
    legs: legs(yellow, yellow, yellow),
    statorConnector: { name: "stator plug", place: "aft of the flywheel cover" },
    outputWire: { base: "red" },
    groundWire: { base: "black" },
    unitGround: "case",
    sense: "output",
    fuses: [
      { id: "main", amps: 20, feeds: "battery and charge line" },
      { id: "F2", amps: 10, feeds: "sounder and bilge alarm" },
    ],
    battery: { chemistry: "flooded", ah: 60, cca: 420 },
    idleRpm: 900,
    testRpm: 3000,
    ratedAmps: 13,
    loadAmps: { normal: 4.5, all: 9 },
    bands: [
      { test: "charge.volts", rpm: 3000, low: 13.4, high: 14.8, page: "4-12" },
      { test: "stator.resistance", low: 0.75, high: 1.3, page: "4-14" },
      { test: "stator.acVolts", rpm: 5000, low: 42, high: 60, page: "4-15" },
    ],
    source: "Tidewright Sound 40 rigging notes",
  },
];

/** The demo sheet of that id. */
export function demoSheet(id: string): Sheet | undefined {
  return DEMO_SHEETS.find((sheet) => sheet.id === id);
}
