import type { Band } from "../../core/procedure/bands";
import { isBad, type Judged } from "../../core/procedure/judge";
import { formatValue, type ReadingValue, type Unit } from "../../core/units";
import { bracketOn, placeOn, scaleFor } from "./scale";

/** One notch on a ruler. */
interface Notch {
  value: ReadingValue;
  judged?: Judged | undefined;
  /** A name under the notch, where several share the rule. */
  label?: string | undefined;
  /** The one being entered or looked at now. */
  now?: boolean;
}

interface RulerProps {
  band: Band | undefined;
  notches: readonly Notch[];
  unit: Unit;
  openAllowed: boolean;
  /** Drawn small in the run list: no words. */
  small?: boolean;
  title: string;
}

const WIDTH = 600;

/** The spec ruler: the sheet's band as a bracket, hatched ground outside it, readings as notches. */
export function Ruler({ band, notches, unit, openAllowed, small = false, title }: RulerProps) {
  const scale = scaleFor(
    band,
    notches.map((notch) => notch.value),
    unit,
    openAllowed,
  );
  const bracket = bracketOn(scale, band);
  const x = (at: number) => 3 + at * (WIDTH - 6);
  const base = small ? 16 : 40;
  const height = small ? 18 : 62;
  const hatched: [number, number][] = bracket
    ? [
        [0, bracket[0]],
        [bracket[1], 1],
      ]
    : [[0, 1]];
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      preserveAspectRatio={small ? "none" : "xMidYMid meet"}
      className={small ? "h-[14px] w-full" : "w-full"}
      role="img"
      aria-label={title}
    >
      {hatched.map(([from, to]) => (to - from > 0.005 ? <Hatch key={from} x1={x(from)} x2={x(to)} y={base} small={small} /> : null))}
      <path d={`M0 ${base}H${WIDTH}`} stroke="var(--ink)" strokeWidth={1.4} vectorEffect="non-scaling-stroke" />
      {bracket ? (
        <path
          d={`M${x(bracket[0])} ${base}V${base - (small ? 9 : 20)}H${x(bracket[1])}V${base}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={small ? 1.4 : 2.4}
          vectorEffect="non-scaling-stroke"
        />
      ) : null}
      {notches.map((notch) => (
        <path
          key={`${notch.label ?? ""} ${String(notch.value)} ${notch.now ?? false}`}
          d={`M${x(placeOn(scale, notch.value))} ${base}V${base - (small ? 13 : notch.now ? 30 : 24)}`}
          stroke={notch.judged && isBad(notch.judged) ? "var(--copper)" : "var(--petrol)"}
          strokeWidth={notch.now ? 6 : 4}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {small ? null : <Marks {...{ band, scale, bracket, notches, unit, x, base }} />}
    </svg>
  );
}

interface MarksProps {
  band: Band | undefined;
  scale: ReturnType<typeof scaleFor>;
  bracket: [number, number] | undefined;
  notches: readonly Notch[];
  unit: Unit;
  x: (at: number) => number;
  base: number;
}

/** The figures of the band's ends below the rule, and the names of the notches above it. */
function Marks({ band, scale, bracket, notches, unit, x, base }: MarksProps) {
  const ends =
    band?.kind === "between" && bracket
      ? [band.low === undefined ? undefined : { at: bracket[0], value: band.low }, band.high === undefined ? undefined : { at: bracket[1], value: band.high }]
      : [];
  const named = notches
    .filter((notch) => notch.label)
    .map((notch) => ({ ...notch, at: x(placeOn(scale, notch.value)) }))
    .sort((a, b) => a.at - b.at);
  const rows = spread(
    named.map((notch) => notch.at),
    40,
  );
  return (
    <>
      {ends.map((end) =>
        end ? (
          <text
            key={end.at}
            x={Math.min(WIDTH - 4, Math.max(4, x(end.at)))}
            y={base + 17}
            fontSize={15}
            textAnchor={end.at > 0.95 ? "end" : end.at < 0.05 ? "start" : "middle"}
            className="num"
          >
            {formatValue(end.value, unit)}
          </text>
        ) : null,
      )}
      {scale.hasOpen ? (
        <text x={WIDTH - 4} y={base + 17} fontSize={15} textAnchor="end">
          OL
        </text>
      ) : null}
      {named.map((notch, i) => (
        <text key={notch.label} x={Math.min(WIDTH - 30, Math.max(24, rows[i] ?? notch.at))} y={9} fontSize={14} textAnchor="middle">
          {notch.label}
        </text>
      ))}
    </>
  );
}

/** Pushes places apart so that names at them do not run into each other. */
function spread(places: readonly number[], gap: number): number[] {
  const out: number[] = [];
  for (const place of places) out.push(Math.max(place, (out.at(-1) ?? Number.NEGATIVE_INFINITY) + gap));
  return out;
}

/** Slanted strokes for the ground outside the band; drawn as strokes so that no pattern ids can clash on a page. */
function Hatch({ x1, x2, y, small }: { x1: number; x2: number; y: number; small: boolean }) {
  const rise = small ? 7 : 12;
  const step = small ? 26 : 8;
  const strokes = Array.from(
    { length: Math.max(0, Math.floor((x2 - x1) / step)) },
    (_, i) => `M${x1 + i * step} ${y}l${small ? step * 0.8 : rise * 0.8} ${-rise}`,
  ).join("");
  return <path d={strokes} stroke="var(--hair)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />;
}
