import { fieldWires, leadsOf } from "../../core/machine/families/family";
import { familyOf } from "../../core/machine/families/registry";
import type { Sheet } from "../../core/machine/sheet";
import { COIL, JoinedWindings, ring, type ZoneProps } from "./coils";
import { IN, legY, ZONE_WIDTH } from "./layout";
import { inkOn, outlineOf } from "./marks";

/** Generators that a field excites: a rotor on two rings, or an armature between two brushes. */

type Marked = Pick<ZoneProps, "sheet" | "mark" | "hatches">;

/** Where a leg's wire begins, right of what it comes from. */
export function excitedStart(sheet: Sheet, leg: number): number {
  const { centre } = IN.generator;
  const turning = (familyOf(sheet.family).turning?.(leadsOf(sheet)).length ?? 0) > 0;
  if (turning) return centre + FIELD_AT;
  return !fieldWires(familyOf(sheet.family)).includes(sheet.legs[leg]?.id ?? "")
    ? centre + Math.sqrt(Math.max(0, PHASES ** 2 - (legY(sheet, leg) - legY(sheet, 1)) ** 2))
    : centre + ROTOR.half;
}

/** Radius of the phases' ring; half the rotor's width, its height above and below its rings. */
const PHASES = 32;
const ROTOR = { half: 44, over: 9 } as const;
/** Of a DC generator: its frame, its armature, where the field's coil stands right of the middle. */
const FRAME = 62;
const ARMATURE = 25;
const FIELD_AT = 42;

/** Windings and field as this machine has them. */
export function ExcitedWindings(props: Marked) {
  const turning = familyOf(props.sheet.family).turning;
  return turning ? <Armature {...props} /> : <Rotor {...props} />;
}

/** Three phases about a star point or in a ring; below them the rotor's coil between its rings, a brush on each. */
function Rotor({ sheet, mark, hatches }: Marked) {
  const cx = IN.generator.centre;
  const cy = legY(sheet, 1);
  const [feed, back] = fieldWires(familyOf(sheet.family)).map((wire) => legY(sheet, leadsOf(sheet).indexOf(wire))) as [number, number];
  const right = cx + ROTOR.half;
  const ink = inkOn(mark("rotor"));
  return (
    <>
      <circle cx={cx} cy={cy} r={PHASES} {...outlineOf(mark("stator"), hatches)} />
      <g transform={`translate(${cx} ${cy}) scale(0.76)`}>
        {mark("stator") === "suspect" ? <circle r="36" fill="var(--sheet)" /> : null}
        <JoinedWindings winding={sheet.winding} legs={3} cx={0} cy={0} ink={inkOn(mark("stator"))} />
      </g>
      <rect
        x={cx - ROTOR.half}
        y={feed - ROTOR.over}
        width={2 * ROTOR.half}
        height={back - feed + 2 * ROTOR.over}
        rx="5"
        {...outlineOf(mark("rotor"), hatches)}
      />
      {mark("rotor") === "suspect" ? (
        <rect x={cx - ROTOR.half + 6} y={feed - ROTOR.over + 4} width={2 * ROTOR.half - 26} height={back - feed + 2 * ROTOR.over - 8} fill="var(--sheet)" />
      ) : null}
      <g stroke={ink} strokeWidth="2">
        <path d={`M${right - 14} ${feed}H${cx - 30}V${(feed + back) / 2}h8${COIL}h8V${back}H${right - 14}`} />
        <path d={`M${right - 14} ${feed - 7}v14M${right - 14} ${back - 7}v14`} strokeWidth="3.4" />
        <path d={`M${right - 9} ${feed - 4.5}h9v9h-9zM${right - 9} ${back - 4.5}h9v9h-9z`} fill={ink} />
      </g>
    </>
  );
}

/** The armature with its commutator and two brushes in the frame, the field's coil between A and F. */
function Armature({ sheet, mark, hatches }: Marked) {
  const cx = IN.generator.centre - 12;
  const [top, bottom] = [legY(sheet, 0), legY(sheet, 1)];
  const cy = (top + bottom) / 2;
  const ink = inkOn(mark("rotor"));
  const field = inkOn(mark("stator"));
  const bars = Array.from({ length: 8 }, (_, i) => {
    const turn = (i * Math.PI) / 4 + Math.PI / 8;
    const at = (reach: number) => `${(cx + reach * Math.cos(turn)).toFixed(1)} ${(cy + reach * Math.sin(turn)).toFixed(1)}`;
    return `M${at(10)}L${at(ARMATURE)}`;
  }).join("");
  const coil = IN.generator.centre + FIELD_AT;
  return (
    <>
      <circle cx={cx + 4} cy={cy} r={FRAME} {...outlineOf(mark("stator"), hatches)} />
      {mark("stator") === "suspect" ? <circle cx={cx + 4} cy={cy} r={FRAME - 9} fill="var(--sheet)" /> : null}
      <circle cx={cx} cy={cy} r={ARMATURE} {...outlineOf(mark("rotor"), hatches)} />
      {mark("rotor") === "suspect" ? <circle cx={cx} cy={cy} r={ARMATURE - 7} fill="var(--sheet)" /> : null}
      <path d={`${bars}${ring(cx, cy, 10)}`} stroke={ink} strokeWidth="1.6" />
      <g stroke={field} strokeWidth="2">
        <path d={`M${cx - 5} ${cy - ARMATURE - 9}h10v9h-10zM${cx - 5} ${cy + ARMATURE}h10v9h-10z`} fill={field} />
        <path d={`M${cx} ${cy - ARMATURE - 9}v-6H${coil - 12}V${top}h12`} />
        <path d={`M${cx} ${cy + ARMATURE + 9}v7m-8 0h16m-13 4h10m-7 4h4`} />
        <path d={`M0 0h1.5${COIL}h1.5`} transform={`translate(${coil} ${top}) rotate(90)`} />
      </g>
    </>
  );
}

/** The pulley and the belt that turns it, left below the generator. */
export function BeltDrive({ mark, hatches }: Pick<ZoneProps, "mark" | "hatches">) {
  return (
    <>
      <path d="M12 164L12 196M36 164L36 196" stroke={mark("drive") === "condemned" ? "var(--plum)" : "var(--ink)"} strokeWidth="3" />
      <circle cx="24" cy="196" r="12" {...outlineOf(mark("drive"), hatches)} />
      <circle cx="24" cy="164" r="12" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <path d={`M36 164H${ZONE_WIDTH.generator * 0.26}`} stroke="var(--ink)" strokeWidth="2" strokeDasharray="2 3" />
    </>
  );
}

/** In a regulator, what a wire without a rectifier comes to: the field's feed from the key, or the contact that grounds the field. */
export function fieldMark(first: boolean, x: number, y: number, top: number, bottom: number): string {
  if (first) return `M${x} ${y}V${top}`;
  const middle = (y + bottom) / 2;
  return `M${x} ${y}V${middle - 8}l9 17M${x} ${bottom}V${middle + 8}M${x - 3} ${middle + 8}h6`;
}

/** A cut-out's contact in the place of a diode. */
export const cutOutMark = (x: number, y: number): string => `M${x} ${y}l9 -16M${x - 3} ${y - 18}h6M${x - 12} ${y - 14}h6v10h-6z`;
