import { hasCapacitor } from "../../machine/capacitor";
import { leadsOf } from "../../machine/families/family";
import { familyOf } from "../../machine/families/registry";
import { bandsTelling, drainLimitOf, printed } from "../../machine/printed";
import { LOAD_SHARES, placeIn, rangesOf, widthOf } from "../../machine/ranges";
import type { Sheet } from "../../machine/sheet";
import { healthyState, type MachineState } from "../../machine/state";
import { BY_INDUCTANCE, type Offsets, SPREADS, type Spread } from "./nuisance";

/**
 * A build: one way the machine could be made where its sheet leaves that open — kind of unit, wye or delta, where the unit
 * senses, small, middling or large. A sheet that says it all has one build. What a build still leaves open within itself
 * (magnets' strength, copper, loads, the battery's size) is in how widely its nuisances spread.
 */
export interface Build {
  /** The job's sheet, filled in: every figure that the circuit asks for is there. */
  sheet: Sheet;
  family: string;
  winding: "wye" | "delta";
  sense: "battery" | "output";
  /** Place among the sizes, 0 the smallest; −1 for one that stands for half of them. */
  size: number;
  /** What it takes of its own output: a share of those met, from the heavy to the light, or any of them. */
  loads: "any" | "some";
  /** Share of the machines without more knowledge; of a build that stands for all sizes, against the others that do. */
  share: number;
  /** Which of {@link chartSheetsOf} its charts were drawn for, and what they are multiplied by to be this build's. */
  chart: number;
  scale: { amps: number; ohms: number };
  /** Standard deviation of every nuisance. */
  spreads: Readonly<Record<Spread, number>>;
  /** By how much what is open moves along with a spread that others follow, the spread itself included. */
  along: Partial<Record<Spread, Offsets>>;
}

const SENSES: Axis<"battery" | "output"> = [
  ["output", 0.65],
  ["battery", 0.35],
];
/** Small, middling and large: the middles of three equal shares of what is met. */
const SIZES: readonly number[] = [1 / 6, 1 / 2, 5 / 6];
/** Of what stands for all sizes, the middles of the smaller and of the larger half, and the share of the whole width that is open within one. */
const HALVES: readonly number[] = [0.26, 0.74];
const HALF = 0.6;

/**
 * Where the loads are open as well, the small take most of their output, the large least: what a machine has to spare decides whether
 * a fault shows at all, and a regulator hides all that is spared, which no slope can tell. As factors: the middles of three equal
 * shares of what is met, and of two for the build that stands for all sizes; what is left open within a share.
 */
const LOADS = { ofSizes: [1.5, 1, 0.66], ofAll: [1.35, 0.74], leftOfSizes: 0.2, leftOfAll: 0.23, any: 0.38 } as const;

/** Spreads where a figure was not printed, in the units of {@link SPREADS}. */
const UNKNOWN = {
  emf: 0.34,
  /** Windings that are not wound alike differ each for itself. */
  emfOther: 0.28,
  ohmsOther: 0.45,
  /** Which of them gives how much of the output nobody prints at all: what is left when one fails is anybody's guess. */
  outputOther: 0.3,
  /** Pulleys and windings differ: nobody prints at which speed a wound generator begins. */
  excited: { ofSheet: 0.15, ofNone: 0.22 },
  /** Some have nothing left to switch on, others a plough and seat heaters. */
  switched: 0.6,
  ohms: 0.45,
  /** Phases of few thick turns or many thin ones beside one and the same rotor. */
  phaseOhms: 0.65,
  henries: 0.22,
  setVolts: 0.28,
  /** Voltage coils and plain thyristors hold far lower under load than a sheet of today would print. */
  droop: 0.35,
  openVolts: 0.12,
  /** A battery and a starter are chosen for each other: whatever their size, a sound machine cranks above nine volts and a half. */
  batteryOhms: 0.3,
  crank: 0.22,
  cable: 0.35,
  wires: 0.65,
  /** Nothing but a regulator, or a clock and an alarm too. */
  draw: 1.5,
  /** Idle is where it happens to be, not where a sheet says. */
  idle: 0.28,
  /** Body diodes read a tenth lower than plain ones. */
  junction: 0.055,
} as const;
/** Share of a kind's range of battery sizes that is still open once the machine's size is chosen. */
const AH_LEFT = 0.55;

