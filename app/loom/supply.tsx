import { hasCapacitor } from "../../core/machine/capacitor";
import { isMirrored } from "../../core/machine/families/registry";
import type { Sheet } from "../../core/machine/sheet";
import type { ZoneProps } from "./coils";
import { IN, Y, ZONE_WIDTH } from "./layout";
import { inkOn, MarkedBox, outlineOf } from "./marks";
import { PartName, Wires } from "./zoneParts";

// What lies behind the unit: the way to the battery, the battery, what it feeds.

/** From the unit's output through the main fuse to the battery. */
export function OutputZone({ sheet, mark, hatches, lettering, partLink }: ZoneProps) {
  const { fuse, fuseWidth } = IN.output;
  const main = sheet.fuses[0];
  const end = fuse + fuseWidth;
  return (
    <>
      <Wires
        runs={[
          { wire: sheet.outputWire, d: `M0 ${Y.wire}H${fuse}` },
          { wire: { base: "red" }, d: `M${end} ${Y.wire}H${ZONE_WIDTH.output}` },
        ]}
      />
      <SecondBattery isolator={sheet.isolator} lettering={lettering} />
      <MarkedBox x={fuse} y={Y.wire - 14} width={fuseWidth} height={28} mark={mark("wiring")} hatches={hatches} />
      <path d={`M${fuse + 8} ${Y.wire}c8-11 14 11 21 0s13 11 21 0`} stroke={inkOn(mark("wiring"))} strokeWidth="1.8" />
      <PartName part="wiring" x={fuse + fuseWidth / 2} anchor="middle" y={Y.name + 10} {...{ sheet, lettering, partLink }} />
      <text x={fuse + fuseWidth / 2} y={Y.wire + 32} fontSize={13 * lettering} textAnchor="middle">
        {main ? `${main.id}, ${main.amps} A` : "no fuse"}
      </text>
    </>
  );
}

/** The way to a second battery: its own diode beside the one on the way to the first, or a relay's contact behind the fuse. */
function SecondBattery({ isolator, lettering }: Pick<Sheet, "isolator"> & Pick<ZoneProps, "lettering">) {
  if (!isolator) return null;
  const { fuse, fuseWidth } = IN.output;
  const x = isolator === "diode" ? 20 : fuse + fuseWidth + 34;
  const y = Y.wire;
  return (
    <>
      {isolator === "diode" ? (
        <>
          <path d={`M34 ${y - 9}v18l18 -9z`} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.6" />
          <path d={`M52 ${y - 9}v18`} stroke="var(--ink)" strokeWidth="1.8" />
          <path d={`M${x} ${y}V${y + 16}M${x} ${y + 34}v14`} stroke="var(--wire-red)" strokeWidth="3" />
          <path d={`M${x - 9} ${y + 16}h18l-9 18zM${x - 9} ${y + 34}h18`} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.6" />
        </>
      ) : (
        <>
          <path d={`M${x} ${y}V${y + 14}M${x} ${y + 34}v14`} stroke="var(--wire-red)" strokeWidth="3" />
          <path d={`M${x + 12} ${y + 14}L${x} ${y + 34}`} stroke="var(--ink)" strokeWidth="1.8" />
        </>
      )}
      {["second", "battery"].map((word, k) => (
        <text key={word} x={x} y={y + 62 + 14 * k} fontSize={13 * lettering} textAnchor="middle">
          {word}
        </text>
      ))}
    </>
  );
}

/** What its battery holds, or the capacitor that stands in its place. */
function storedWords({ battery: { chemistry, ah, microfarads } }: Sheet): string {
  if (chemistry !== "capacitor") return ah ? `${ah} Ah` : "? Ah";
  return microfarads ? `${microfarads.toLocaleString("en")} µF` : "? µF";
}

