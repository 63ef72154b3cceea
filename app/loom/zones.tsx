import { type Half, leadsOf, wayAt } from "../../core/machine/families/family";
import { familyOf, isBelted, isMirrored } from "../../core/machine/families/registry";
import type { Sheet } from "../../core/machine/sheet";
import type { Wire } from "../../core/machine/wire";
import { COIL, JoinedWindings, ring, type ZoneProps } from "./coils";
import { BeltDrive, cutOutMark, ExcitedWindings, excitedStart, fieldMark } from "./excited";
import { IN, legY, middleY, Y, ZONE_WIDTH } from "./layout";
import { inkOn, MarkedBox, outlineOf } from "./marks";
import { PartName, Wires } from "./zoneParts";

/** Rotor and stator: magnets round the rim, the windings inside as this machine has them. */
export function GeneratorZone({ sheet, mark, hatches, lettering, partLink }: ZoneProps) {
  const { centre: cx, radius } = IN.generator;
  const cy = middleY(sheet);
  const rotor = outlineOf(mark("rotor"), hatches);
  const stator = outlineOf(mark("stator"), hatches);
  const ink = inkOn(mark("stator"));
  const excited = familyOf(sheet.family).field !== undefined;
  const belted = isBelted(sheet);
  const magnets = Math.min(24, (sheet.polePairs ?? 6) * 2);
  return (
    <>
      <PartName part="rotor" x={8} {...{ sheet, lettering, partLink }} />
      <PartName part="stator" x={ZONE_WIDTH.generator - 10} anchor="end" {...{ sheet, lettering, partLink }} />
      {belted ? <BeltDrive mark={mark} hatches={hatches} /> : null}
      {belted ? <PartName part="drive" x={8} y={Y.bottom + 18} {...{ sheet, lettering, partLink }} /> : null}
      {excited ? (
        <ExcitedWindings sheet={sheet} mark={mark} hatches={hatches} />
      ) : (
        <>
          <circle cx={cx} cy={cy} r={radius} {...rotor} />
          <path d={magnetPath(cx, cy, radius, magnets, 0)} stroke="var(--mute)" strokeWidth="1" fill="var(--sheet)" />
          <path d={magnetPath(cx, cy, radius, magnets, 1)} fill="var(--mute)" />
          <circle cx={cx} cy={cy} r={radius - 16} {...stator} />
          {mark("stator") === "contradicting" ? <circle cx={cx} cy={cy} r={radius - 21} stroke="var(--copper)" strokeWidth="1.6" /> : null}
          {mark("stator") === "suspect" ? <circle cx={cx} cy={cy} r={radius - 30} fill="var(--sheet)" /> : null}
          <Windings sheet={sheet} cx={cx} cy={cy} ink={ink} />
        </>
      )}
      {mark("stator") === "cleared" ? <path d={`M${cx + 32} ${cy + 50}l18 -18`} stroke="var(--petrol)" strokeWidth="2.6" /> : null}
      {mark("stator") === "condemned" ? <path d={`M${cx - 66} ${cy + 66}L${cx + 66} ${cy - 66}`} stroke="var(--plum)" strokeWidth="5" /> : null}
      <Wires
        runs={sheet.legs.map((leg, i) => {
          const y = legY(sheet, i);
          const start = excited ? excitedStart(sheet, i) : cx + Math.sqrt(Math.max(0, (radius - 16) ** 2 - (y - cy) ** 2));
          return { wire: leg.wire, d: `M${start.toFixed(1)} ${y}H${ZONE_WIDTH.generator}` };
        })}
      />
    </>
  );
}

/** Every second magnet on the rim, as one path: north ones from 0, south ones from 1. */
function magnetPath(cx: number, cy: number, radius: number, magnets: number, first: 0 | 1): string {
  let d = "";
  for (let i = first; i < magnets; i += 2) {
    const turn = (i * 2 * Math.PI) / magnets;
    const at = (across: number, in_: number): string => {
      const reach = radius - in_;
      return `${(cx + reach * Math.sin(turn) + across * Math.cos(turn)).toFixed(1)} ${(cy - reach * Math.cos(turn) + across * Math.sin(turn)).toFixed(1)}`;
    };
    d += `M${at(-5, 4)}L${at(5, 4)}L${at(5, 10)}L${at(-5, 10)}Z`;
  }
  return d;
}

/** The windings as this machine has them: joined among each other in wye or delta, or each by itself. */
function Windings({ sheet, ...at }: { sheet: Sheet; cx: number; cy: number; ink: string }) {
  return familyOf(sheet.family).joins.length > 0 ? (
    <JoinedWindings winding={sheet.winding} legs={sheet.legs.length} {...at} />
  ) : (
    <LoneWindings sheet={sheet} {...at} />
  );
}

