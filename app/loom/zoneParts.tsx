import { partNamesOf } from "../../core/machine/families/registry";
import type { Part } from "../../core/machine/part";
import type { Wire } from "../../core/machine/wire";
import type { ZoneProps } from "./coils";
import { Y } from "./layout";

/** The wires of a zone with their tracers, as the sheet names their colours; runs of one colour are one path, so that a page carries few of them. */
export function Wires({ runs }: { runs: readonly { d: string; wire: Wire }[] }) {
  const joined = (colour: (wire: Wire) => string | undefined): [string, string][] => {
    const paths = new Map<string, string>();
    for (const { d, wire } of runs) {
      const shade = colour(wire);
      if (shade) paths.set(shade, (paths.get(shade) ?? "") + d);
    }
    return [...paths];
  };
  return (
    <>
      <path d={runs.map((run) => run.d).join("")} stroke="var(--ink)" strokeWidth="6.6" opacity="0.75" />
      {joined((wire) => wire.base).map(([colour, d]) => (
        <path key={colour} d={d} stroke={`var(--wire-${colour})`} strokeWidth="5" />
      ))}
      {joined((wire) => wire.tracer).map(([colour, d]) => (
        <path key={colour} d={d} stroke={`var(--wire-${colour})`} strokeWidth="2" strokeDasharray="10 5" />
      ))}
    </>
  );
}

/** A part's name; a tap on it goes to the part's tests. */
export function PartName({
  part,
  x,
  y = Y.name,
  anchor = "start",
  sheet,
  lettering,
  partLink,
}: Pick<ZoneProps, "sheet" | "lettering" | "partLink"> & { part: Part; x: number; y?: number; anchor?: "start" | "middle" | "end" }) {
  const name = (
    <text x={x} y={y} fontSize={15 * lettering} fontWeight={600} textAnchor={anchor}>
      {partNamesOf(sheet)[part]}
    </text>
  );
  return partLink ? (
    <a data-step="" href={partLink(part)}>
      {name}
    </a>
  ) : (
    name
  );
}
