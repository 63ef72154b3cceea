import { SETTLED_FARADS } from "../../circuit/transient";
import { hasCapacitor } from "../../machine/capacitor";
import { unitOf } from "../../machine/families/registry";
import { polePairsOf } from "../../machine/printed";
import type { Loads } from "../../procedure/catalogue";
import type { WeighedChart } from "./blend";
import { switchesOff } from "./charts";
import type { Drawn } from "./curve";
import { BY_INDUCTANCE, type Offsets } from "./nuisance";
import type { Subject } from "./subject";

/**
 * What of a generator's waves and of its unit's pulses is left across the battery. A test holds it to the circuit's own figure on every
 * fault; how a real battery takes it up is known more roughly than that, which the gauge of the test says.
 */

/** V AC at a sound capacitor, and the power of what is left of one with which that grows: sums of machines from the circuit, between 0.5 and 1.1. */
const CAPACITOR = { sound: 0.14, grows: 0.7 } as const;
/**
 * How high a unit's pulses stand against all that its generator gives, by how it holds back: coils rise and fall within a pulse, and a unit
 * that lets go gates each leg by itself. Of machines from the circuit.
 */
const PULSES = { shorting: 0.75, "letting-go": 0.4 } as const;
/** A generator below this gives nothing, A. */
const LEAST_AMPS = 0.05;

/** V AC, rms, across the battery of the running machine. @param rpm engine speed; "idle" the sheet's */
export function rippleVolts(subject: Subject, rpm: number | "idle", loads: Loads, z: Offsets): number {
  const { sheet } = subject.around;
  const { battery, postOhms } = subject.state;
  if (hasCapacitor(sheet)) return Math.min(subject.charging(rpm, loads, z).volts / 2, CAPACITOR.sound * battery.capacity ** -CAPACITOR.grows);
  const hertz = (polePairsOf(sheet) * (rpm === "idle" ? sheet.idleRpm : rpm)) / 60;
  const acrossOhms = Math.hypot(subject.cell(z).ohms + postOhms, 1 / (2 * Math.PI * hertz * SETTLED_FARADS));
  return rippleAmps(subject, rpm, loads, z) * acrossOhms;
}

/**
 * What alternates in the current into the battery, rms, A: the rectifier's own waves, and the pulses of a unit that lets all or nothing
 * through (of a square wave that is on for a share d the rms about its mean is √(d(1 − d))).
 */
function rippleAmps(subject: Subject, rpm: number | "idle", loads: Loads, z: Offsets): number {
  const { sheet, scale } = subject.around;
  if (subject.outputOpen) return 0;
  const { out, unheld } = subject.charging(rpm, loads, z);
  const share = rpm === "idle" ? 0 : Math.min(1, Math.max(0, (rpm - sheet.idleRpm) / (sheet.testRpm - sheet.idleRpm)));
  const rests = loads === "off" && rpm !== "idle" && switchesOff(sheet);
  const charted = rests ? chartedAmps(subject, "off") : share * chartedAmps(subject, "test") + (1 - share) * chartedAmps(subject, "idle");
  const waves = charted * subject.strength * Math.exp((z.emf ?? 0) - BY_INDUCTANCE * (z.henries ?? 0)) * scale.amps;
  // Behind a shorted diode legs charge and are shorted in turn: how much of that gets out only the waves tell.
  if (subject.leaks) return waves;
  if (!(unheld > LEAST_AMPS)) return 0;
  const on = Math.min(1, Math.max(0, out / unheld));
  const pulses = PULSES[unitOf(subject.state.family).holds] * unheld;
  return Math.sqrt(on * waves ** 2 + on * (1 - on) * pulses ** 2);
}

/** The charted waves of its windings or its unit, whichever are the larger, A. */
function chartedAmps({ around, isCharted, windings, unit }: Subject, drawn: Drawn): number {
  const sound = around.atlas.sound?.[drawn]?.ripple ?? 0;
  const of = (charts: readonly WeighedChart[]): number => charts.reduce((sum, { chart, weight }) => sum + weight * (chart[drawn]?.ripple ?? sound), 0);
  return isCharted ? Math.max(of(windings), of(unit)) : sound;
}