/** Coils each on its own: from the wire it begins at to the wire it ends at, or to the engine; a diode in the lead where there is one. */
function LoneWindings({ sheet, cx, cy, ink }: { sheet: Sheet; cx: number; cy: number; ink: string }) {
  const family = familyOf(sheet.family);
  const leads = leadsOf(sheet);
  const built = family.innerDiodes(leads);
  const reach = (y: number): number => cx + Math.sqrt(Math.max(0, 54 ** 2 - (y - cy) ** 2));
  const ends = new Map<string, number>();
  const drawn = family.coils({ sheet, winding: "wye" }).map(({ lead, to }, i) => {
    const y = legY(sheet, leads.indexOf(lead));
    const left = cx - 28 - 7 * i;
    const diode = built.includes(lead) ? `M${cx + 19} ${y - 6}v12l10 -6zM${cx + 29} ${y - 6}v12` : "";
    const own = `M${reach(y).toFixed(1)} ${y}H${cx + 9}M${cx - 18} ${y}${COIL}M${cx - 18} ${y}`;
    const end = leads.indexOf(to.replace("leg:", ""));
    if (end < 0) return { lead, d: `${own}H${left}v9M${left - 7} ${y + 9}h14M${left - 4} ${y + 13}h8M${left - 1.5} ${y + 17}h3${diode}` };
    // Coils that end at one wire meet it at one point.
    const x = ends.get(to) ?? left;
    ends.set(to, x);
    const other = legY(sheet, end);
    return { lead, d: `${own}H${x}V${other}H${reach(other).toFixed(1)}` };
  });
  return (
    <g stroke={ink} strokeWidth="2.2">
      {drawn.map(({ lead, d }) => (
        <path key={lead} d={d} />
      ))}
    </g>
  );
}

/** The stator connector, joined or parted, its pins numbered as on the machine. */
export function ConnectorZone({ sheet, unplugged, lettering, mark, hatches }: ZoneProps) {
  const parted = unplugged.includes("stator");
  const { part, pinWidth } = IN.connector;
  const harness = parted ? IN.connector.harness : part + pinWidth + 2;
  const top = legY(sheet, 0) - 18;
  const height = legY(sheet, sheet.legs.length - 1) + 18 - top;
  const wiring = mark("wiring");
  return (
    <>
      <Wires
        runs={sheet.legs.map(({ wire }, i) => ({ wire, d: `M0 ${legY(sheet, i)}H${part}M${harness + pinWidth} ${legY(sheet, i)}H${ZONE_WIDTH.connector}` }))}
      />
      <text x={part + (parted ? 57 : 35)} y={Y.name + 12} fontSize={14 * lettering} textAnchor="middle">
        {`${sheet.statorConnector.name}${parted ? ", unplugged" : ""}`}
      </text>
      <rect x={part} y={top} width={pinWidth} height={height} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={parted ? 2.4 : 1.6} />
      <rect x={harness} y={top} width={pinWidth} height={height} {...outlineOf(wiring === "condemned" ? "suspect" : wiring, hatches)} />
      <path d={sheet.legs.map((_, i) => ring(part + pinWidth / 2, legY(sheet, i), 9)).join("")} fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.6" />
      <path d={sheet.legs.map((_, i) => ring(harness + pinWidth / 2, legY(sheet, i), 6)).join("")} fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.4" />
      {sheet.legs.map((leg, i) => (
        <text key={leg.id} x={part + pinWidth / 2} y={legY(sheet, i) + 4.5} fontSize="12" textAnchor="middle" className="num">
          {leg.pin.slice(0, 2)}
        </text>
      ))}
      {parted ? (
        <>
          {/* Beside its half: below it the probes' leads come down. */}
          <text x={part - 14} y={top + height + 3} fontSize={13 * lettering} fontWeight={600} textAnchor="end">
            part side
          </text>
          <text x={harness + pinWidth / 2 + 6} y={top + height + 15} fontSize={13 * lettering} textAnchor="middle" style={{ fill: "var(--mute)" }}>
            harness side
          </text>
        </>
      ) : null}
      <circle cx={IN.connector.engine} cy={Y.rail} r="6" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.6" />
    </>
  );
}

