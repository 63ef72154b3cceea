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

/** The same for the diodes of a unit: one chart of all of them, leg by leg at home on the first. */
export function blendUnit({ atlas, sheet }: { atlas: Atlas; sheet: Sheet }, diodes: readonly SetFault[]): WeighedChart[] {
  const first = sheet.legs[0]?.id ?? "1";
  const [one] = diodes as [SetFault];
  return severities(one.fault, one.severity).flatMap((grade) => {
    const key = chartKey(
      diodes.map((diode) => ({ fault: diode.fault, at: diodeAt(first, diode.at?.endsWith(">B+") ? "upper" : "lower"), severity: grade.value })),
    );
    const chart = atlas[key];
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