/** How far a second winding lies from what its own band says, the first one's error taken off. */
const PRINTED_OTHER = { emf: 0.04, ohms: 0.07 } as const;

/** What a sheet leaves open. */
function openIn(sheet: Sheet) {
  const lacks = (test: string): boolean => bandsTelling(sheet, test).length === 0;
  // Figures of one winding alone say nothing of another that is wound otherwise.
  const lacksOther = (test: string): boolean =>
    bandsTelling(sheet, test).every(({ at }) => at !== undefined) && new Set(bandsTelling(sheet, test).map(({ at }) => at)).size < 2;
  return {
    family: familyOf(sheet.family).mayBe.length > 0,
    winding: sheet.winding === "unknown" && familyOf(sheet.family).joins.length > 0,
    emf: lacks("stator.acVolts") && familyOf(sheet.family).acPairs(leadsOf(sheet)).length > 0,
    ohms: lacks(familyOf(sheet.family).field?.test ?? "stator.resistance"),
    otherEmf: lacksOther("stator.acVolts"),
    otherOhms: lacksOther("stator.resistance"),
    amps: sheet.ratedAmps === undefined,
    loads: sheet.loadAmps === undefined,
    ah: sheet.battery.ah === undefined && !hasCapacitor(sheet),
    cca: sheet.battery.cca === undefined && !hasCapacitor(sheet),
    setVolts: lacks("charge.volts"),
    draw: drainLimitOf(sheet) === undefined,
  };
}

/**
 * The machines whose circuits are run for a sheet's charts: one for each kind of unit and of winding that it could have. Where nobody
 * knows the rating, one of a middling rating serves every kind of machine that is tested at the same speeds.
 */
export function chartSheetsOf(sheet: Sheet): Sheet[] {
  const open = openIn(sheet);
  return familiesMet(sheet).flatMap(([family]) =>
    windingsMet(sheet).map(([winding]): Sheet => {
      const whole: Sheet = { ...sheet, family, winding, ...(sheet.sense === "unknown" ? { sense: "output" } : {}) };
      if (!open.amps) return whole;
      const { kind: _kind, ...anyKind } = whole;
      return { ...anyKind, ratedAmps: placeIn(familyOf(sheet.family).amps(undefined), 0.5) };
    }),
  );
}

/** What a figure of a machine may be, each with how often it is met. */
type Axis<T> = readonly (readonly [T, number])[];

function familiesMet(sheet: Sheet): Axis<string> {
  const { mayBe } = familyOf(sheet.family);
  return mayBe.length > 0 ? mayBe.map(([{ id }, met]) => [id, met]) : [[sheet.family, 1]];
}

function windingsMet(sheet: Sheet): Axis<"wye" | "delta"> {
  return openIn(sheet).winding ? familyOf(sheet.family).joins : [[sheet.winding === "delta" ? "delta" : "wye", 1]];
}

function sensesMet({ sense }: Sheet): Axis<"battery" | "output"> {
  return sense === "unknown" ? SENSES : [[sense, 1]];
}

