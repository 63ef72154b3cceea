import type { EChartsCoreOption } from "echarts/core";
import { type RefObject, useRef } from "react";
import type { Sheet } from "../../core/machine/sheet";
import { MOST_CHANNELS } from "../../core/rig/setup";
import { chartAxis, chartFrame, type Inks, useChart } from "../charts/useChart";

interface ScopeProps {
  sheet: Sheet;
  channels: readonly string[];
  onChannels: (channels: string[]) => void;
  /** Handed up, to be called at every update. */
  draw: RefObject<((tracks: Tracks) => void) | undefined>;
  held: boolean;
  onHold: () => void;
  cursors: readonly [number, number];
  onCursors: (cursors: [number, number]) => void;
  readout: RefObject<HTMLTableSectionElement | null>;
}

/** What the scope draws: one track a channel over the same time, and the sound machine's beside them when asked for. */
export interface Tracks {
  step: number;
  ailing: readonly Float32Array[];
  sound: readonly Float32Array[] | undefined;
}

const DASHES = ["solid", "solid", "dashed", "dotted"] as const;

const FIGURES = ["at 1", "at 2", "2 − 1", "mean", "rms", "swing"] as const;
const narrowHides = (figure: string): string => (figure === "2 − 1" || figure === "swing" ? "max-md:hidden" : "");

/** What a scope can be clipped to: the machine's nodes that matter, and the currents in its wires. */
function choices(sheet: Sheet): { value: string; label: string }[] {
  const legs = sheet.legs.map((leg) => leg.id);
  return [
    ...legs.map((leg) => ({ value: `unitLeg:${leg}`, label: `leg ${leg}, volts` })),
    ...legs.map((leg, i) => ({ value: `leg:${leg},leg:${legs[(i + 1) % legs.length]}`, label: `pair ${leg}–${legs[(i + 1) % legs.length]}, volts` })),
    { value: "B+", label: "unit's output, volts" },
    { value: "battery+", label: "battery, volts" },
    { value: "@battery", label: "into the battery, amps" },
    { value: "@outputWire", label: "out of the unit, amps" },
    ...legs.map((leg) => ({ value: `@pin:${leg}`, label: `leg ${leg}, amps` })),
  ];
}

