/**
 * A three-leg generator into a rectifier that is held at a voltage, in the time domain: backward Euler on branch currents,
 * Newton on node voltages, smooth exponential-like rectifiers. Written for this benchmark alone.
 */

/** A coil: nodes, EMF peak and phase, ohms, henries. */
export interface Coil {
  from: number;
  to: number;
  peak: number;
  phase: number;
  ohms: number;
  henries: number;
}

/**
 * A coil with a share of its turns shorted, seen from its ends: the shorted turns are a loaded secondary, they take EMF from the rest
 * and add their reflected resistance. @param omega angular frequency; nought at rest, where copper alone counts
 */
export function turnsShorted<C extends Omit<Coil, "from" | "to">>(coil: C, share: number, omega: number): C {
  const coupling = 0.75;
  const [x, r] = [omega * share * share * coil.henries, share * coil.ohms + 0.003];
  const size = x * x + r * r;
  const m = omega * coupling * share * (1 - share) * coil.henries;
  const rest = { peak: coil.peak * (1 - share), ohms: coil.ohms * (1 - share), henries: coil.henries * (1 - share) ** 2 };
  const [er, ei] = [rest.peak - (m * x * share * coil.peak) / size, (-m * r * share * coil.peak) / size];
  return {
    ...coil,
    peak: Math.hypot(er, ei),
    phase: coil.phase + Math.atan2(ei, er),
    ohms: rest.ohms + (omega > 0 ? (m * m * r) / size : 0),
    henries: Math.max(0.05 * rest.henries, rest.henries - (omega > 0 ? (m * m * x) / size / omega : 0)),
  };
}

export interface Link {
  from: number;
  to: number;
  ohms: number;
}

export type Valve = "good" | "open" | "short";
/** What stands at a pin: a valve, or nothing at all. */
type Way = Valve | "none";

export interface Dynamo {
  /** Nodes 0, 1, 2 are the unit's leg pins; −1 is its negative; others are inside. */
  nodes: number;
  coils: Coil[];
  links: Link[];
  upper: Way[];
  lower: Way[];
  /** Legs that a stuck shunt keeps tied down. */
  tied: boolean;
}

const STEPS = 72;
const FORWARD = 0.72;
const KNEE = 0.045;
const SERIES = 0.016;
const SHORT = 0.012;
const LEAK = 2e-5;

/** Current of a rectifier at some volts across it, and its slope. */
function valve(kind: Way, volts: number): [number, number] {
  if (kind === "none") return [0, 0];
  if (kind === "open") return [LEAK * volts, LEAK];
  if (kind === "short") return [volts / SHORT, 1 / SHORT];
  const x = (volts - FORWARD) / KNEE;
  if (x > 30) return [(volts - FORWARD) / SERIES, 1 / SERIES];
  const e = Math.exp(x);
  return [(KNEE * Math.log1p(e)) / SERIES + LEAK * volts, e / (1 + e) / SERIES + LEAK];
}

/** What a dynamo stood at, from which a run at other volts goes on. */
export interface Stood {
  volts: Float64Array;
  amps: Float64Array;
}