/** Every build of a sheet. */
export function buildsOf(sheet: Sheet): Build[] {
  const open = openIn(sheet);
  const charts = chartSheetsOf(sheet);
  const sounds = charts.map((chart) => healthyState(chart));
  const { ah } = rangesOf(sheet.kind);
  const amps = familyOf(sheet.family).amps(sheet.kind);
  const sizes = sizesOf(open);
  const growth = growthOf(sheet);
  const turns = open.emf ? { emf: TURNS } : {};
  const whole = sizes.filter(({ size }) => size >= 0).length;
  return familiesMet(sheet).flatMap(([family, units]) =>
    windingsMet(sheet).flatMap(([winding, coils]) =>
      sensesMet(sheet).flatMap(([sense, senses]) =>
        sizes.map(({ size, place, load, loads }): Build => {
          const ratedAmps = sheet.ratedAmps ?? placeIn(amps, place);
          const filled: Sheet = {
            ...sheet,
            family,
            winding,
            sense,
            ratedAmps,
            ...(load === 1 ? {} : { loadAmps: { normal: load * LOAD_SHARES.normal * ratedAmps, all: load * LOAD_SHARES.all * ratedAmps } }),
            battery: { ...sheet.battery, ah: sheet.battery.ah ?? placeIn(ah, 0.5 + AH_FOLLOWS * (place - 0.5)) },
          };
          const chart = charts.findIndex((drawn) => drawn.family === family && drawn.winding === winding);
          return {
            sheet: filled,
            family,
            winding,
            sense,
            size,
            loads,
            share: (units * coils * senses) / (size < 0 ? 1 : whole),
            chart,
            scale: scaleOf(healthyState(filled), sounds[chart] as MachineState),
            spreads: spreadsOf(sheet, size < 0, loads),
            along: { ...turns, ...(size < 0 ? { rating: growth } : {}) },
          };
        }),
      ),
    ),
  );
}

/** The sizes and loads thought of: one where the sheet has both; else three side by side, and what stands for all of them. */
function sizesOf(open: Pick<ReturnType<typeof openIn>, "amps" | "loads">): { size: number; place: number; load: number; loads: Build["loads"] }[] {
  if (!open.amps && !open.loads) return [{ size: 0, place: 0.5, load: 1, loads: "any" }];
  const loads = open.loads ? "some" : "any";
  const halves = open.amps ? HALVES : [0.5];
  return [
    ...halves.map((place) => ({ size: -1, place, load: 1, loads: "any" as const })),
    ...(open.loads ? LOADS.ofAll.map((load, k) => ({ size: -1, place: open.amps ? (HALVES[k] as number) : 0.5, load, loads: "some" as const })) : []),
    ...SIZES.map((place, size) => ({ size, place: open.amps ? place : 0.5, load: open.loads ? (LOADS.ofSizes[size] as number) : 1, loads }) as const),
  ];
}

/** Larger generators charge larger batteries, though not in proportion. */
const AH_FOLLOWS = 0.8;

/**
 * What a chart's currents and ohms are multiplied by to be another machine's: a circuit of coils and rectifiers is homogeneous,
 * so that at 1/k of the impedance k times the current flows at the same volts.
 */
function scaleOf(build: MachineState, chart: MachineState): Build["scale"] {
  const [own, drawn] = [build.windings[0], chart.windings[0]];
  if (!own || !drawn) return { amps: 1, ohms: 1 };
  return { amps: drawn.henries / own.henries, ohms: own.ohms / drawn.ohms };
}

/**
 * What goes with unloaded volts that nobody printed: machines of one rating are wound with more turns or with fewer, and by
 * L = (90/π²)·Ke/(p·Imax) inductance follows the volts, so that the current stays what it is rated at. Only as far as magnets are
 * stronger or weaker than they were made does it follow the volts.
 */
const TURNS: Offsets = { emf: 1, henries: 1 - (SPREADS.emf / UNKNOWN.emf) ** 2 };

/**
 * What goes with a rating larger by one natural logarithm: more current from fewer ohms over thicker wires, more loads, a larger battery. Were each of them spread
 * by itself, a small machine's ohms would speak against its own amps.
 */
function growthOf(sheet: Sheet): Offsets {
  const open = openIn(sheet);
  const { amps, output, field } = familyOf(sheet.family);
  const range = amps(sheet.kind);
  const [smaller, larger] = [0.25, 0.75].map((place) => healthyState({ ...sheet, ratedAmps: placeIn(range, place) })) as [MachineState, MachineState];
  const ohms = Math.log((larger.windings[0]?.ohms ?? 1) / (smaller.windings[0]?.ohms ?? 1)) / (0.5 * Math.log(range[1] / range[0]));
  return {
    henries: output ? -1 : -1 / BY_INDUCTANCE,
    wires: -1,
    ...(field ? {} : { ohms }),
    ...(open.loads ? { loads: 1 } : {}),
    ...(open.ah ? { capacity: (AH_FOLLOWS * widthOf(rangesOf(sheet.kind).ah)) / widthOf(range) } : {}),
  };
}

