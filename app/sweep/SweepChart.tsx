import { useRef } from "react";
import type { SweepLine } from "../../core/procedure/sweep";
import { chartAxis, chartFrame, useChart } from "../charts/useChart";

const NAMES = { off: "loads off", normal: "as ridden", all: "all loads" } as const;
/** Free space above and below what was read, V. */
const ROOM = 0.4;

/** Charging volts against speed, one line a set of loads, over the band of the fastest reading and this machine's own rest volts. */
export function SweepChart({ lines, rest }: { lines: readonly SweepLine[]; rest: number | undefined }) {
  const box = useRef<HTMLDivElement>(null);
  const points = lines.flatMap((line) => line.points);
  const band = points.reduce((fastest, point) => (point.rpm > fastest.rpm ? point : fastest)).reading.band;
  const [low, high] = band?.kind === "between" ? [band.low, band.high] : [undefined, undefined];
  const shown = [...points.map(({ volts }) => volts), low, high, rest].filter((volts) => volts !== undefined);
  const [bottom, top] = [Math.floor((Math.min(...shown) - ROOM) * 2) / 2, Math.ceil((Math.max(...shown) + ROOM) * 2) / 2];
  useChart(
    box,
    (inks) => {
      const axis = chartAxis(inks);
      return {
        ...chartFrame(inks),
        grid: { left: 52, right: 88, top: 16, bottom: 28 },
        xAxis: { type: "value", min: 0, ...axis, axisLabel: { color: inks.mute, formatter: "{value} rpm", showMaxLabel: false } },
        yAxis: { type: "value", min: bottom, max: top, ...axis, axisLabel: { color: inks.mute, formatter: "{value} V" } },
        series: lines.map((line, k) => ({
          name: NAMES[line.loads],
          type: "line",
          symbolSize: 9,
          lineStyle: { color: inks.lines[k], width: 2.4 },
          itemStyle: { color: inks.lines[k] },
          endLabel: { show: true, formatter: "{a}", color: inks.ink },
          data: line.points.map(({ rpm, volts }) => [rpm, volts]),
          ...(k > 0
            ? {}
            : {
                markArea: {
                  silent: true,
                  itemStyle: { color: inks.lines[2], opacity: 0.14 },
                  data: low === undefined && high === undefined ? [] : [[{ yAxis: low ?? bottom }, { yAxis: high ?? top }]],
                },
                markLine: {
                  silent: true,
                  symbol: "none",
                  lineStyle: { color: inks.mute, type: "dashed", width: 1.4 },
                  label: { formatter: "{b}", color: inks.ink, position: "insideStartTop" },
                  data: rest === undefined ? [] : [{ name: "at rest", yAxis: rest }],
                },
              }),
        })),
      };
    },
    [JSON.stringify([lines.map((line) => line.points.map(({ rpm, volts }) => [rpm, volts])), low, high, rest])],
  );
  const said = `Charging volts against speed. ${lines
    .map((line) => `${NAMES[line.loads]}: ${line.points.map(({ rpm, volts }) => `${volts.toFixed(2)} V at ${rpm} rpm`).join(", ")}`)
    .join(". ")}.`;
  return <div ref={box} role="img" aria-label={said} className="h-72 w-full" />;
}