/** Mean amps into the held output, and the rms amps of each leg. */
export function deliver(dynamo: Dynamo, hertz: number, volts: number, stood?: Stood): { amps: number; legs: number[]; stood: Stood } {
  const { nodes, coils, links } = dynamo;
  const v = stood?.volts ?? new Float64Array(nodes);
  const i = stood?.amps ?? new Float64Array(coils.length);
  const cycles = stood ? 3 : 7;
  const dt = 1 / (hertz * STEPS);
  const a = new Float64Array(nodes * nodes);
  const f = new Float64Array(nodes);
  let sum = 0;
  const pins = dynamo.upper.length;
  const legs = dynamo.upper.map(() => 0);
  const at = (node: number): number => (node < 0 ? 0 : (v[node] as number));
  const put = (p: number, q: number, g: number): void => {
    if (p >= 0) a[p * nodes + p] = (a[p * nodes + p] as number) + g;
    if (q >= 0) a[q * nodes + q] = (a[q * nodes + q] as number) + g;
    if (p >= 0 && q >= 0) {
      a[p * nodes + q] = (a[p * nodes + q] as number) - g;
      a[q * nodes + p] = (a[q * nodes + p] as number) - g;
    }
  };
  const flow = (p: number, q: number, amps: number): void => {
    if (p >= 0) f[p] = (f[p] as number) + amps;
    if (q >= 0) f[q] = (f[q] as number) - amps;
  };
  const emf = new Float64Array(coils.length);
  for (let step = 1; step <= STEPS * cycles; step++) {
    const angle = (2 * Math.PI * step) / STEPS;
    coils.forEach((coil, k) => {
      emf[k] = coil.peak * Math.sin(angle + coil.phase);
    });
    for (let round = 0; round < 25; round++) {
      a.fill(0);
      f.fill(0);
      for (let n = 0; n < nodes; n++) {
        a[n * nodes + n] = 1e-7;
        f[n] = 1e-7 * (v[n] as number);
      }
      for (let k = 0; k < coils.length; k++) {
        const coil = coils[k] as Coil;
        const g = 1 / (coil.ohms + coil.henries / dt);
        // Current from node `to` through the coil out of node `from`: the EMF drives it towards `from`.
        const amps = g * ((emf[k] as number) + at(coil.to) - at(coil.from) + (coil.henries / dt) * (i[k] as number));
        flow(coil.to, coil.from, amps);
        put(coil.from, coil.to, g);
      }
      for (const link of links) {
        const g = 1 / Math.max(1e-3, link.ohms);
        flow(link.from, link.to, g * (at(link.from) - at(link.to)));
        put(link.from, link.to, g);
      }
      for (let leg = 0; leg < pins; leg++) {
        const [up, upSlope] = valve(dynamo.upper[leg] as Way, at(leg) - volts);
        const [down, downSlope] = valve(dynamo.lower[leg] as Way, -at(leg));
        f[leg] = (f[leg] as number) + up - down;
        a[leg * nodes + leg] = (a[leg * nodes + leg] as number) + upSlope + downSlope;
        if (dynamo.tied) {
          const [tie, slope] = valve("good", at(leg));
          f[leg] = (f[leg] as number) + tie;
          a[leg * nodes + leg] = (a[leg * nodes + leg] as number) + slope;
        }
      }
      gauss(a, f, nodes);
      let worst = 0;
      for (let n = 0; n < nodes; n++) worst = Math.max(worst, Math.abs(f[n] as number));
      const share = worst > 3 ? 3 / worst : 1;
      for (let n = 0; n < nodes; n++) v[n] = (v[n] as number) - share * (f[n] as number);
      if (worst < 1e-4) break;
    }
    for (let k = 0; k < coils.length; k++) {
      const coil = coils[k] as Coil;
      const g = 1 / (coil.ohms + coil.henries / dt);
      i[k] = g * ((emf[k] as number) + at(coil.to) - at(coil.from) + (coil.henries / dt) * (i[k] as number));
    }
    if (step > STEPS * (cycles - 1)) {
      for (let leg = 0; leg < pins; leg++) {
        const up = valve(dynamo.upper[leg] as Way, at(leg) - volts)[0];
        const down = valve(dynamo.lower[leg] as Way, -at(leg))[0];
        sum += up / STEPS;
        legs[leg] = (legs[leg] as number) + (up - down) ** 2 / STEPS;
      }
    }
  }
  return { amps: sum, legs: legs.map(Math.sqrt), stood: { volts: v, amps: i } };
}

/** Solves a·x = f by elimination; x is left in f. */
function gauss(a: Float64Array, f: Float64Array, n: number): void {
  for (let c = 0; c < n; c++) {
    let p = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(a[r * n + c] as number) > Math.abs(a[p * n + c] as number)) p = r;
    if (p !== c) {
      for (let k = c; k < n; k++) [a[c * n + k], a[p * n + k]] = [a[p * n + k] as number, a[c * n + k] as number];
      [f[c], f[p]] = [f[p] as number, f[c] as number];
    }
    for (let r = c + 1; r < n; r++) {
      const m = (a[r * n + c] as number) / (a[c * n + c] as number);
      if (m === 0) continue;
      for (let k = c; k < n; k++) a[r * n + k] = (a[r * n + k] as number) - m * (a[c * n + k] as number);
      f[r] = (f[r] as number) - m * (f[c] as number);
    }
  }
  for (let r = n - 1; r >= 0; r--) {
    let s = f[r] as number;
    for (let k = r + 1; k < n; k++) s -= (a[r * n + k] as number) * (f[k] as number);
    f[r] = s / (a[r * n + r] as number);
  }
}

