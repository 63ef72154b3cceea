import { COUPLING } from "../../machine/coupling";
import { DEFECTS, type SetFault } from "../../machine/defects";
import { type Leads, leadsOf, renamed, turnHome } from "../../machine/families/family";
import { familyOf } from "../../machine/families/registry";
import type { Sheet } from "../../machine/sheet";
import { ALONG, type Atlas, type Chart, COUPLINGS, chartKey, GRADES } from "./charts";

/** A chart and its share in a blend. */
export interface WeighedChart {
  chart: Chart;
  weight: number;
}

/** Under which of the family's other names a place lies at home, where charts are drawn. */
export function turnOf(at: string | undefined, sheet: Sheet): number {
  return turnHome(at, familyOf(sheet.family), leadsOf(sheet));
}

/** A place as it is called once the machine's wires are called otherwise. @param turn number of the other names */
export function turnedPlace(at: string, turn: number, sheet: Sheet): string {
  // Nearly every place lies at home already.
  if (turn === 0) return at;
  const leads = leadsOf(sheet);
  let names = NAMES.get(sheet);
  if (!names) {
    names = familyOf(sheet.family).alike(leads);
    NAMES.set(sheet, names);
  }
  return renamed(at, leads, names[turn] ?? leads);
}

/** The other names of a sheet's wires. */
const NAMES = new WeakMap<Sheet, Leads[]>();

/** The charts between which a fault's severity (and place along its winding) lies, with their weights. */
export function blend({ atlas, sheet }: { atlas: Atlas; sheet: Sheet }, set: SetFault): WeighedChart[] {
  const fault = set.fault === "wiring.cable-broken" ? "wiring.leg-burnt" : set.fault;
  const home: SetFault = { fault, ...(set.at === undefined ? {} : { at: turnedPlace(set.at, turnOf(set.at, sheet), sheet) }) };
  const grades = severities(fault, set.severity);
  return seats(set).flatMap((seat) =>
    grades.flatMap((grade) => {
      const chart = atlas[chartKey([{ ...home, severity: grade.value, ...seat.value }])];
      return chart ? [{ chart, weight: seat.weight * grade.weight }] : [];
    }),
  );
}

/** The charted places along a winding between which a touch lies, or couplings between which shorted turns do, weighted. */
function seats({ fault, along = 0.35, coupling = COUPLING.closely }: SetFault): { value: Pick<SetFault, "along" | "coupling">; weight: number }[] {
  if (fault === "stator.winding-grounded") return between(ALONG, along, false).map(({ value, weight }) => ({ value: { along: value }, weight }));
  if (DEFECTS[fault].coupled) return between(COUPLINGS, coupling, false).map(({ value, weight }) => ({ value: { coupling: value }, weight }));
  return [{ value: {}, weight: 1 }];
}

/** The same for what ails a unit: one chart of all of it, turned so that the first diode is at home. */
export function blendUnit({ atlas, sheet }: { atlas: Atlas; sheet: Sheet }, faults: readonly SetFault[]): WeighedChart[] {
  const [firstFault] = faults as [SetFault];
  const turn = turnOf(firstFault.at, sheet);
  const homeOf = (at: string | undefined): string | undefined => (at === undefined ? undefined : turnedPlace(at, turn, sheet));
  return severities(firstFault.fault, firstFault.severity).flatMap((grade) => {
    const chart = atlas[chartKey(faults.map(({ fault, at }) => ({ fault, at: homeOf(at), severity: grade.value })))];
    return chart ? [{ chart, weight: grade.weight }] : [];
  });
}

/** The charted severities about one, weighted; a fault that is there or not has one chart. */
function severities(fault: SetFault["fault"], severity: number | undefined): { value: number | undefined; weight: number }[] {
  const grades = GRADES[fault];
  if (!grades) return [{ value: undefined, weight: 1 }];
  const byDecades = (grades.at(-1) as number) / (grades[0] as number) > 50;
  return between(grades, severity ?? (grades[1] as number), byDecades);
}

function between(grid: readonly number[], at: number, byDecades: boolean): { value: number; weight: number }[] {
  const axis = (x: number): number => (byDecades ? Math.log(x) : x);
  const above = grid.findIndex((value) => value >= at);
  if (above <= 0) return [{ value: above < 0 ? (grid.at(-1) as number) : (grid[0] as number), weight: 1 }];
  const [low, high] = [grid[above - 1] as number, grid[above] as number];
  const share = (axis(at) - axis(low)) / (axis(high) - axis(low));
  return [
    { value: low, weight: 1 - share },
    { value: high, weight: share },
  ];
}