/** Regulator/rectifier: cooling fins, six ways, and a mark on those that are switched. */
export function UnitZone({ sheet, mark, hatches, unplugged, lettering, partLink }: ZoneProps) {
  const { left, right, pin, cable, output, feed, ground, exciter } = IN.unit;
  const standing = mark("regulator");
  const ink = inkOn(standing);
  const out = unplugged.includes("output");
  const top = Math.max(Y.top, legY(sheet, 0) - 34);
  const width = right - left;
  const family = familyOf(sheet.family);
  const leads = leadsOf(sheet);
  const ways = new Set(family.ways(leads));
  const lamps = family.lampLeads(leads);
  const columns = leads.map((lead, i) => ({
    lead,
    x: left + 30 + (i * (width - 60)) / Math.max(1, leads.length - 1),
    upper: ways.has(wayAt(lead, "upper")),
    lower: ways.has(wayAt(lead, "lower")),
  }));
  if (family.unit?.inLead) return <BareLeads {...{ sheet, unplugged, lettering }} />;
  return (
    <>
      <PartName part="regulator" x={left - 20} {...{ sheet, lettering, partLink }} />
      <path d={`M${left + 6} ${top}${Array.from({ length: 9 }, () => "v-9h7v9m7 0").join("")}`} stroke="var(--ink)" strokeWidth="1.4" />
      <MarkedBox x={left} y={top} width={width} height={Y.bottom - top} mark={standing} hatches={hatches} />
      {standing === "suspect" ? <rect x={left + 18} y={top + 8} width={width - 36} height={Y.bottom - top - 16} fill="var(--sheet)" /> : null}
      <g stroke={ink} strokeWidth="1.5">
        <path
          d={`M${left + 24} ${top + 16}H${right - 24}M${left + 24} ${Y.bottom - 14}H${right - 24}${columns
            .map(({ x, upper, lower, lead }, i) =>
              upper || lower || lamps.includes(lead)
                ? `M${x} ${upper ? top + 16 : legY(sheet, i)}V${lower || !upper ? Y.bottom - 14 : legY(sheet, i)}`
                : fieldMark(i < leads.length - 1, x, legY(sheet, i), top + 4, Y.bottom - 14),
            )
            .join("")}`}
        />
        <path
          d={columns
            .map(({ x, upper, lower }) =>
              [upper ? [top + 44] : [], lower ? [Y.bottom - 28] : []]
                .flat()
                .map((y) => (family.turning ? cutOutMark(x, y) : `M${x - 8} ${y}h16l-8 -14zM${x - 8} ${y - 14}h16`))
                .join(""),
            )
            .join("")}
          fill="var(--sheet)"
        />
        <path d={columns.map((column) => switchMarks(sheet.family, column, top + 44, Y.bottom - 28)).join("")} />
        <path d={columns.map(({ x }, i) => ring(x, legY(sheet, i), 2.6)).join("")} fill={ink} />
        <path d={columns.map(({ x, lead }) => (lamps.includes(lead) ? clipperMark(x, Y.bottom - 40) : "")).join("")} fill="var(--sheet)" />
      </g>
      <Wires
        runs={[
          ...sheet.legs.map(({ wire }, i) => ({
            wire,
            d: `M0 ${legY(sheet, i)}H${out || unplugged.includes("stator") || unplugged.includes("unit") ? cable : pin}`,
          })),
          { wire: sheet.outputWire, d: `M${out ? feed : output} ${Y.wire}H${ZONE_WIDTH.unit}` },
          { wire: sheet.groundWire, d: `M${ground} ${Y.bottom}V${Y.rail}` },
        ]}
      />
      {columns.map(({ lead }, i) => (lamps.includes(lead) ? <LampBranch key={lead} x={(cable + pin) / 2} y={legY(sheet, i)} wire={sheet.groundWire} /> : null))}
      {sheet.tach === undefined ? null : <Tachometer x={(pin + left) / 2} y={legY(sheet, leads.indexOf(sheet.tach))} lettering={lettering} />}
      {family.field?.fed === "key" ? (
        <>
          <path d={`M${exciter} ${Y.bottom + 14}V${Y.bottom}`} stroke="var(--ink)" strokeWidth="2" />
          <path d={ring(exciter, Y.bottom + 14, 6)} fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.5" />
          <text x={exciter + 12} y={Y.bottom + 20} fontSize={12.5 * lettering}>
            key
          </text>
        </>
      ) : null}
      <path d={`${sheet.legs.map((_, i) => `M${pin} ${legY(sheet, i)}H${left}`).join("")}M${right} ${Y.wire}H${output}`} stroke="var(--ink)" strokeWidth="2" />
      <path
        d={`${sheet.legs.map((_, i) => ring(pin, legY(sheet, i), 6)).join("")}${ring(output, Y.wire, 6)}${ring(ground, Y.bottom + 14, 6)}`}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <text x={output} y={Y.wire - 14} fontSize={12.5 * lettering} textAnchor="middle" className="num">
        {isMirrored(sheet) ? "B" : "B+"}
      </text>
      <text x={ground + 14} y={Y.bottom + 20} fontSize={12.5 * lettering} className="num">
        {isMirrored(sheet) ? "E" : "B−"}
      </text>
    </>
  );
}

/**
 * What is switched in the unit, one column: a gate on the lower way (shunt) or the upper (series), a transistor's bar beside
 * both (synchronous).
 */