/** The battery with both posts. */
export function BatteryZone({ sheet, mark, hatches, lettering, partLink }: ZoneProps) {
  const { left, right, plus, minus, post, box } = IN.battery;
  const standing = mark("battery");
  const ink = inkOn(standing);
  const ground = `var(--wire-${sheet.groundWire.base})`;
  const middle = (left + right) / 2;
  const mirrored = isMirrored(sheet);
  return (
    <>
      <path
        d={`M0 ${Y.wire}H${left - 18}V${post - 4}H${plus}M${plus} ${post - 4}H${right + 26}V${Y.wire}H${ZONE_WIDTH.battery}`}
        stroke="var(--wire-red)"
        strokeWidth="5"
      />
      <path d={`M${minus + 9} ${post + 4}H${right + 16}V${Y.rail}`} stroke="var(--sheet)" strokeWidth="9" />
      <path d={`M${minus + 9} ${post + 4}H${right + 16}V${Y.rail}`} stroke={ground} strokeWidth="5" />
      <MarkedBox x={left} y={box} width={right - left} height={88} mark={standing} hatches={hatches} />
      {standing === "suspect" ? <rect x={left + 8} y={box + 32} width={right - left - 16} height={46} fill="var(--sheet)" /> : null}
      {[plus, minus].map((x) => (
        <rect key={x} x={x - 9} y={post} width="18" height={box - post} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.6" />
      ))}
      {[
        { x: plus, y: box + 20, size: 18, text: mirrored ? "−" : "+" },
        { x: minus, y: box + 20, size: 18, text: mirrored ? "+" : "−" },
        { x: middle, y: box + 50, size: 15, text: `${sheet.systemVolts} V` },
        { x: middle, y: box + 69, size: 14, text: storedWords(sheet) },
      ].map(({ x, y, size, text }) => (
        <text key={`${x} ${y}`} x={x} y={y} fontSize={size * Math.min(lettering, 1.1)} textAnchor="middle" className="num" style={{ fill: ink }}>
          {text}
        </text>
      ))}
      <PartName part="battery" x={left} y={post - 14} {...{ sheet, lettering, partLink }} />
    </>
  );
}

/** What the battery feeds: starter and loads. */
export function LoadsZone({ sheet, mark, hatches, lettering, partLink }: ZoneProps) {
  const { starter, lamp } = IN.loads;
  const ground = `var(--wire-${sheet.groundWire.base})`;
  // What runs on a capacitor is kicked into life.
  const kicked = hasCapacitor(sheet);
  const cy = Y.wire + 26;
  const loads = outlineOf(mark("loads"), hatches);
  const outline = outlineOf(mark("starter"), hatches);
  return (
    <>
      {kicked ? null : <PartName part="starter" x={starter - 26} {...{ sheet, lettering, partLink }} />}
      <PartName part="loads" x={lamp - 18} {...{ sheet, lettering, partLink }} />
      <path d={`M0 ${Y.wire}H${starter}M${starter} ${Y.wire}H${lamp}V${cy - 22}`} stroke="var(--wire-red)" strokeWidth="4" />
      <path d={`${kicked ? "" : `M${starter} ${cy + 22}V${Y.rail}`}M${lamp} ${cy + 22}V${Y.rail}`} stroke={ground} strokeWidth="4" />
      {kicked ? null : (
        <>
          <circle cx={starter} cy={cy} r="22" {...outline} />
          <text x={starter} y={cy + 6} fontSize="17" fontWeight="600" textAnchor="middle" style={{ fill: inkOn(mark("starter")) }}>
            M
          </text>
        </>
      )}
      <circle cx={lamp} cy={cy} r="22" {...loads} />
      <path d={`M${lamp - 15} ${cy - 15}l30 30M${lamp + 15} ${cy - 15}l-30 30`} stroke={inkOn(mark("loads"))} strokeWidth="1.8" />
      {mark("loads") === "condemned" ? <path d={`M${lamp - 28} ${cy + 28}l56 -56`} stroke="var(--plum)" strokeWidth="5" /> : null}
      {mark("loads") === "cleared" ? <path d={`M${lamp + 8} ${cy + 20}l12 -12`} stroke="var(--petrol)" strokeWidth="2.6" /> : null}
    </>
  );
}
