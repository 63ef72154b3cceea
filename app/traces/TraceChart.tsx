import type { EChartsType } from "echarts/core";
import { useEffect, useMemo, useRef, useState } from "react";
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

/** The stretch that a chart tells it shows, by hand in hundredths, by command in its own figures. */
interface Zoomed {
  start?: number;
  end?: number;
  startValue?: number;
  endValue?: number;
}

/** Volts over time: zoomed by wheel or pinch, moved by dragging, two cursors set by clicks, the phases as bands. */
export function TraceChart({ seconds, phases, look, beside, name }: TraceChartProps) {
  const box = useRef<HTMLDivElement>(null);
  const [range, setRange] = useState<[number, number]>([0, seconds]);
  const [drawn, setDrawn] = useState(NOTHING);
  const [cursors, setCursors] = useState<number[]>([]);
  const newest = useRef(0);
  const asked = useRef(look);
  asked.current = look;
  const chart = useRef<EChartsType>(undefined);
  const whole = useRef(seconds);
  whole.current = seconds;
  /** The stretch that is drawn, and how long the one on show was then. */
  const covered = useRef({ from: 0, to: 0, shown: 0, seconds: 0 });
  useEffect(() => {
    const [from, to] = range;
    const { current } = covered;
    // While a hand drags within what is drawn the chart moves by itself; only near its edge, or closer or wider, is more asked for.
    const near = (to - from) / 8;
    const inside = from >= current.from + (current.from > 0 ? near : 0) && to <= current.to - (current.to < seconds ? near : 0);
    if (inside && current.seconds === seconds && Math.abs(current.shown - (to - from)) < 1e-6 * (to - from)) return;
    // Only what was asked for last is drawn: a hand that drags asks for more than is worth showing.
    const turn = ++newest.current;
    const more = to - from;
    const stretch = { from: Math.max(0, from - more), to: Math.min(seconds, to + more), shown: to - from, seconds };
    void asked.current(stretch.from, to + more, STEPS * 3).then((envelope) => {
      if (turn !== newest.current) return;
      covered.current = stretch;
      setDrawn(envelope);
    });
  }, [range, seconds]);
  useEffect(() => setRange([0, seconds]), [seconds]);
  const [from, to] = range;
  const [bottom, top] = useMemo(() => {
    const volts = [...drawn.lowest, ...drawn.highest].filter((value) => value > 1);
    return [
      Math.floor(volts.reduce((least, value) => Math.min(least, value), 99) - 0.2),
      Math.ceil(volts.reduce((most, value) => Math.max(most, value), 0) + 0.2),
    ];
  }, [drawn]);
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
        dataZoom: [{ type: "inside", filterMode: "none", throttle: 0, startValue: from, endValue: to, minValueSpan: 0.05 }],
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
    [drawn, JSON.stringify([phases, cursors]), beside],
    (made: EChartsType) => {
      chart.current = made;
      // What the chart then shows it tells in hundredths of its axis; asking for its options instead would copy all its points at every move.
      made.on("datazoom", (event) => {
        const { batch, ...single } = event as Zoomed & { batch?: Zoomed[] };
        const { start, end, startValue, endValue } = batch?.[0] ?? single;
        const { current: length } = whole;
        if (startValue !== undefined && endValue !== undefined) setRange([startValue, endValue]);
        else if (start !== undefined && end !== undefined) setRange([(start / 100) * length, (end / 100) * length]);
      });
      made.getZr().on("click", (event) => {
        const [time] = made.convertFromPixel({ seriesIndex: 0 }, [event.offsetX, event.offsetY]) as [number];
        if (Number.isFinite(time)) setCursors((set) => (set.length >= 2 ? [time] : [...set, time]));
      });
    },
  );
  const at = (time: number): string => {
    const k = drawn.seconds.findIndex((second) => second >= time);
    return k < 0 ? "" : `${(((drawn.lowest[k] as number) + (drawn.highest[k] as number)) / 2).toFixed(2)} V`;
  };
  const [cursor, other] = cursors;
  const show = (startValue: number, endValue: number): void => {
    setRange([startValue, endValue]);
    chart.current?.dispatchAction({ type: "dataZoom", startValue, endValue });
  };
  const step = (by: number): void => show(Math.max(0, from + by * (to - from)), Math.min(seconds, to + by * (to - from)));
  const zoom = (by: number): void => {
    const [middle, half] = [(from + to) / 2, ((to - from) / 2) * by];
    show(Math.max(0, middle - half), Math.min(seconds, middle + half));
  };
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
              ["All", () => show(0, seconds)],
            ] as const
          ).map(([label, act]) => (
            <button key={label} type="button" className="btn min-h-9 px-3" onClick={act}>
              {label}
            </button>
          ))}
        </span>
        <span className="text-mute" role="status">
          {cursor === undefined
            ? "Click twice into the trace for two cursors."
            : other === undefined
              ? `1: ${cursor.toFixed(2)} s, ${at(cursor)}`
              : `1: ${cursor.toFixed(2)} s, ${at(cursor)}; 2: ${other.toFixed(2)} s, ${at(other)}; apart ${Math.abs(other - cursor).toFixed(2)} s`}
        </span>
      </figcaption>
    </figure>
  );
}
