import { cellOf } from "../battery/model";
import { steadyVolts } from "../circuit/cell";
import type { Sheet } from "../machine/sheet";
import type { Loads } from "../machine/standing";
import { healthyState } from "../machine/state";
import { isNumber } from "../units";
import { rpmOf } from "./bands";
import type { JudgedReading } from "./judge";
import { answers, type Step } from "./step";

/** Charging volts at one speed, as read. */
export interface SweepPoint {
  rpm: number;
  volts: number;
  reading: JudgedReading;
}

/** The charging volts of one machine under one set of loads, slowest first. */
export interface SweepLine {
  loads: Loads;
  points: SweepPoint[];
  /** Volts of a full battery that these loads hang on and nothing charges: below them it pays. */
  paysBelow: number;
  /** Where the volts rise through those, rpm; a word where that is outside of what was read. */
  breakEven: number | "below" | "above" | undefined;
}

/** What a walk through the speeds tells of the charging. */
interface Sweep {
  lines: SweepLine[];
  /** Speeds that are still worth a reading, the next first. */
  next: Step[];
  /** Volts at the unit's own output above those at the battery, at one speed: what the wire between loses. */
  lost: { rpm: number; volts: number } | undefined;
  /** What the volts fell by once the engine had stopped. */
  fell: number | undefined;
}

/** Speeds of a walk as shares of the test rpm; idle goes before them. */
const SHARES = [0.5, 1, 1.2] as const;
/** Two readings are of one speed within this share of it. */
const ONE_SPEED = 0.1;

/** @param judged readings of the machine as it stands now */
export function sweepOf(sheet: Sheet, judged: readonly JudgedReading[]): Sweep {
  const { battery, loadAmps } = healthyState(sheet);
  const full = cellOf({ ...battery, charge: 1 });
  const running = judged.filter(({ reading, value }) => reading.test === "charge.volts" && isNumber(value));
  const lines = (["off", "normal", "all"] as const).flatMap((loads): SweepLine[] => {
    const bySpeed = new Map<number, SweepPoint>();
    for (const judgedReading of running) {
      if ((judgedReading.reading.loads ?? "normal") !== loads) continue;
      const rpm = rpmOf(judgedReading.reading, sheet);
      bySpeed.set(rpm, { rpm, volts: judgedReading.value as number, reading: judgedReading });
    }
    const points = [...bySpeed.values()].sort((a, b) => a.rpm - b.rpm);
    const paysBelow = steadyVolts(full, -loadAmps[loads]);
    return points.length === 0 ? [] : [{ loads, points, paysBelow, breakEven: breakEvenOf(points, paysBelow) }];
  });
  const speeds = [sheet.idleRpm, ...SHARES.map((share) => Math.round((share * sheet.testRpm) / 100) * 100)];
  const wanted: Step[] = (["normal", "all"] as const).flatMap((loads) =>
    speeds.map((rpm, k): Step => ({ test: "charge.volts", rpm: k === 0 ? "idle" : rpm, loads })),
  );
  return {
    lines,
    next: wanted.filter((step) => !running.some(({ reading }) => answers(reading, step))),
    lost: lostOf(sheet, judged),
    fell: fellOf(judged),
  };
}

function breakEvenOf(points: readonly SweepPoint[], paysBelow: number): SweepLine["breakEven"] {
  if (points.length < 2) return undefined;
  const above = points.findIndex(({ volts }) => volts >= paysBelow);
  if (above < 0) return "above";
  if (above === 0) return "below";
  const [low, high] = [points[above - 1] as SweepPoint, points[above] as SweepPoint];
  return low.rpm + ((high.rpm - low.rpm) * (paysBelow - low.volts)) / (high.volts - low.volts);
}

/** The latest pair of output and battery volts that were read at one speed. */
function lostOf(sheet: Sheet, judged: readonly JudgedReading[]): Sweep["lost"] {
  const volts = (test: Step["test"]) => judged.filter(({ reading, value }) => reading.test === test && isNumber(value));
  for (const output of volts("charge.outputVolts").reverse()) {
    const rpm = rpmOf(output.reading, sheet);
    const battery = volts("charge.volts").findLast(
      ({ reading }) => Math.abs(rpmOf(reading, sheet) - rpm) <= ONE_SPEED * rpm && (reading.loads ?? "normal") === (output.reading.loads ?? "normal"),
    );
    if (battery) return { rpm, volts: Number(((output.value as number) - (battery.value as number)).toFixed(3)) };
  }
  return undefined;
}

/** From the last charging volts before the engine stopped to those just after. */
function fellOf(judged: readonly JudgedReading[]): number | undefined {
  const stopped = judged.findLastIndex(({ reading, value }) => reading.test === "battery.recovery" && isNumber(value));
  const before = judged.slice(0, Math.max(0, stopped)).findLast(({ reading, value }) => reading.test === "charge.volts" && isNumber(value));
  return before ? Number(((before.value as number) - (judged[stopped]?.value as number)).toFixed(3)) : undefined;
}