/** Volts between legs 1–2, 2–3 and 3–1, unloaded, rms: by superposition of phasors through the network of coils and links. */
export function unloaded(dynamo: Dynamo, hertz: number): [number, number, number] {
  const pair = phasors(dynamo, 2 * Math.PI * hertz);
  return [pair(0, 1), pair(1, 2), pair(2, 0)];
}

/** The same between any two nodes; −1 is the case. */
export function unloadedBetween(dynamo: Dynamo, hertz: number, p: number, q: number): number {
  return phasors(dynamo, 2 * Math.PI * hertz)(p, q);
}

/** Complex nodal analysis; real and imaginary parts side by side in one real system of twice the size. */
function phasors(dynamo: Dynamo, omega: number): (p: number, q: number) => number {
  const { nodes, coils, links } = dynamo;
  const n = 2 * nodes;
  const a = new Float64Array(n * n);
  const f = new Float64Array(n);
  const put = (p: number, q: number, re: number, im: number): void => {
    const add = (r: number, c: number, sign: number): void => {
      if (r < 0 || c < 0) return;
      a[r * n + c] = (a[r * n + c] as number) + sign * re;
      a[(r + nodes) * n + c + nodes] = (a[(r + nodes) * n + c + nodes] as number) + sign * re;
      a[r * n + c + nodes] = (a[r * n + c + nodes] as number) - sign * im;
      a[(r + nodes) * n + c] = (a[(r + nodes) * n + c] as number) + sign * im;
    };
    add(p, p, 1);
    add(q, q, 1);
    add(p, q, -1);
    add(q, p, -1);
  };
  for (let k = 0; k < n; k++) a[k * n + k] = 2e-8;
  for (const coil of coils) {
    const size = coil.ohms ** 2 + (omega * coil.henries) ** 2;
    const [re, im] = [coil.ohms / size, (-omega * coil.henries) / size];
    put(coil.from, coil.to, re, im);
    const [er, ei] = [coil.peak * Math.cos(coil.phase), coil.peak * Math.sin(coil.phase)];
    const [cr, ci] = [re * er - im * ei, re * ei + im * er];
    if (coil.from >= 0) {
      f[coil.from] = (f[coil.from] as number) + cr;
      f[coil.from + nodes] = (f[coil.from + nodes] as number) + ci;
    }
    if (coil.to >= 0) {
      f[coil.to] = (f[coil.to] as number) - cr;
      f[coil.to + nodes] = (f[coil.to + nodes] as number) - ci;
    }
  }
  for (const link of links) put(link.from, link.to, 1 / Math.max(1e-3, link.ohms), 0);
  gauss(a, f, n);
  const at = (node: number, part: number): number => (node < 0 ? 0 : (f[node + part] as number));
  return (p, q) => Math.hypot(at(p, 0) - at(q, 0), at(p, nodes) - at(q, nodes)) / Math.SQRT2;
}

/** Ohms between two nodes (−1: the case), EMFs at rest. */
export function ohmsBetween(dynamo: Dynamo, p: number, q: number): number {
  const { nodes, coils, links } = dynamo;
  const a = new Float64Array(nodes * nodes);
  const f = new Float64Array(nodes);
  const put = (x: number, y: number, g: number): void => {
    if (x >= 0) a[x * nodes + x] = (a[x * nodes + x] as number) + g;
    if (y >= 0) a[y * nodes + y] = (a[y * nodes + y] as number) + g;
    if (x >= 0 && y >= 0) {
      a[x * nodes + y] = (a[x * nodes + y] as number) - g;
      a[y * nodes + x] = (a[y * nodes + x] as number) - g;
    }
  };
  for (let k = 0; k < nodes; k++) a[k * nodes + k] = 1e-10;
  for (const coil of coils) put(coil.from, coil.to, 1 / coil.ohms);
  for (const link of links) put(link.from, link.to, 1 / Math.max(1e-3, link.ohms));
  f[p] = 1;
  if (q >= 0) f[q] = -1;
  gauss(a, f, nodes);
  return (f[p] as number) - (q >= 0 ? (f[q] as number) : 0);
}