/** How widely sound machines lie within the bands of a test, the widest of them: a standard deviation of the logarithm, nought where none is printed. */
const widestOf = (sheet: Sheet, test: string): number => Math.max(0, ...bandsTelling(sheet, test).map((band) => printed(sheet, test, band.at)?.width ?? 0));

/** A band of charging volts is so many standard deviations of what units hold. */
const HELD_SPANNED = 7;

/** How widely units hold within the band of charging volts, V on 12 V. */
function heldWidth(sheet: Sheet): number {
  const [band] = bandsTelling(sheet, "charge.volts");
  return band?.low === undefined || band.high === undefined ? 0 : ((band.high - band.low) / HELD_SPANNED) * (12 / sheet.systemVolts);
}

/** @param anySize whether the build stands for half of all sizes @param loads whether it stands for every share of loads */
function spreadsOf(sheet: Sheet, anySize: boolean, loads: Build["loads"]): Record<Spread, number> {
  const open = openIn(sheet);
  const unlabelled = open.ah && open.cca;
  const { field, agree, acPairs } = familyOf(sheet.family);
  const leads = leadsOf(sheet);
  const other = agree(leads).length === 0 && acPairs(leads).length > 1;
  const phases = field?.part === "rotor";
  const ohmsTest = field?.test ?? "stator.resistance";
  const wider: Partial<Record<Spread, number>> = {
    emf: Math.max(SPREADS.emf, widestOf(sheet, "stator.acVolts")),
    ohms: Math.max(SPREADS.ohms, widestOf(sheet, ohmsTest)),
    setVolts: Math.max(SPREADS.setVolts, heldWidth(sheet)),
    ...(phases ? { ohmsOther: open.otherOhms ? UNKNOWN.phaseOhms : SPREADS.ohms } : {}),
    ...(open.emf ? { emf: UNKNOWN.emf } : {}),
    ...(other
      ? {
          emfOther: open.otherEmf ? UNKNOWN.emfOther : PRINTED_OTHER.emf,
          ohmsOther: open.otherOhms ? UNKNOWN.ohmsOther : PRINTED_OTHER.ohms,
          output: UNKNOWN.outputOther,
        }
      : {}),
    ...(field ? { emf: UNKNOWN.excited[open.amps ? "ofNone" : "ofSheet"] } : {}),
    ...(open.ohms ? { ohms: field ? widthOf(field.ohms) : UNKNOWN.ohms } : {}),
    ...(open.amps
      ? { henries: UNKNOWN.henries, wires: UNKNOWN.wires, ...(anySize ? { rating: HALF * widthOf(familyOf(sheet.family).amps(sheet.kind)) } : {}) }
      : {}),
    ...(open.loads ? { loads: loads === "any" ? LOADS.any : anySize ? LOADS.leftOfAll : LOADS.leftOfSizes, switched: UNKNOWN.switched } : {}),
    ...(open.setVolts ? { setVolts: UNKNOWN.setVolts, droop: UNKNOWN.droop } : {}),
    ...(open.draw ? { draw: UNKNOWN.draw } : {}),
    ...(unlabelled
      ? {
          openVolts: UNKNOWN.openVolts,
          batteryOhms: UNKNOWN.batteryOhms,
          crank: UNKNOWN.crank,
          cable: UNKNOWN.cable,
          rpmChargeIdle: UNKNOWN.idle,
          rpmAcIdle: UNKNOWN.idle,
        }
      : {}),
    ...(open.ah ? { capacity: (anySize && !open.amps ? 1 : AH_LEFT) * widthOf(rangesOf(sheet.kind).ah) } : {}),
    ...(open.family ? { junction: UNKNOWN.junction } : {}),
  };
  return { ...SPREADS, ...wider };
}
