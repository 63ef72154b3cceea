import { useRef } from "react";
import { PART_NAMES, PARTS, type Part } from "../../core/machine/part";
import { chartAxis, chartFrame, type Inks, useChart } from "../charts/useChart";

/** Hatches that tell parts apart without colour, in the order of the parts: none, or how steep and how dense. */
const HATCHES: readonly ({ rotation: number; dashArrayY: number[] } | undefined)[] = [
  undefined,
  { rotation: Math.PI / 4, dashArrayY: [2, 5] },
  { rotation: -Math.PI / 4, dashArrayY: [2, 5] },
  undefined,
  { rotation: Math.PI / 4, dashArrayY: [4, 4] },
  { rotation: -Math.PI / 4, dashArrayY: [4, 4] },
  { rotation: Math.PI / 2, dashArrayY: [2, 4] },
  { rotation: Math.PI / 2, dashArrayY: [4, 8] },
];

const inkOf = (inks: Inks, part: string): string => inks.lines[Math.max(0, PARTS.indexOf(part as Part)) % inks.lines.length] as string;

/** What failed on what: one bar a model, one stretch a part, the most first. */
export function FailuresChart({ failures }: { failures: readonly { name: string; part: string; times: number }[] }) {
  const box = useRef<HTMLDivElement>(null);
  const totals = new Map<string, number>();
  for (const { name, times } of failures) totals.set(name, (totals.get(name) ?? 0) + times);
  const names = [...totals].sort((a, b) => a[1] - b[1]).map(([name]) => name);
  const parts = PARTS.filter((part) => failures.some((failure) => failure.part === part));
  useChart(
    box,
    (inks) => ({
      ...chartFrame(inks),
      grid: { left: 8, right: 20, top: 40, bottom: 8, containLabel: true },
      legend: { top: 0, left: 0, textStyle: { color: inks.ink }, itemWidth: 22 },
      tooltip: { trigger: "axis", axisPointer: { type: "shadow" } },
      xAxis: { type: "value", minInterval: 1, ...chartAxis(inks) },
      yAxis: { type: "category", data: names, ...chartAxis(inks), axisLabel: { color: inks.ink } },
      series: parts.map((part) => ({
        name: PART_NAMES[part],
        type: "bar",
        stack: "failures",
        barMaxWidth: 22,
        itemStyle: {
          color: inkOf(inks, part),
          borderColor: inks.sheet,
          borderWidth: 1,
          ...(HATCHES[PARTS.indexOf(part)] ? { decal: { color: inks.sheet, dashArrayX: [1, 0], ...HATCHES[PARTS.indexOf(part)] } } : {}),
        },
        data: names.map((name) => failures.find((failure) => failure.name === name && failure.part === part)?.times ?? 0),
      })),
    }),
    [JSON.stringify(failures)],
  );
  const said = failures.map(({ name, part, times }) => `${name}: ${PART_NAMES[part as Part] ?? part} ${times}`).join(", ");
  return (
    <div ref={box} role="img" aria-label={`What failed on what. ${said}.`} style={{ height: `${80 + 30 * Math.min(14, names.length)}px` }} className="w-full" />
  );
}

/** Odds that were stated against how often they proved right, with the line on which they would be exactly earned. */
export function ReliabilityChart({ steps }: { steps: readonly { odds: number; said: number; right: number }[] }) {
  const box = useRef<HTMLDivElement>(null);
  useChart(
    box,
    (inks) => {
      const axis = chartAxis(inks);
      const share = (value: number): string => `${Math.round(10 * value)} in 10`;
      return {
        ...chartFrame(inks),
        grid: { left: 62, right: 20, top: 14, bottom: 46 },
        xAxis: {
          type: "value",
          min: 0,
          max: 1,
          name: "stated",
          nameLocation: "middle",
          nameGap: 28,
          ...axis,
          axisLabel: { color: inks.mute, formatter: share },
        },
        yAxis: { type: "value", min: 0, max: 1, ...axis, axisLabel: { color: inks.mute, formatter: share } },
        series: [
          {
            type: "line",
            symbol: "none",
            silent: true,
            lineStyle: { color: inks.mute, type: "dashed" },
            data: [
              [0, 0],
              [1, 1],
            ],
          },
          {
            type: "scatter",
            itemStyle: { color: inks.lines[2] },
            symbolSize: (_: unknown, { dataIndex }: { dataIndex: number }) => 8 + 6 * Math.log10(1 + (steps[dataIndex]?.said ?? 0)),
            label: { show: true, position: "bottom", color: inks.ink, formatter: ({ dataIndex }: { dataIndex: number }) => `${steps[dataIndex]?.said}` },
            data: steps.map(({ odds, said, right }) => [odds, right / said]),
          },
        ],
      };
    },
    [JSON.stringify(steps)],
  );
  const told = steps.map(({ odds, said, right }) => `stated ${Math.round(100 * odds)} %, right ${right} of ${said}`).join("; ");
  return <div ref={box} role="img" aria-label={`Odds stated against what turned out: ${told}.`} className="h-72 w-full max-w-xl" />;
}

/** Jobs by the month they came in. */
export function MonthsChart({ months }: { months: readonly { month: string; jobs: number }[] }) {
  const box = useRef<HTMLDivElement>(null);
  useChart(
    box,
    (inks) => ({
      ...chartFrame(inks),
      grid: { left: 40, right: 16, top: 12, bottom: 26 },
      tooltip: { trigger: "axis" },
      xAxis: { type: "category", data: months.map(({ month }) => month), ...chartAxis(inks) },
      yAxis: { type: "value", minInterval: 1, ...chartAxis(inks) },
      series: [{ name: "jobs", type: "bar", barMaxWidth: 18, itemStyle: { color: inks.ink }, data: months.map(({ jobs }) => jobs) }],
    }),
    [JSON.stringify(months)],
  );
  const told = months.map(({ month, jobs }) => `${month} ${jobs}`).join(", ");
  return <div ref={box} role="img" aria-label={`Jobs by month: ${told}.`} className="h-44 w-full" />;
}
