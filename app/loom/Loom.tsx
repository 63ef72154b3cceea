import { useId } from "react";
import type { Mark, WiringBreak } from "../../core/diagnosis/words/marks";
import { hasCapacitor } from "../../core/machine/capacitor";
import { partNamesOf } from "../../core/machine/families/registry";
import type { Part } from "../../core/machine/part";
import type { Point } from "../../core/machine/points";
import type { Sheet } from "../../core/machine/sheet";
import { testOf } from "../../core/procedure/catalogue";
import { probesAt, type Step } from "../../core/procedure/step";
import { BrokenMarks, brokenSpots } from "./broken";
import type { ZoneProps } from "./coils";
import { type Layout, layOut, type ReadingTag, tagReach, Y, ZONES, type Zone } from "./layout";
import { HatchDefs, MARK_WORDS } from "./marks";
import { ProbeLeads } from "./ProbeLeads";
import { BatteryZone, LoadsZone, OutputZone } from "./supply";
import { TagRow } from "./TagRow";
import { ConnectorZone, GeneratorZone, UnitZone } from "./zones";

interface LoomProps {
  sheet: Sheet;
  marks: Partial<Record<Part, Mark>>;
  /** Where condemned wiring has failed: it is marked there, not at its fuse and plug. */
  broken?: readonly WiringBreak[] | undefined;
  tags?: readonly ReadingTag[];
  /** The active step: probes, dial and unplugging are drawn for it. */
  step?: Step | undefined;
  /** What the meter shows now. */
  display?: string | undefined;
  swapped?: boolean;
  /** In place of a step: what is parted and where the probes are, as someone has put them. */
  stand?: { unplugged: readonly string[]; probes: { red: Point; black: Point }; dial: string } | undefined;
  /** Drawn over everything, in the loom's own measure. */
  over?: ((layout: Layout) => React.ReactNode) | undefined;
  /** The zones to show; all of them on a wide screen. */
  zones?: readonly Zone[];
  /** Lettering is enlarged by this factor when the strip is drawn small. */
  lettering?: number;
  /** Where a part's name and a reading's tag lead to. */
  partLink?: ((part: Part) => string) | undefined;
  stepLink?: ((step: Step) => string) | undefined;
}

const DRAW: Record<Zone, (props: ZoneProps) => React.ReactNode> = {
  generator: GeneratorZone,
  connector: ConnectorZone,
  unit: UnitZone,
  output: OutputZone,
  battery: BatteryZone,
  loads: LoadsZone,
};

/** The loom: the machine's own charging circuit as a strip, from the magnets to the loads, ground running home below. */
export function Loom({
  sheet,
  marks,
  broken = [],
  tags = [],
  step,
  display,
  swapped = false,
  stand,
  over,
  zones = ZONES,
  lettering = 1,
  partLink,
  stepLink,
}: LoomProps) {
  const hatches = { suspect: `${useId()}h` };
  const layout = layOut(zones);
  const test = step ? testOf(step.test) : undefined;
  const unplugged = stand?.unplugged ?? test?.setUp.unplug ?? [];
  const asked = step ? probesAt(step, sheet) : undefined;
  const probes = stand?.probes ?? (asked && swapped ? { red: asked.black, black: asked.red } : asked);
  const spots = brokenSpots(sheet, broken, unplugged.includes("stator"));
  const mark = (part: Part): Mark => (part === "wiring" && spots.length > 0 ? "unseen" : (marks[part] ?? "unseen"));
  const spoken = Object.entries(marks).map(([part, shown]) => `${partNamesOf(sheet)[part as Part]} ${MARK_WORDS[shown]}`);
  return (
    // A fieldset cannot hold a drawing; the group names it and lets the links inside be reached.
    // biome-ignore lint/a11y/useSemanticElements: see above
    <svg
      viewBox={`0 0 ${layout.width} ${Y.height}`}
      className="block h-full w-full"
      fill="none"
      role="group"
      aria-label={`Loom of the ${sheet.maker} ${sheet.model}${spoken.length > 0 ? `: ${spoken.join(", ")}` : ""}.`}
    >
      <HatchDefs hatches={hatches} />
      <GroundRail width={layout.width} sheet={sheet} lettering={lettering} />
      {layout.zones.map((zone) => {
        const Draw = DRAW[zone];
        return (
          <g key={zone} transform={`translate(${layout.left[zone] ?? 0} 0)`}>
            <Draw {...{ sheet, mark, hatches, unplugged, lettering, partLink }} />
          </g>
        );
      })}
      <BrokenMarks spots={spots} layout={layout} />
      {layout.zones.map((zone) => (
        <TagRow
          key={zone}
          left={layout.left[zone] ?? 0}
          reach={tagReach(zone, layout, tags)}
          tags={tags.filter((tag) => tag.zone === zone)}
          {...{ lettering, stepLink }}
        />
      ))}
      {probes ? <ProbeLeads {...{ sheet, layout, dial: stand?.dial ?? test?.dial ?? "", probes, display, lettering }} /> : null}
      {over?.(layout)}
    </svg>
  );
}

function GroundRail({ width, sheet, lettering }: { width: number; sheet: Sheet; lettering: number }) {
  const colour = `var(--wire-${sheet.groundWire.base})`;
  const stored = hasCapacitor(sheet) ? "capacitor" : "battery";
  const says = sheet.loose ? "" : sheet.earth === "positive" ? `engine and frame, ${stored} plus` : `engine and frame, ${stored} minus`;
  return (
    <>
      <path d={`M14 ${Y.rail}H${width - 14}`} stroke={colour} strokeWidth="6" />
      <path d={`M14 ${Y.rail}H${width - 14}`} stroke="var(--sheet)" strokeWidth="1.4" strokeDasharray="14 10" />
      <text x={width - 16} y={Y.rail + 18} fontSize={13 * lettering} textAnchor="end" style={{ fill: "var(--mute)" }}>
        {says}
      </text>
    </>
  );
}
