import type { Cell } from "./cell";
import type { Junction } from "./junction";
import { CLOSED_OHMS, type Element, type ElementOf, type Netlist, type Node, OPEN_OHMS } from "./netlist";
import { SETTLED_FARADS } from "./transient";

/**
 * Writes a netlist in the open SPICE format, so that stock ngspice runs it unchanged: a running machine as a transient
 * from a cold start, one at rest as an operating point.
 */
interface SpiceOptions {
  title: string;
  /** Simulated time and the part of it to be kept, s (running machines). */
  seconds: number;
  keepSeconds: number;
  stepsPerCycle: number;
  /** Pairs of nodes whose volts are wanted, and elements whose current is. */
  volts: readonly (readonly [Node, Node])[];
  amps: readonly string[];
  /** Overpotential that batteries start with, V: near the end, it spares a slow charge. */
  startVolts?: number;
}

/** Thermal voltage at ngspice's nominal 27 °C, V. */
const THERMAL_VOLTS = 0.0258649;

/** A node or element name that SPICE takes: letters, digits and underscores; plus and minus spelt out. */
function spiceName(name: string): string {
  return name
    .replace(/\+/g, "_plus")
    .replace(/-/g, "_minus")
    .replace(/[^A-Za-z0-9_]/g, "_");
}

const number = (value: number): string => Number(value.toPrecision(9)).toExponential();

/** The vector names under which a running netlist saves what was asked for, in the order volts, amps. */
export function savedNames({ volts, amps }: Pick<SpiceOptions, "volts" | "amps">): string[] {
  return [...volts.map((_, i) => `v(show${i})`), ...amps.map((_, i) => `v(flow${i})`)];
}

/** A circuit that the SPICE format has no elements for. */
export class NotForSpice extends Error {}

/** The whole file. @throws {NotForSpice} for a generator whose field is regulated */
export function spiceOf(netlist: Netlist, options: SpiceOptions): string {
  if (netlist.elements.some(({ kind }) => kind === "chopper"))
    throw new NotForSpice("a generator with a regulated field has no SPICE netlist: SPICE knows no coil whose EMF follows a field");
  const node = (name: Node): string => (name === netlist.ground ? "0" : spiceName(name));
  const running = netlist.hertz > 0;
  const models = new Map<string, string>();
  const lines = netlist.elements.flatMap((element) => writeElement(element, netlist, node, models, options.startVolts ?? 0));
  const shows = options.volts.map(([a, b], i) => `Eshow${i} show${i} 0 ${node(a)} ${node(b)} 1`);
  const flows = options.amps.map((id, i) => `Hflow${i} flow${i} 0 Vsense_${spiceName(id)} 1`);
  const step = running ? 1 / (netlist.hertz * options.stepsPerCycle) : 0;
  const analysis = running
    ? [
        ".options method=gear reltol=1e-4 abstol=1e-6 vntol=1e-6 itl4=200",
        `.tran ${number(step)} ${number(options.seconds)} ${number(options.seconds - options.keepSeconds)} ${number(step)} uic`,
      ]
    : [".options reltol=1e-6 gmin=1e-13 rshunt=1e11", ".op"];
  const saved = savedNames(options);
  return [
    `* ${options.title}`,
    "* Nodes carry the names of the probe points; 0 is the battery's minus post.",
    ...insertSenses(lines, options.amps),
    ...models.values(),
    ...shows,
    ...flows,
    ...analysis,
    `.save ${saved.join(" ")}`,
    ...(running ? [] : [`.print op ${saved.join(" ")}`]),
    ".end",
    "",
  ].join("\n");
}

/** A line of the file, and where its current can be sensed. */
interface Line {
  /** Set on the one line of an element through which its whole current flows, first node first. */
  carries?: string;
  text: string;
}

/** Puts a 0 V source into the elements whose current is asked for. */
function insertSenses(lines: readonly Line[], amps: readonly string[]): string[] {
  return lines.flatMap(({ carries, text }) => {
    if (!carries || !amps.includes(carries)) return [text];
    const [name, from, ...rest] = text.split(" ");
    const inner = `sense_${spiceName(carries)}`;
    return [`Vsense_${spiceName(carries)} ${from} ${inner} 0`, [name, inner, ...rest].join(" ")];
  });
}

function modelOf(junction: Junction, models: Map<string, string>): string {
  const key = `${junction.saturation} ${junction.slope} ${junction.ohms}`;
  const known = models.get(key);
  const name = known ? (known.split(" ")[1] as string) : `junction${models.size}`;
  if (!known)
    models.set(key, `.model ${name} D(IS=${number(junction.saturation)} N=${number(junction.slope / THERMAL_VOLTS)} RS=${number(junction.ohms)} CJO=5e-10)`);
  return name;
}