/** The scope: chosen volts and currents over two electrical cycles, two cursors, and their readout in figures. */
export function Scope({ sheet, channels, onChannels, draw, held, onHold, cursors, onCursors, readout }: ScopeProps) {
  const box = useRef<HTMLDivElement>(null);
  const inks = useRef<Inks>(undefined);
  const all = choices(sheet);
  const label = (name: string): string => all.find((channel) => channel.value === name)?.label ?? name;
  const set = useChart(
    box,
    (now) => {
      inks.current = now;
      return frameOf(
        now,
        channels.map(label),
        channels.map((name) => name.startsWith("@")),
      );
    },
    [channels.join(" ")],
  );
  draw.current = (tracks) => set.current?.(tracksOf(tracks, cursors));
  return (
    <section aria-label="Scope" className="flex min-h-0 flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        {channels.map((name, i) => (
          <label key={`${name}${i.toString()}`} className="flex items-center gap-1.5">
            <span
              aria-hidden="true"
              className={`inline-block w-6 border-t-[3px] ${["border-ink", "border-copper", "border-petrol border-dashed", "border-plum border-dotted"][i]}`}
            />
            <span className="sr-only">Channel {i + 1}</span>
            <select
              className="border-hair bg-sheet min-h-9 max-w-44 border px-1"
              value={name}
              onChange={(event) =>
                onChannels(event.target.value ? channels.map((channel, k) => (k === i ? event.target.value : channel)) : channels.filter((_, k) => k !== i))
              }
            >
              {all.some((channel) => channel.value === name) ? null : <option value={name}>{name}</option>}
              {all.map((channel) => (
                <option key={channel.value} value={channel.value}>
                  {channel.label}
                </option>
              ))}
              <option value="">take off</option>
            </select>
          </label>
        ))}
        {channels.length < MOST_CHANNELS ? (
          <button
            type="button"
            className="text-petrol min-h-9"
            onClick={() => onChannels([...channels, all.find((channel) => !channels.includes(channel.value))?.value ?? "B+"])}
          >
            Clip on another
          </button>
        ) : null}
        <button type="button" className="text-petrol ml-auto min-h-9" aria-pressed={held} onClick={onHold}>
          {held ? "Let it run" : "Hold still"}
          <span className="key">p</span>
        </button>
      </div>
      <div ref={box} role="img" aria-label={`Scope: ${channels.map(label).join(", ")} over two electrical cycles`} className="min-h-52 w-full flex-1" />
      <div className="grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {(["1", "2"] as const).map((name, i) => (
          <label key={name} className="text-mute flex items-center gap-2">
            Cursor {name}
            <input
              type="range"
              className="min-w-0 flex-1"
              min="0"
              max="1"
              step="0.005"
              value={cursors[i]}
              onChange={(event) => onCursors(i === 0 ? [Number(event.target.value), cursors[1]] : [cursors[0], Number(event.target.value)])}
            />
          </label>
        ))}
      </div>
      <table className="num mt-1 w-full text-[0.9rem]">
        <thead className="text-mute">
          <tr>
            <th className="text-left font-normal">channel</th>
            {FIGURES.map((name) => (
              <th key={name} className={`pl-2 text-right font-normal ${narrowHides(name)}`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody ref={readout}>
          {channels.map((name, i) => (
            <tr key={`${name}${i.toString()}`}>
              <th className="text-left font-normal">{label(name)}</th>
              {FIGURES.map((figure) => (
                <td key={figure} className={`pl-2 text-right ${narrowHides(figure)}`} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function frameOf(inks: Inks, names: readonly string[], amps: readonly boolean[]): EChartsCoreOption {
  const axis = chartAxis(inks);
  const series = (name: string, i: number, sound: boolean) => ({
    id: `${sound ? "sound" : "ailing"}${i}`,
    name: sound ? `${name}, sound` : name,
    type: "line",
    showSymbol: false,
    yAxisIndex: amps[i] ? 1 : 0,
    lineStyle: sound ? { color: inks.mute, width: 1, type: "dashed" } : { color: inks.lines[i], width: 2, type: DASHES[i] },
    itemStyle: { color: sound ? inks.mute : inks.lines[i] },
    data: [],
    silent: true,
  });
  const slots = Array.from({ length: MOST_CHANNELS }, (_, i) => i);
  return {
    ...chartFrame(inks),
    grid: { left: 44, right: 44, top: 14, bottom: 26 },
    xAxis: { type: "value", min: 0, ...axis, axisLabel: { color: inks.mute, formatter: "{value} ms", showMaxLabel: false } },
    yAxis: [
      { type: "value", name: "V", nameGap: 2, nameTextStyle: { color: inks.mute }, ...axis },
      { type: "value", name: "A", nameGap: 2, nameTextStyle: { color: inks.mute }, ...axis, splitLine: { show: false } },
    ],
    series: [...slots.map((i) => series(names[i] ?? "", i, false)), ...slots.map((i) => series(names[i] ?? "", i, true))],
  };
}

/** Only what moves: data, the time axis' end, the cursors. */
function tracksOf({ step, ailing, sound }: Tracks, cursors: readonly [number, number]): EChartsCoreOption {
  const length = ailing[0]?.length ?? 2;
  const scale = step > 0 ? step * 1000 : 1;
  const end = (length - 1) * scale;
  const points = (track: Float32Array | undefined) => (track ? Array.from(track, (value, i) => [i * scale, value]) : []);
  const slots = Array.from({ length: MOST_CHANNELS }, (_, i) => i);
  return {
    xAxis: { max: Number(end.toPrecision(4)) },
    series: [
      ...slots.map((i) => ({
        id: `ailing${i}`,
        data: points(ailing[i]),
        ...(i === 0
          ? {
              markLine: {
                silent: true,
                symbol: "none",
                animation: false,
                label: { formatter: "{b}", color: "inherit" },
                data: [
                  { name: "1", xAxis: cursors[0] * end },
                  { name: "2", xAxis: cursors[1] * end },
                ],
              },
            }
          : {}),
      })),
      ...slots.map((i) => ({ id: `sound${i}`, data: points(sound?.[i]) })),
    ],
  };
}

/** Fills the readout under the scope from the same tracks. */
export function fillReadout(body: HTMLTableSectionElement | null, { ailing }: Tracks, [a, b]: readonly [number, number]): void {
  ailing.forEach((track, i) => {
    const cells = body?.rows[i]?.cells;
    if (!cells) return;
    const at = (share: number): number => track[Math.round(share * (track.length - 1))] ?? 0;
    let [sum, square, low, high] = [0, 0, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const value of track) {
      sum += value;
      square += value * value;
      low = Math.min(low, value);
      high = Math.max(high, value);
    }
    const figures = [at(a), at(b), at(b) - at(a), sum / track.length, Math.sqrt(square / track.length), high - low];
    figures.forEach((figure, k) => {
      const cell = cells[k + 1];
      if (cell) cell.textContent = figure.toFixed(2);
    });
  });
}
