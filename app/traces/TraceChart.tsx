import type { EChartsType } from "echarts/core";
import { useEffect, useRef, useState } from "react";
import type { Envelope } from "../../core/trace/envelope";
import type { TracePhase } from "../../core/trace/read";
import { chartAxis, chartFrame, useChart } from "../charts/useChart";
import { PHASE_NAMES } from "./phaseNames";

interface TraceChartProps {
  /** Length of the whole trace, s. */
  seconds: number;
  phases: readonly TracePhase[];
  look: (from: number, to: number, points: number) => Promise<Envelope>;
  /** Another trace laid beside it, shifted so that both begin to crank together. */
  beside: { name: string; drawn: Envelope; shift: number } | undefined;
  name: string;
}

/** Steps across the chart: about one a pixel. */
const STEPS = 1200;
const NOTHING: Envelope = { seconds: [], lowest: [], highest: [] };

/** Volts over time: zoomed by wheel or pinch, moved by dragging, two cursors set by clicks, the phases as bands. */
export function TraceChart({ seconds, phases, look, beside, name }: TraceChartProps) {
  const box = useRef<HTMLDivElement>(null);
  const [range, setRange] = useState<[number, number]>([0, seconds]);
  const [drawn, setDrawn] = useState(NOTHING);
  const [cursors, setCursors] = useState<number[]>([]);
  const newest = useRef(0);
  const asked = useRef(look);
  asked.current = look;
  useEffect(() => {
    // Only what was asked for last is drawn: a hand that drags asks for more than is worth showing.
    const turn = ++newest.current;
    const [from, to] = range;
    const more = (to - from) / 2;
    void asked.current(Math.max(0, from - more), to + more, STEPS * 2).then((envelope) => {
      if (turn === newest.current) setDrawn(envelope);
    });
  }, [range]);
  useEffect(() => setRange([0, seconds]), [seconds]);
  const [from, to] = range;
  const volts = [...drawn.lowest, ...drawn.highest].filter((value) => value > 1);
  const [bottom, top] = [
    Math.floor(volts.reduce((least, value) => Math.min(least, value), 99) - 0.2),
    Math.ceil(volts.reduce((most, value) => Math.max(most, value), 0) + 0.2),
  ];
  useChart(
    box,
    (inks) => {
      const axis = chartAxis(inks);
      const zigzag = (envelope: Envelope, shift = 0): [number, number][] =>
        envelope.seconds.flatMap((time, k): [number, number][] => {
          const [low, high] = [envelope.lowest[k] as number, envelope.highest[k] as number];
          return low === high
            ? [[time + shift, low]]
            : k % 2
              ? [
                  [time + shift, low],
                  [time + shift, high],
                ]
              : [
                  [time + shift, high],
                  [time + shift, low],
                ];
        });
      return {
        ...chartFrame(inks),
        grid: { left: 52, right: 16, top: 34, bottom: 30 },
        dataZoom: [{ type: "inside", filterMode: "none", startValue: from, endValue: to, minValueSpan: 0.05 }],
        xAxis: { type: "value", min: 0, max: seconds, ...axis, axisLabel: { color: inks.mute, formatter: "{value} s", showMaxLabel: false } },
        yAxis: { type: "value", min: Math.min(bottom, top - 1), max: top, ...axis, axisLabel: { color: inks.mute, formatter: "{value} V" } },
        series: [
          {
            id: "trace",
            type: "line",
            showSymbol: false,
            silent: true,
            lineStyle: { color: inks.lines[0], width: 1.4 },
            data: zigzag(drawn),
            markArea: {
              silent: true,
              label: { position: "insideTop", color: inks.mute, distance: 2, fontSize: 13 },
              data: phases.map(({ phase, from: a, to: b }, k) => [
                {
                  name: (b - a) / Math.max(1e-9, to - from) > 0.05 ? PHASE_NAMES[phase] : "",
                  xAxis: a,
                  itemStyle: { color: phase === "crank" ? inks.lines[1] : k % 2 ? inks.lines[2] : "transparent", opacity: phase === "crank" ? 0.22 : 0.1 },
                },
                { xAxis: b },
              ]),
            },
            markLine: {
              silent: true,
              symbol: "none",
              lineStyle: { color: inks.lines[3], type: "solid", width: 1.4 },
              label: { formatter: "{b}", color: inks.ink },
              data: cursors.map((time, k) => ({ name: String(k + 1), xAxis: time })),
            },
          },
          {
            id: "beside",
            type: "line",
            showSymbol: false,
            silent: true,
            lineStyle: { color: inks.lines[1], width: 1.2, type: "dashed" },
            data: beside ? zigzag(beside.drawn, beside.shift) : [],
          },
        ],
      };
    },
    [drawn, JSON.stringify([phases, cursors, range]), beside],
    (chart: EChartsType) => {
      chart.on("datazoom", () => {
        const [zoom] = (chart.getOption() as { dataZoom?: { startValue?: number; endValue?: number }[] }).dataZoom ?? [];
        if (zoom?.startValue !== undefined && zoom.endValue !== undefined) setRange([zoom.startValue, zoom.endValue]);
      });
      chart.getZr().on("click", (event) => {
        const [time] = chart.convertFromPixel({ seriesIndex: 0 }, [event.offsetX, event.offsetY]) as [number];
        if (Number.isFinite(time)) setCursors((set) => (set.length >= 2 ? [time] : [...set, time]));
      });
    },
  );
  const at = (time: number): string => {
    const k = drawn.seconds.findIndex((one) => one >= time);
    return k < 0 ? "" : `${(((drawn.lowest[k] as number) + (drawn.highest[k] as number)) / 2).toFixed(2)} V`;
  };
  const [one, other] = cursors;
  const step = (by: number): void => setRange(([a, b]) => [Math.max(0, a + by * (b - a)), Math.min(seconds, b + by * (b - a))]);
  const zoom = (by: number): void =>
    setRange(([a, b]) => {
      const [middle, half] = [(a + b) / 2, ((b - a) / 2) * by];
      return [Math.max(0, middle - half), Math.min(seconds, middle + half)];
    });
  return (
    <figure className="m-0">
      <div
        ref={box}
        role="img"
        aria-label={`${name}: ${phases.map(({ phase, from: a, volts: level }) => `${PHASE_NAMES[phase]} from ${a.toFixed(1)} s${level === undefined ? "" : `, ${level.toFixed(2)} V`}`).join("; ")}.`}
        className="h-80 w-full"
      />
      <figcaption className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <span className="flex gap-2">
          {(
            [
              ["Earlier", () => step(-0.5)],
              ["Later", () => step(0.5)],
              ["Closer", () => zoom(0.5)],
              ["Wider", () => zoom(2)],
              ["All", () => setRange([0, seconds])],
            ] as const
          ).map(([label, act]) => (
            <button key={label} type="button" className="btn min-h-9 px-3" onClick={act}>
              {label}
            </button>
          ))}
        </span>
        <span className="text-mute" role="status">
          {one === undefined
            ? "Click twice into the trace for two cursors."
            : other === undefined
              ? `1: ${one.toFixed(2)} s, ${at(one)}`
              : `1: ${one.toFixed(2)} s, ${at(one)}; 2: ${other.toFixed(2)} s, ${at(other)}; apart ${Math.abs(other - one).toFixed(2)} s`}
        </span>
      </figcaption>
    </figure>
  );
}
