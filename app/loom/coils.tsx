import type { Mark } from "../../core/diagnosis/words/marks";
import type { Part } from "../../core/machine/part";
import type { Sheet } from "../../core/machine/sheet";
import type { Hatches } from "./marks";

/** What the zones of a loom are drawn from. */
export interface ZoneProps {
  sheet: Sheet;
  mark: (part: Part) => Mark;
  hatches: Hatches;
  unplugged: readonly string[];
  lettering: number;
  partLink?: ((part: Part) => string) | undefined;
}

/** A circle as part of a path, for the many eyelets and pins that share one. */
export function ring(x: number, y: number, r: number): string {
  return `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
}

/** A coil of three turns, drawn to the right. */
export const COIL = "a5 6 0 0 1 9 0a5 6 0 0 1 9 0a5 6 0 0 1 9 0";

/** Coils as wye (from a star point) or delta (in a ring); an unknown winding is drawn with a question mark. */
export function JoinedWindings({ winding, legs, cx, cy, ink }: { winding: Sheet["winding"]; legs: number; cx: number; cy: number; ink: string }) {
  const turns = Array.from({ length: legs }, (_, i) => (i * 360) / legs);
  if (winding === "delta") {
    return (
      <g stroke={ink} strokeWidth="2.2">
        {turns.map((turn) => (
          <path key={turn} d={`M${cx - 27} ${cy + 15.6}h13.5${COIL}h13.5`} transform={`rotate(${turn} ${cx} ${cy})`} />
        ))}
      </g>
    );
  }
  return (
    <g stroke={ink} strokeWidth="2.2">
      {turns.map((turn) => (
        <path key={turn} d={`M${cx} ${cy}h5${COIL}h4`} transform={`rotate(${turn - 90} ${cx} ${cy})`} />
      ))}
      <circle cx={cx} cy={cy} r="3" fill={ink} />
      {winding === "unknown" ? (
        <text x={cx + 12} y={cy - 14} fontSize="20" fontWeight="600">
          ?
        </text>
      ) : null}
    </g>
  );
}
