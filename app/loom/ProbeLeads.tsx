import type { Point } from "../../core/machine/points";
import type { Sheet } from "../../core/machine/sheet";
import { type Layout, meterX, type Spot, spotOf, Y } from "./layout";

/** So many characters fit into the drawn meter. */
const DIGITS = 6;

/** What is typed, as the small meter can show it: the end of it where it is too long. */
function shownOn(display: string | undefined): string {
  if (!display) return "- - -";
  return display.length > DIGITS ? `…${display.slice(1 - DIGITS)}` : display;
}

interface ProbeLeadsProps {
  sheet: Sheet;
  layout: Layout;
  /** Words on the meter: where its dial stands. */
  dial: string;
  probes: { red: Point; black: Point };
  display: string | undefined;
  lettering: number;
}

const METER = { width: 112, height: 34 } as const;

/** The meter of the active test with its dial, and where its two tips go. */
export function ProbeLeads({ sheet, layout, dial, probes, display, lettering }: ProbeLeadsProps) {
  const red = spotOf(probes.red, sheet, layout);
  const black = spotOf(probes.black, sheet, layout);
  if (!red || !black) return null;
  const x = meterX(red, black, layout, METER.width);
  const redFirst = red.x <= black.x;
  const jack = (first: boolean) => x + (first ? 26 : METER.width - 26);
  return (
    <g>
      <Lead from={{ x: jack(!redFirst), y: Y.meter + (black.y > Y.meter ? METER.height : 0) }} to={black} side={redFirst ? 1 : -1} />
      <Lead red from={{ x: jack(redFirst), y: Y.meter + (red.y > Y.meter ? METER.height : 0) }} to={red} side={redFirst ? -1 : 1} />
      <rect x={x} y={Y.meter} width={METER.width} height={METER.height} fill="var(--paper)" stroke="var(--ink)" strokeWidth="2" />
      <text x={x + 10} y={Y.meter + 23} fontSize={17} className="num" data-display="">
        {shownOn(display)}
      </text>
      <text x={x + METER.width - 8} y={Y.meter + 22} fontSize={13 * Math.min(lettering, 1.2)} textAnchor="end" style={{ fill: "var(--mute)" }}>
        {dial}
      </text>
      <Tip spot={red} red />
      <Tip spot={black} />
    </g>
  );
}

/** A lead bulging to its own side, so that red and black never lie on each other. */
function Lead({ from, to, side, red = false }: { from: Spot; to: Spot; side: 1 | -1; red?: boolean }) {
  const reach = to.y > from.y ? 0 : 30 * side;
  const d = `M${from.x} ${from.y}C${from.x} ${(from.y + to.y) / 2} ${to.x + reach} ${to.y + (to.y > from.y ? -20 : 40)} ${to.x + (reach === 0 ? 0 : 9 * side)} ${to.y}`;
  return (
    <>
      <path d={d} stroke="var(--sheet)" strokeWidth="6" className="travels" />
      <path d={d} stroke={red ? "var(--wire-red)" : "var(--ink)"} strokeWidth="3" {...(red ? {} : { strokeDasharray: "none" })} className="travels" />
    </>
  );
}

/** A probe tip: an open ring for red, a filled one for black. */
function Tip({ spot, red = false }: { spot: Spot; red?: boolean }) {
  return (
    <>
      <circle cx={spot.x} cy={spot.y} r="11" fill="var(--sheet)" stroke={red ? "var(--wire-red)" : "var(--ink)"} strokeWidth="3" className="travels" />
      <text x={spot.x} y={spot.y + 4.5} fontSize="12" textAnchor="middle" className="num" fontWeight="700">
        {red ? "+" : "−"}
      </text>
    </>
  );
}
