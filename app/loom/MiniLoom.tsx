import type { Mark } from "../../core/diagnosis/words/marks";
import { familyOf, partNamesOf } from "../../core/machine/families/registry";
import type { Part } from "../../core/machine/part";
import type { Sheet } from "../../core/machine/sheet";
import { HatchDefs, MARK_WORDS, MarkedBox, outlineOf } from "./marks";

const BOXES: { part: Part; x: number; width: number }[] = [
  { part: "regulator", x: 92, width: 44 },
  { part: "wiring", x: 158, width: 24 },
  { part: "battery", x: 204, width: 38 },
];

/** The loom in small, for the rail: the same parts in the same order with the same marks, no lettering. */
export function MiniLoom({ sheet, marks, id }: { sheet: Pick<Sheet, "family" | "legs" | "groundWire">; marks: Partial<Record<Part, Mark>>; id: string }) {
  const hatches = { suspect: `${id}-h` };
  const family = familyOf(sheet.family);
  const earthed = family.looks.earthed === "some";
  const mark = (part: Part): Mark => marks[part] ?? "unseen";
  const spoken = Object.entries(marks)
    .filter(([, shown]) => shown !== "unseen")
    .map(([part, shown]) => `${partNamesOf(sheet)[part as Part]} ${MARK_WORDS[shown]}`);
  return (
    <svg viewBox="0 0 300 62" className="block w-full" fill="none" role="img" aria-label={spoken.length > 0 ? spoken.join(", ") : "nothing looked at yet"}>
      <HatchDefs hatches={hatches} />
      <path d="M8 56H292" stroke={`var(--wire-${sheet.groundWire.base})`} strokeWidth="3" />
      <path d="M114 44V56M228 44V56M274 40V56" stroke={`var(--wire-${sheet.groundWire.base})`} strokeWidth="3" />
      {sheet.legs.map((leg, i) => {
        const d = `M44 ${26 + (i - (sheet.legs.length - 1) / 2) * 9}H92`;
        return (
          <g key={leg.id}>
            <path d={d} stroke="var(--ink)" strokeWidth="4.4" opacity="0.75" />
            <path d={d} stroke={`var(--wire-${leg.wire.base})`} strokeWidth="3" />
          </g>
        );
      })}
      <path d="M136 26H158M182 26H204M242 26H262" stroke="var(--wire-red)" strokeWidth="3" />
      {earthed ? <path d="M32 41V56" stroke="var(--ink)" strokeWidth="1.6" /> : null}
      {family.field ? (
        <>
          <circle cx="32" cy="26" r="23" {...outlineOf(mark("stator"), hatches)} />
          <circle cx="32" cy="26" r="11" {...outlineOf(mark("rotor"), hatches)} />
          <path d={family.turning ? "M28 9h8v6h-8zM28 37h8v6h-8z" : "M40 22h6v3h-6zM40 28h6v3h-6z"} fill="var(--ink)" />
        </>
      ) : (
        <>
          <circle cx="32" cy="26" r="23" {...outlineOf(mark("rotor"), hatches)} />
          <circle cx="32" cy="26" r="15" {...outlineOf(mark("stator"), hatches)} />
        </>
      )}
      {mark("stator") === "condemned" ? <path d="M10 48L54 4" stroke="var(--plum)" strokeWidth="4" /> : null}
      {mark("stator") === "cleared" ? <path d="M33 40l12-10" stroke="var(--petrol)" strokeWidth="2.6" /> : null}
      {family.unit?.inLead ? (
        <path d="M104 15v12l11-6zM116 15v12M120 21H136V26H158M92 31H112M124 31V56M117 24l14 14M131 24l-14 14" stroke="var(--ink)" strokeWidth="1.4" />
      ) : null}
      {BOXES.filter(({ part }) => part !== "regulator" || !family.unit?.inLead).map(({ part, x, width }) => (
        <MarkedBox key={part} x={x} y={part === "wiring" ? 17 : 8} width={width} height={part === "wiring" ? 18 : 36} mark={mark(part)} hatches={hatches} />
      ))}
      <circle cx="274" cy="26" r="14" {...outlineOf(mark("loads"), hatches)} />
      <path d="M264 16l20 20M284 16l-20 20" stroke="var(--ink)" strokeWidth="1.4" />
    </svg>
  );
}
