import type { TestId } from "./catalogue";
import type { School, SchoolBand } from "./schools";

/**
 * What practitioners disagree about, row by row. A shop takes a school as it is, or answers single rows for itself; what it answers
 * goes before its school, and the sheet goes before both.
 */
interface Option {
  id: string;
  label: string;
  change: (school: School) => School;
}

interface Row {
  id: string;
  question: string;
  /** Why there is more than one answer, and what follows from it. */
  why: string;
  options: readonly Option[];
}

/** A school with limits of its own for some tests; the chemistries that a band names keep it. */
function limited(school: School, tests: readonly TestId[], limits: (band: SchoolBand) => Pick<SchoolBand, "low" | "high" | "says">): School {
  const bands = school.bands.map((band) => {
    if (!tests.includes(band.test)) return band;
    const { low: _low, high: _high, ...rest } = band;
    return { ...rest, ...limits(band) };
  });
  return { ...school, bands };
}

const figure = (value: number): string => value.toFixed(value % 1 && (value * 10) % 1 ? 2 : 1);
const keptHigh = ({ high }: SchoolBand): { high?: number } => (high === undefined ? {} : { high });
const keptLow = ({ low }: SchoolBand): { low?: number } => (low === undefined ? {} : { low });

/** Sealed lead batteries rest a little higher than flooded ones, V. */
const SEALED_MORE = 0.15;
/** The unit's own output may lie so much above what is allowed at the battery, V. */
const OUTPUT_MORE = 0.2;

const rest = (low: number): Option => ({
  id: String(low),
  label: `${low} V, sealed ${figure(low + SEALED_MORE)} V`,
  change: (school) =>
    limited(school, ["battery.rest"], (band) => {
      const own = band.chemistry?.includes("flooded") ? low : low + SEALED_MORE;
      return { low: own, ...keptHigh(band), says: `${figure(own)} V rest` };
    }),
});

const hours = (restHours: number, label: string): Option => ({ id: String(restHours), label, change: (school) => ({ ...school, restHours }) });

const crank = (low: number): Option => ({
  id: String(low),
  label: `${low} V`,
  change: (school) => limited(school, ["battery.crank"], () => ({ low, says: `${figure(low)} V crank` })),
});

const ceiling = (high: number | undefined): Option => ({
  id: high === undefined ? "none" : String(high),
  label: high === undefined ? "none: only if it keeps climbing" : `${high} V`,
  change: (school) =>
    limited({ ...school, ceiling: high === undefined ? "climbing" : "limit" }, ["charge.volts", "charge.outputVolts"], (band) => {
      const own = high === undefined ? undefined : band.test === "charge.outputVolts" ? high + OUTPUT_MORE : high;
      const low = keptLow(band);
      return {
        ...low,
        ...(own === undefined ? {} : { high: own }),
        says: own === undefined ? `${figure(band.low ?? 0)} V and up` : `${figure(band.low ?? 0)} to ${figure(own)} V`,
      };
    }),
});

const floor = (low: number, label: string): Option => ({
  id: String(low),
  label,
  change: (school) => limited(school, ["charge.volts", "charge.outputVolts"], (band) => ({ low, ...keptHigh(band), says: `${figure(low)} V and up` })),
});

const judging = (chargingBy: School["chargingBy"], label: string): Option => ({ id: chargingBy, label, change: (school) => ({ ...school, chargingBy }) });
const balance = (acBy: School["acBy"], label: string): Option => ({ id: acBy, label, change: (school) => ({ ...school, acBy }) });
const first = (statorFirst: School["statorFirst"], label: string): Option => ({ id: statorFirst, label, change: (school) => ({ ...school, statorFirst }) });

const before = (part: "stator" | "regulator", label: string): Option => ({
  id: part,
  label,
  change: (school) => {
    const both = part === "stator" ? (["stator", "regulator"] as const) : (["regulator", "stator"] as const);
    let taken = 0;
    return { ...school, order: school.order.map((group) => (group === "stator" || group === "regulator" ? (both[taken++] as typeof group) : group)) };
  },
});

const diode = (low: number, high: number): Option => ({
  id: `${low}-${high}`,
  label: `${low} to ${high} V`,
  change: (school) => limited(school, ["regulator.diode"], () => ({ low, high, says: `${low} to ${high} V, open back` })),
});

const drain = (high: number, label: string): Option => ({
  id: String(high),
  label,
  change: (school) => limited(school, ["drain.current", "drain.unitUnplugged", "drain.fusePulled"], () => ({ high, says: `${high} mA` })),
});

const speed = (testRpm: number): Option => ({
  id: String(testRpm),
  label: `${testRpm.toLocaleString("en")} rpm`,
  change: (school) => ({ ...school, testRpm }),
});

const worn = (low: number, label: string): Option => ({
  id: String(low),
  label,
  change: (school) => ({ ...school, bands: [...school.bands, { test: "battery.conductance", low, says: `${low} % of rated cranking amps` }] }),
});

const partner = (choice: School["partner"], label: string): Option => ({ id: choice, label, change: (school) => ({ ...school, partner: choice }) });

