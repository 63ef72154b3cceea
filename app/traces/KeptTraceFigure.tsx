import type { NewTrace } from "../../store/traces";
import { PHASE_NAMES } from "./phaseNames";

/** Height and margins of the picture, in units of its own; and its width where it has the page to itself. */
const PICTURE = { height: 150, top: 18, left: 40 } as const;
const WHOLE_PAGE = 900;

/** A kept trace as a picture that prints: volts over time, its phases as bands. */
export function KeptTraceFigure({ trace: { name, seconds, phases, drawn }, width = WHOLE_PAGE }: { trace: NewTrace; width?: number }) {
  const shown = [...drawn.lowest, ...drawn.highest].filter((value) => value > 1);
  const [low, high] = [
    Math.floor(shown.reduce((least, value) => Math.min(least, value), 99)),
    Math.ceil(shown.reduce((most, value) => Math.max(most, value), 0)),
  ];
  const x = (time: number): number => PICTURE.left + ((width - PICTURE.left) * time) / Math.max(1e-9, seconds);
  const y = (volts: number): number => PICTURE.top + ((PICTURE.height - PICTURE.top) * (high - Math.max(low, volts))) / Math.max(1, high - low);
  const path = drawn.seconds
    .map(
      (time, k) =>
        `${k ? "L" : "M"}${x(time).toFixed(1)} ${y(drawn.lowest[k] as number).toFixed(1)}L${x(time).toFixed(1)} ${y(drawn.highest[k] as number).toFixed(1)}`,
    )
    .join("");
  const said = phases
    .map(({ phase, from, volts }) => `${PHASE_NAMES[phase]} from ${from.toFixed(1)} s${volts === undefined ? "" : `, ${volts.toFixed(2)} V`}`)
    .join("; ");
  return (
    <svg viewBox={`0 0 ${width} ${PICTURE.height + 4}`} className="block w-full" role="img" aria-label={`Trace ${name}: ${said}.`}>
      {phases.map(({ phase, from, to }, k) => (
        <g key={`${phase} ${from}`}>
          <rect
            x={x(from)}
            y={PICTURE.top}
            width={Math.max(0, x(to) - x(from))}
            height={PICTURE.height - PICTURE.top}
            fill={phase === "crank" ? "var(--copper)" : "var(--petrol)"}
            opacity={phase === "crank" ? 0.22 : k % 2 ? 0.1 : 0}
          />
          {x(to) - x(from) > 52 ? (
            <text x={(x(from) + x(to)) / 2} y={12} textAnchor="middle" fontSize="13" fill="var(--mute)">
              {PHASE_NAMES[phase]}
            </text>
          ) : null}
        </g>
      ))}
      {[low, (low + high) / 2, high].map((volts) => (
        <g key={volts}>
          <line x1={PICTURE.left} x2={width} y1={y(volts)} y2={y(volts)} stroke="var(--hair)" />
          <text x={PICTURE.left - 5} y={y(volts) + 4} textAnchor="end" fontSize="12" fill="var(--mute)">
            {volts.toFixed(1)}
          </text>
        </g>
      ))}
      <path d={path} fill="none" stroke="var(--ink)" strokeWidth="1.2" />
    </svg>
  );
}