function writeElement(element: Element, netlist: Netlist, node: (name: Node) => string, models: Map<string, string>, startVolts: number): Line[] {
  const id = spiceName(element.id);
  if (element.kind === "coupling") return [{ text: `K${id} L${spiceName(element.of[0])} L${spiceName(element.of[1])} ${element.factor}` }];
  const [a, b] = [node(element.a), node(element.b)];
  const running = netlist.hertz > 0;
  const resistor = (ohms: number): Line[] => [{ carries: element.id, text: `R${id} ${a} ${b} ${number(ohms)}` }];
  switch (element.kind) {
    case "resistor":
      return resistor(element.ohms);
    case "fuse":
      return resistor(element.ohms);
    case "switch":
      return resistor(element.closed ? CLOSED_OHMS : OPEN_OHMS);
    case "winding":
      return [
        { carries: element.id, text: `L${id} ${a} ${id}_1 ${number(element.henries)}` },
        { text: `R${id} ${id}_1 ${id}_2 ${number(element.ohms)}` },
        { text: `V${id} ${id}_2 ${b} ${running ? `SIN(0 ${number(element.peakVolts)} ${number(netlist.hertz)} 0 0 ${element.phaseDegrees})` : "0"}` },
      ];
    case "diode":
      return [{ carries: element.id, text: `D${id} ${a} ${b} ${modelOf(element.junction, models)}` }];
    case "scr":
      return gated(id, element.id, a, b, element, netlist, modelOf(element.junction, models));
    case "mosfet":
      return [
        { text: `D${id}_body ${b} ${a} ${modelOf(element.body, models)}` },
        ...gated(id, element.id, a, b, element, netlist, modelOf(element.channel, models)),
      ];
    case "battery":
      return batteryLines(id, element.id, a, b, element.cell, startVolts);
    case "current":
      return [{ carries: element.id, text: `I${id} ${a} ${b} ${number(element.amps)}` }];
    case "source":
      return [
        { text: `I${id} ${b} ${a} ${number(element.amps)}` },
        {
          text: `B${id} ${a} ${b} I=${number(element.amps)}*exp(min(2,(v(${a},${b})-${element.complianceVolts})/0.025))*(1+max(0,(v(${a},${b})-${element.complianceVolts})/0.025-2))`,
        },
      ];
    case "control":
      return running ? controlLines(id, a, b, element) : [];
    case "field":
    case "chopper":
    case "fieldControl":
      throw new NotForSpice(`${element.kind} is not written`);
  }
}

/** A gated rectifier: its junction behind a conductance that the gate opens smoothly. Its angle since its volts turned positive runs on a capacitor, a volt a degree. */
function gated(id: string, carries: string, a: string, b: string, { gate }: ElementOf<"scr" | "mosfet">, { hertz }: Netlist, model: string): Line[] {
  if (gate === "off") return [];
  if (gate === "on") return [{ carries, text: `D${id} ${a} ${b} ${model}` }];
  const control = spiceName(gate.control);
  return [
    { carries, text: `D${id} ${a} ${id}_m ${model}` },
    { text: `B${id} ${id}_m ${b} I=v(${id}_m,${b})*exp(-18.42+25.33*min(1,max(0,v(${id}_gate))))` },
    // A snubber, so that a coil cut off between two steps has somewhere to go; far too small to be seen in any reading.
    { text: `R${id}_snub ${a} ${id}_snub 220` },
    { text: `C${id}_snub ${id}_snub ${b} 5e-10` },
    { text: `B${id}_angle 0 ${id}_angle I=${number(180 * hertz)}*(1+tanh(20*(v(${a},${b})-0.1)))-1e5*(1-tanh(20*(v(${a},${b})+0.1)))*v(${id}_angle)` },
    { text: `C${id}_angle ${id}_angle 0 1 IC=0` },
    { text: `R${id}_angle ${id}_angle 0 1e9` },
    { text: `B${id}_fire ${id}_fire 0 V=(0.5+0.5*tanh(2*(v(${id}_angle)-max(1,v(${control}_delay)))))*(0.5+0.5*tanh(2*(200-v(${control}_delay))))` },
    { text: `R${id}_gate ${id}_fire ${id}_gate 1` },
    { text: `C${id}_gate ${id}_gate 0 1e-6 IC=0` },
  ];
}

/** Phase control: filter, clamped integral, delay in degrees; the same law as in the time domain. */
function controlLines(id: string, a: string, b: string, { law, setVolts }: ElementOf<"control">): Line[] {
  const miss = law === "shunt" ? `(${number(setVolts)}-v(${id}_seen))` : `(v(${id}_seen)-${number(setVolts)})`;
  const start = law === "shunt" ? 200 : 0;
  return [
    { text: `E${id}_in ${id}_in 0 ${a} ${b} 1` },
    { text: `R${id}_seen ${id}_in ${id}_seen 1e3` },
    { text: `C${id}_seen ${id}_seen 0 2e-6 IC=${number(setVolts)}` },
    { text: `B${id}_sum 0 ${id}_sum I=${miss} > 0 ? (v(${id}_sum) < 200 ? 20000*${miss} : 0) : (v(${id}_sum) > 0 ? 20000*${miss} : 0)` },
    { text: `C${id}_sum ${id}_sum 0 1 IC=${start}` },
    { text: `R${id}_sum ${id}_sum 0 1e9` },
    { text: `B${id}_delay ${id}_delay 0 V=v(${id}_sum)+60*${miss}` },
  ];
}

function batteryLines(id: string, carries: string, a: string, b: string, cell: Cell, startVolts: number): Line[] {
  return [
    { carries, text: `R${id} ${a} ${id}_1 ${number(cell.ohms)}` },
    { text: `C${id} ${id}_1 ${id}_2 ${cell.farads ?? SETTLED_FARADS} IC=${startVolts}` },
    {
      text: `B${id} ${id}_1 ${id}_2 I=v(${id}_1,${id}_2) > 0 ? ${number(cell.acceptAmps)}*(exp(min(40,v(${id}_1,${id}_2)/${number(cell.acceptVolts)}))-1) : v(${id}_1,${id}_2)/${number(cell.polarOhms)}`,
    },
    { text: `V${id} ${id}_2 ${b} ${number(cell.openVolts)}` },
  ];
}