export const SCHOOL_ROWS: readonly Row[] = [
  {
    id: "rest",
    question: "Healthy rest volts, 12 V lead battery",
    why: "A strict limit charges more batteries before anything else is read; a loose one lets a half-full battery spoil what follows.",
    options: [rest(12.4), rest(12.5), rest(12.6)],
  },
  {
    id: "hours",
    question: "How long a battery rests",
    why: "Fresh off a charger or a ride it reads too high. A night off the harness also tells a bad battery from a drain, and costs the night.",
    options: [hours(0.5, "half an hour"), hours(2, "two hours"), hours(12, "overnight")],
  },
  {
    id: "crank",
    question: "Lowest cranking volts, 12 V at 20 °C",
    why: "Small sealed batteries hold more; a strict limit renews them a season earlier.",
    options: [crank(9), crank(9.6), crank(10)],
  },
  {
    id: "ceiling",
    question: "Charging ceiling",
    why: "Sealed batteries dry out above 14.8 V; old machines with few loads touch 15.5 V cold and live.",
    options: [ceiling(14.8), ceiling(15), ceiling(15.5), ceiling(undefined)],
  },
  {
    id: "floor",
    question: "Charging floor",
    why: "Any rise is charge; 14 V is what fills a battery on short rides.",
    options: [floor(13, "any rise"), floor(13.5, "13.5 V"), floor(14, "14.0 V")],
  },
  {
    id: "judging",
    question: "How charging is judged",
    why: "Limits compare machines; the rise over its own rest volts needs no sheet and forgives a meter that reads off.",
    options: [judging("limits", "against limits"), judging("rise", "against its own rest volts")],
  },
  {
    id: "rpm",
    question: "Test speed of machines without a sheet",
    why: "Too slow condemns what charges only fast; too fast hides a weak generator.",
    options: [speed(2000), speed(3000), speed(4000), speed(5000)],
  },
  {
    id: "balance",
    question: "AC volts: the figure or the balance",
    why: "Legs that are low and alike can be another winding or another meter; one that is odd never is.",
    options: [balance("band", "the figure first"), balance("balance", "equality first: low and equal is only noted")],
  },
  {
    id: "first",
    question: "Ohms or AC first",
    why: "Ohms are quick, cold and safe; AC under way is the only proof.",
    options: [first("ohms", "ohms first"), first("ac", "AC first")],
  },
  {
    id: "order",
    question: "Stator or regulator first when it does not charge",
    why: "The stator feeds everything; the regulator fails oftener and is the cheaper look.",
    options: [before("stator", "stator first"), before("regulator", "regulator first")],
  },
  {
    id: "diode",
    question: "Drop of a sound diode",
    why: "Meters push different currents through it; a wide band leans on the legs being alike.",
    options: [diode(0.4, 0.6), diode(0.35, 0.7), diode(0.2, 0.8)],
  },
  {
    id: "drain",
    question: "Drain at rest",
    why: "A machine without a clock takes next to nothing; clocks, alarms and trackers take some milliamps each.",
    options: [drain(1, "1 mA"), drain(5, "5 mA"), drain(25, "25 mA, with clock and alarm")],
  },
  {
    id: "worn",
    question: "A battery on the border, by conductance tester",
    why: "Replaced early it never strands anybody; run until it fails it costs least.",
    options: [worn(80, "renew below 80 %"), worn(70, "renew below 70 %"), worn(60, "run on to 60 %")],
  },
  {
    id: "partner",
    question: "Stator and regulator",
    why: "What burnt one may have hurt the other; both together cost more today and less if it comes back.",
    options: [partner("only", "renew only what failed"), partner("set", "renew both together")],
  },
];

/** The answers of a shop, by row; a row left out is as its school has it. */
type RowChoices = Readonly<Record<string, string>>;

/** A school's name with a shop's own answers behind it, as it is kept with shop and job: "harbour;crank=9.6;drain=5". */
export function schoolName(preset: string, choices: RowChoices): string {
  return [preset, ...SCHOOL_ROWS.flatMap(({ id }) => (choices[id] ? [`${id}=${choices[id]}`] : []))].join(";");
}

/** Reads a school's name back: the preset, and the answers that are known; what is not is left out. */
export function parseSchoolName(name: string): { preset: string; choices: RowChoices } {
  const [preset = "", ...rest] = name.split(";");
  const known = rest.flatMap((part): [string, string][] => {
    const [id = "", option = ""] = part.split("=");
    return SCHOOL_ROWS.some((row) => row.id === id && row.options.some((choice) => choice.id === option)) ? [[id, option]] : [];
  });
  return { preset, choices: Object.fromEntries(known) };
}

/** A school with some rows answered otherwise. */
export function withRows(school: School, choices: RowChoices): School {
  const chosen = SCHOOL_ROWS.flatMap(({ id, options }) => options.filter((option) => option.id === choices[id]));
  if (chosen.length === 0) return school;
  const own = chosen.reduce((changed, { change }) => change(changed), school);
  return { ...own, id: schoolName(school.id, choices), title: `${school.title} with ${chosen.length} of its own` };
}