function switchMarks(family: Sheet["family"], { x, lead, ...has }: { x: number; lead: string } & Record<Half, boolean>, upper: number, lower: number): string {
  const { unit } = familyOf(family);
  // What nobody knows is not drawn.
  if (!unit) return "";
  const gate = (y: number): string => `M${x + 3} ${y - 14}l8 -7h5`;
  const bar = (y: number): string => `M${x + 12} ${y}v-14M${x + 12} ${y - 7}h5`;
  const mark = unit.lower === "transistor" ? bar : gate;
  return unit.switched
    .filter((half) => has[half] && (half === "upper" || unit.shunts === "every" || unit.shunts.length === 0 || unit.shunts.includes(lead)))
    .map((half) => mark(half === "upper" ? upper : lower))
    .join("");
}

/** The lamps that burn on a wire's AC, from the wire to the engine. */
function LampBranch({ x, y, wire }: { x: number; y: number; wire: Wire }) {
  const lamp = Y.bottom + 10;
  return (
    <>
      <path d={`M${x} ${y}V${lamp - 11}`} stroke="var(--ink)" strokeWidth="2" />
      <path d={`M${x} ${lamp + 11}V${Y.rail}`} stroke={`var(--wire-${wire.base})`} strokeWidth="3" />
      <circle cx={x} cy={lamp} r="11" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.6" />
      <path d={`M${x - 7.5} ${lamp - 7.5}l15 15M${x + 7.5} ${lamp - 7.5}l-15 15`} stroke="var(--ink)" strokeWidth="1.6" />
    </>
  );
}

/** The tachometer that counts a wire's pulses: a needle on a dial, tapped off the wire where no lamp hangs. */
function Tachometer({ x, y, lettering }: { x: number; y: number; lettering: number }) {
  const dial = Y.bottom + 12;
  return (
    <>
      <path d={`M${x} ${y}V${dial - 11}`} stroke="var(--ink)" strokeWidth="1.6" />
      <path d={ring(x, y, 3)} fill="var(--ink)" />
      <circle cx={x} cy={dial} r="11" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.6" />
      <path d={`M${x} ${dial + 4}l6 -9M${x - 8} ${dial + 4}h16`} stroke="var(--ink)" strokeWidth="1.4" />
      <text x={x - 17} y={dial + 26} fontSize={12.5 * lettering}>
        tachometer
      </text>
    </>
  );
}

/** Two diodes against each other: what clips a lamp circuit both ways. */
const clipperMark = (x: number, y: number): string => `M${x - 8} ${y}h16l-8 12zM${x - 8} ${y + 24}h16l-8 -12zM${x - 10} ${y + 12}h20`;

/** Leads of a machine without a box: the first goes to the battery as it is, the others feed lamps. */
function BareLeads({ sheet, unplugged, lettering }: Pick<ZoneProps, "sheet" | "unplugged" | "lettering">) {
  const { left, pin, cable, output, feed } = IN.unit;
  const parted = unplugged.includes("stator") || unplugged.includes("unit");
  const out = unplugged.includes("output");
  const charging = familyOf(sheet.family).innerDiodes(leadsOf(sheet));
  return (
    <>
      <text x={left - 20} y={Y.name} fontSize={15 * lettering} style={{ fill: "var(--mute)" }}>
        No regulator
      </text>
      <Wires
        runs={[
          ...sheet.legs.map(({ id, wire }, i) => ({
            wire,
            d: parted
              ? `M0 ${legY(sheet, i)}H${cable}${charging.includes(id) ? "" : `M${left + 34} ${legY(sheet, i) + 18}V${Y.rail}`}`
              : charging.includes(id)
                ? `M0 ${legY(sheet, i)}H${output - 40}V${Y.wire}H${output}`
                : `M0 ${legY(sheet, i)}H${left + 12}M${left + 34} ${legY(sheet, i) + 11}V${Y.rail}`,
          })),
          { wire: sheet.outputWire, d: `M${out ? feed : output} ${Y.wire}H${ZONE_WIDTH.unit}` },
        ]}
      />
      {sheet.legs.map(({ id }, i) =>
        charging.includes(id) ? null : (
          <g key={id} stroke="var(--ink)" strokeWidth="1.6">
            <circle cx={left + 34} cy={legY(sheet, i)} r="18" fill="var(--sheet)" />
            <path d={`M${left + 22} ${legY(sheet, i) - 12}l24 24M${left + 46} ${legY(sheet, i) - 12}l-24 24`} />
            <text x={left + 60} y={legY(sheet, i) + 5} fontSize={13 * lettering} stroke="none">
              lamps
            </text>
          </g>
        ),
      )}
      <path
        d={`${sheet.legs.map((_, i) => ring(pin, legY(sheet, i), 6)).join("")}${ring(output, Y.wire, 6)}`}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <text x={output} y={Y.wire - 14} fontSize={12.5 * lettering} textAnchor="middle" className="num">
        B+
      </text>
    </>
  );
}
