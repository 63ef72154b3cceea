import type { Mark } from "../../core/diagnosis/words/marks";

/** How a part's outline tells its standing, without relying on colour. */
interface Outline {
  stroke: string;
  strokeDasharray?: string;
  strokeWidth: number;
  fill: string;
}

/** Ids of one loom's hatch patterns; each loom on a page has its own. */
export interface Hatches {
  suspect: string;
}

/** The outline for a mark: broken, notched, hatched, filled, doubled. */
export function outlineOf(mark: Mark, hatches: Hatches): Outline {
  switch (mark) {
    case "cleared":
      return { stroke: "var(--petrol)", strokeWidth: 2.6, fill: "var(--sheet)" };
    case "suspect":
      return { stroke: "var(--copper)", strokeWidth: 2.2, fill: `url(#${hatches.suspect})` };
    case "condemned":
      return { stroke: "var(--plum)", strokeWidth: 2.6, fill: "var(--plum)" };
    case "contradicting":
      return { stroke: "var(--copper)", strokeWidth: 1.6, fill: "var(--sheet)" };
    default:
      return { stroke: "var(--ink)", strokeWidth: 1.5, strokeDasharray: "7 5", fill: "var(--sheet)" };
  }
}

/** Ink for what is drawn inside a part: on a filled part it turns to paper. */
export function inkOn(mark: Mark): string {
  return mark === "condemned" ? "var(--sheet)" : "var(--ink)";
}

/** The hatch patterns, defined once in each loom. */
export function HatchDefs({ hatches }: { hatches: Hatches }) {
  return (
    <defs>
      <pattern id={hatches.suspect} width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="8" height="8" fill="var(--sheet)" />
        <path d="M0 0V8" stroke="var(--copper)" strokeWidth="2.4" />
      </pattern>
    </defs>
  );
}

interface BoxProps {
  x: number;
  y: number;
  width: number;
  height: number;
  mark: Mark;
  hatches: Hatches;
}

/** A rectangular part drawn with its standing: notch for cleared, cross bar for condemned, a second outline for contradicting. */
export function MarkedBox({ x, y, width, height, mark, hatches }: BoxProps) {
  return (
    <>
      <rect x={x} y={y} width={width} height={height} {...outlineOf(mark, hatches)} />
      {mark === "cleared" ? <path d={`M${x + width - 13} ${y + height}L${x + width} ${y + height - 13}`} stroke="var(--petrol)" strokeWidth="2.6" /> : null}
      {mark === "contradicting" ? (
        <rect x={x + 4} y={y + 4} width={width - 8} height={height - 8} fill="none" stroke="var(--copper)" strokeWidth="1.6" />
      ) : null}
      {mark === "condemned" ? <path d={`M${x - 8} ${y + height + 8}L${x + width + 8} ${y - 8}`} stroke="var(--plum)" strokeWidth="5" /> : null}
    </>
  );
}

/** The same marks as a small square, for lists; its hatch is drawn as strokes, so that a list needs no patterns. */
export function MarkSquare({ mark }: { mark: Mark }) {
  const { fill, ...line } = outlineOf(mark, { suspect: "" });
  return (
    <svg width="26" height="26" viewBox="-3 -3 28 28" aria-hidden="true" className="shrink-0 overflow-visible">
      <rect x="1" y="1" width="20" height="20" {...line} fill={mark === "condemned" ? fill : "var(--sheet)"} />
      {mark === "cleared" ? <path d="M8 21L21 8" stroke="var(--petrol)" strokeWidth="2.6" /> : null}
      {mark === "suspect" ? <path d="M1 8L8 1M1 15L15 1M3 20L20 3M9 21L21 9M16 21L21 16" stroke="var(--copper)" strokeWidth="2" /> : null}
      {mark === "contradicting" ? <rect x="5" y="5" width="12" height="12" fill="none" stroke="var(--copper)" strokeWidth="1.6" /> : null}
      {mark === "condemned" ? <path d="M-2 24L24 -2M4 18L18 4" stroke="var(--sheet)" strokeWidth="2.4" /> : null}
    </svg>
  );
}

/** The mark in a word, for readers who hear the page. */
export const MARK_WORDS: Record<Mark, string> = {
  unseen: "not looked at",
  cleared: "cleared",
  suspect: "suspected",
  condemned: "condemned",
  contradicting: "readings disagree",
};
