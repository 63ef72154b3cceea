import { format } from "date-fns";
import { testOf } from "../../core/procedure/catalogue";
import { stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import type { LoggedTest } from "./log.server";
import { extentOf } from "./scale";

/** Width and height of a strip, in units of its own. */
const STRIP = { width: 320, height: 58, edge: 8 } as const;

/** A figure over the years on one strip: hatched where it is out of its band, a bar where a repair began a new line, the latest figure filled. */
export function TrendStrip({ test, id }: { test: LoggedTest; id: string }) {
  const { log } = test;
  const { unit } = testOf(log.step.test);
  const { bottom, top } = extentOf(test);
  const times = log.points.map(({ at }) => Date.parse(at));
  const [first, last] = [Math.min(...times), Math.max(...times)];
  const x = (at: number): number => (last === first ? STRIP.width / 2 : STRIP.edge + ((STRIP.width - 2 * STRIP.edge) * (at - first)) / (last - first));
  const y = (value: number): number => (STRIP.height * (top - value)) / (top - bottom);
  const lines = linesOf(log);
  const said = log.points.map(({ at, value }) => `${format(at, "d MMMM yyyy")} ${formatQuantity(Number(value.toPrecision(4)), unit)}`).join(", ");
  return (
    <svg viewBox={`0 0 ${STRIP.width} ${STRIP.height}`} className="block w-full" role="img" aria-label={`${stepTitle(log.step)}: ${said}.`}>
      <defs>
        <pattern id={`${id}-out`} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="6" stroke="var(--hair)" strokeWidth="2.4" />
        </pattern>
      </defs>
      <rect x="0" y="0" width={STRIP.width} height={STRIP.height} fill="var(--sheet)" />
      {log.low === undefined ? null : (
        <rect x="0" y={y(log.low)} width={STRIP.width} height={Math.max(0, STRIP.height - y(log.low))} fill={`url(#${id}-out)`} />
      )}
      {log.high === undefined ? null : <rect x="0" y="0" width={STRIP.width} height={Math.max(0, y(log.high))} fill={`url(#${id}-out)`} />}
      {[log.low, log.high].map((limit) =>
        limit === undefined ? null : <line key={limit} x1="0" x2={STRIP.width} y1={y(limit)} y2={y(limit)} stroke="var(--mute)" strokeWidth="1.2" />,
      )}
      {log.repairs.map(({ at, jobId }) => (
        <line key={`${jobId} ${at}`} x1={x(Date.parse(at))} x2={x(Date.parse(at))} y1="0" y2={STRIP.height} stroke="var(--plum)" strokeWidth="3" />
      ))}
      {lines.map((points) => (
        <polyline
          key={points[0]?.at}
          points={points.map(({ at, value }) => `${x(Date.parse(at)).toFixed(1)},${y(value).toFixed(1)}`).join(" ")}
          fill="none"
          stroke={test.warning ? "var(--copper)" : "var(--ink)"}
          strokeWidth="2"
        />
      ))}
      {log.points.map(({ at, value, jobId, afterRepair }, k) => (
        <circle
          key={`${jobId} ${afterRepair}`}
          cx={x(Date.parse(at))}
          cy={y(value)}
          r={k === log.points.length - 1 ? 4.5 : 3}
          fill={k === log.points.length - 1 ? "var(--ink)" : "var(--sheet)"}
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
      ))}
    </svg>
  );
}

/** Figures between one repair that moved them and the next. */
function linesOf({ points, repairs }: LoggedTest["log"]): LoggedTest["log"]["points"][] {
  const lines: LoggedTest["log"]["points"][] = [[]];
  for (const [k, point] of points.entries()) {
    const before = points[k - 1];
    const parted = before && repairs.some(({ at, jobId }) => before.at < at && (point.at >= at || (point.afterRepair && point.jobId === jobId)));
    if (parted) lines.push([]);
    (lines.at(-1) as typeof points).push(point);
  }
  return lines;
}
