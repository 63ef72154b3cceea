import type { SetFault } from "../../machine/defects";
import type { Sheet } from "../../machine/sheet";
import { ALONG, type Atlas, type Chart, chartKey, diodeAt, GRADES } from "./charts";

/** A chart and its share in a blend. */
export interface WeighedChart {
  chart: Chart;
  weight: number;
}

/** The number of the leg that a place begins with or names. */
export function legOf(at: string | undefined, sheet: Sheet): number {
  if (!at) return 0;
  const name = at.replace(/^B->|>B\+$/g, "").split("-")[0];
  return Math.max(
    0,
    sheet.legs.findIndex((leg) => leg.id === name),
  );
}

/** The charts between which a fault's severity (and place along its winding) lies, with their weights. */
export function blend({ atlas, sheet }: { atlas: Atlas; sheet: Sheet }, set: SetFault): WeighedChart[] {
  const first = sheet.legs[0]?.id ?? "1";
  const fault = set.fault === "wiring.cable-broken" ? "wiring.leg-burnt" : set.fault;
  const home: SetFault = {
    fault,
    ...(fault === "stator.windings-bridged" ? { at: `${first}-${sheet.legs[1]?.id}` } : fault === "stator.wrong-fit" ? {} : { at: first }),
  };
  const alongs = fault === "stator.winding-grounded" ? between(ALONG, set.along ?? 0.35, false) : [{ value: undefined, weight: 1 }];
  const grades = severities(fault, set.severity);
  return alongs.flatMap((along) =>
    grades.flatMap((grade) => {
      const chart = atlas[chartKey([{ ...home, severity: grade.value, along: along.value }])];
      return chart ? [{ chart, weight: along.weight * grade.weight }] : [];
    }),
  );
}

/** The same for what ails a unit: one chart of all of it, turned so that the first diode's leg is at home. */
export function blendUnit({ atlas, sheet }: { atlas: Atlas; sheet: Sheet }, faults: readonly SetFault[]): WeighedChart[] {
  const legs = sheet.legs.map(({ id }) => id);
  const [one] = faults as [SetFault];
  const turn = legOf(one.at, sheet);
  const homeOf = (at: string | undefined): string | undefined => {
    if (at === undefined || at === "upper" || at === "lower") return at;
    const leg = legs[(legOf(at, sheet) - turn + legs.length) % legs.length] as string;
    return at.includes(">") ? diodeAt(leg, at.endsWith(">B+") ? "upper" : "lower") : leg;
  };
  return severities(one.fault, one.severity).flatMap((grade) => {
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
