import { useRef } from "react";
import type { Named } from "../../core/machine/families/registry";
import { testOf } from "../../core/procedure/catalogue";
import { stepTitle } from "../../core/procedure/step";
import { courseOf } from "../../core/trend/warning";
import { formatQuantity } from "../../core/units";
import { chartAxis, chartFrame, sliderLook, useChart } from "../charts/useChart";
import { repairedName } from "../jobs/repaired";
import type { LoggedTest } from "./log.server";
import { extentOf } from "./scale";

/** How far ahead the course is drawn, ms. */
const AHEAD = 365.25 * 86_400_000;

/** One test over the years, large: figures at 20 °C, its band, repairs, where it is going and how surely, and what sister machines read. */
export function TrendChart({ test, now, named }: { test: LoggedTest; now: number; named: Named }) {
  const box = useRef<HTMLDivElement>(null);
  const { log, sisters } = test;
  const { unit } = testOf(log.step.test);
  const { bottom, top } = extentOf(test);
  const course = log.change ? courseOf(log.change, now + AHEAD) : [];
  const low = course.map(({ at, mean, deviation }) => [at.getTime(), mean - deviation]);
  useChart(
    box,
    (inks) => {
      const axis = chartAxis(inks);
      const least = Math.min(bottom, ...low.map(([, value]) => value as number));
      const most = Math.max(top, ...course.map(({ mean, deviation }) => mean + deviation));
      return {
        ...chartFrame(inks),
        grid: { left: 58, right: 20, top: 16, bottom: 60 },
        tooltip: { trigger: "axis", valueFormatter: (value: unknown) => (typeof value === "number" ? formatQuantity(Number(value.toPrecision(4)), unit) : "") },
        dataZoom: [{ type: "inside" }, { type: "slider", height: 18, bottom: 8, brushSelect: false, ...sliderLook(inks) }],
        xAxis: { type: "time", ...axis, min: ({ min, max }: { min: number; max: number }) => min - (max - min) * 0.02 },
        yAxis: {
          type: "value",
          min: least,
          max: most,
          ...axis,
          axisLabel: { color: inks.mute, formatter: (value: number) => `${Number(value.toPrecision(3))} ${unit}` },
        },
        series: [
          { name: "one spread below", type: "line", stack: "course", symbol: "none", lineStyle: { opacity: 0 }, tooltip: { show: false }, data: low },
          {
            name: "spread",
            type: "line",
            stack: "course",
            symbol: "none",
            lineStyle: { opacity: 0 },
            areaStyle: { color: inks.lines[1], opacity: 0.16 },
            tooltip: { show: false },
            data: course.map(({ at, deviation }) => [at.getTime(), 2 * deviation]),
          },
          {
            name: "thought to be",
            type: "line",
            symbol: "none",
            lineStyle: { color: inks.lines[1], width: 1.6, type: "dashed" },
            data: course.map(({ at, mean }) => [at.getTime(), mean]),
          },
          {
            name: "read, at 20 °C",
            type: "line",
            symbolSize: 9,
            lineStyle: { color: inks.ink, width: 2 },
            itemStyle: { color: inks.ink },
            data: log.points.map(({ at, value }) => [Date.parse(at), value]),
            markArea: {
              silent: true,
              itemStyle: { color: inks.lines[2], opacity: 0.12 },
              data: log.low === undefined && log.high === undefined ? [] : [[{ yAxis: log.low ?? least }, { yAxis: log.high ?? most }]],
            },
            markLine: {
              silent: true,
              symbol: "none",
              lineStyle: { color: inks.lines[3], width: 2 },
              label: { formatter: "{b}", color: inks.ink },
              data: log.repairs.map(({ at, part }) => ({ name: `${repairedName(named, part)} mended`, xAxis: Date.parse(at) })),
            },
          },
          {
            name: "sister machines, last read",
            type: "line",
            symbol: "diamond",
            symbolSize: 9,
            lineStyle: { opacity: 0 },
            itemStyle: { color: inks.lines[2] },
            data: sisters.map(({ value }) => [now, value]),
          },
        ],
      };
    },
    [test.key, log.points.length, now],
  );
  return <div ref={box} role="img" aria-label={`${stepTitle(log.step)} over the years; the figures stand in the table below.`} className="h-80 w-full" />;
}
