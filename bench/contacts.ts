import { HandsFreeReading } from "../core/meter/handsFree";
import type { LiveDial } from "../core/meter/settle";
import { Chance } from "./diagnosis/chance";
import { writeBlock } from "./document";

/**
 * Contacts played by formulas of their own: probes that stay on the points of the reading before, are off, slip, bounce, wander off again and touch at last; a meter that looks for
 * its range, a figure that creeps to where it stays, a display with its digits; open leads that wander, slowly or fast, or stand still; before a drop a touch on something live.
 * Kept must be where it stays, soon after it does.
 * Usage: node build/tools/contacts.js [contacts] [seed]
 */
const count = Number(process.argv[2] ?? 3000);
const seed = Number(process.argv[3] ?? 52_000);
const BOUND = 1.2;
const LEADS = 0.2;
const RATE = 18;
/** So much open leads may show. */
const OPEN_VOLTS = 0.25;

interface Kind {
  dial: LiveDial;
  /** Where figures of the dial lie, its last digit, and how far off a kept one may be. */
  low: number;
  high: number;
  digit: number;
  within: (value: number) => number;
  /** Read along a conductor: the probes touch something of so many volts first. */
  live?: readonly [number, number];
}

const KINDS: readonly Kind[] = [
  { dial: "V DC", low: 9.5, high: 15.5, digit: 0.01, within: () => 0.03 },
  { dial: "V DC", low: -0.05, high: 0.24, digit: 0.01, within: () => 0.011, live: [12, 14.8] },
  { dial: "V DC", low: 0.24, high: 4, digit: 0.01, within: () => 0.03, live: [12, 14.8] },
  { dial: "V AC", low: 0, high: 0.24, digit: 0.01, within: () => 0.011, live: [12, 60] },
  { dial: "V AC", low: 4, high: 80, digit: 0.1, within: (value) => Math.max(0.2, 0.02 * value) },
  { dial: "Ω", low: 0.6, high: 12, digit: 0.1, within: (value) => Math.max(0.11, 0.03 * value) },
  { dial: "diode", low: 0.38, high: 0.95, digit: 0.001, within: (value) => Math.max(0.008, 0.015 * value) },
];

interface Contact {
  kind: Kind;
  truth: number | "OL";
  /** When it stands, s. */
  stands: number;
  /** What is shown at a time. */
  at: (t: number) => number | "OL" | undefined;
}

function contactOf(c: Chance): Contact {
  const kind = c.pick(KINDS);
  const opens = (kind.dial === "Ω" || kind.dial === "diode") && c.yes(0.25);
  const truth = opens ? ("OL" as const) : Math.round(c.between(kind.low, kind.high) / kind.digit) * kind.digit;
  const tips = opens ? c.between(0.6, 1.6) : 0;
  // The probes may stay on the points of the reading before for a while, its figure standing: that is no reading of this one.
  const stays = c.yes(0.5) ? c.between(0.5, 4) : 0;
  const before = Math.round(c.between(kind.low, kind.high) / kind.digit) * kind.digit;
  const away = stays + c.between(0.3, 1.5);
  const live = kind.live ? { volts: c.between(...kind.live), to: away + c.between(0.7, 1.8) } : undefined;
  const off = live ? live.to + c.between(0.35, 1) : away;
  // A first touch that slips off again, now and then.
  const slip = c.yes(0.4) ? { from: off + tips, to: off + tips + c.between(0.1, 0.55) } : undefined;
  const touched = (slip ? slip.to + c.between(0.2, 0.8) : off + tips) + 0.01;
  const bounce = c.between(0, 0.25);
  const ranging = c.between(0.1, 0.5);
  const creeps = { by: c.yes(0.5) && Math.abs(Number(truth)) > 0.24 ? c.between(-0.08, 0.08) : 0, tau: c.between(0.1, 0.5) };
  const noise = c.between(0.1, 0.7) * kind.digit;
  const air = kind.dial === "Ω" || kind.dial === "diode" ? ("OL" as const) : undefined;
  const still = c.yes(0.3);
  const [reaches, every, rests] = [c.between(0.03, 0.2), c.between(1, 12), c.between(-0.06, 0.12)];
  const wandering = (t: number): number => Math.abs(reaches * Math.sin((2 * Math.PI * t) / every) + c.normal(0.02));
  const open = (t: number): number | "OL" => air ?? (still ? Math.round(rests / 0.01) * 0.01 : wandering(t));
  const settled =
    typeof truth === "number"
      ? touched + bounce + ranging + (creeps.by === 0 ? 0 : Math.max(0, creeps.tau * Math.log((Math.abs(creeps.by) * truth) / kind.within(truth))))
      : touched;
  return {
    kind,
    truth,
    stands: settled,
    at: (t) => {
      if (t < stays) return Math.round((before + c.normal(noise)) / kind.digit) * kind.digit;
      if (live && t >= away && t < live.to) return Math.round((live.volts + c.normal(0.01)) / 0.01) * 0.01;
      if (t < off) return open(t);
      if (t < off + tips) return kind.dial === "Ω" ? LEADS : 0.001;
      if (slip && t >= slip.from && t < slip.to) return c.yes(0.5) ? open(t) : opens ? "OL" : (truth as number) * c.between(0.3, 1.1);
      if (t < touched) return open(t);
      if (opens) return "OL";
      const since = t - touched;
      if (since < bounce) return c.yes(0.5) ? open(t) : (truth as number);
      if (since < bounce + ranging) return "OL";
      const value = (truth as number) * (1 + creeps.by * Math.exp(-(since - bounce - ranging) / creeps.tau)) + c.normal(noise);
      return Math.round(value / kind.digit) * kind.digit;
    },
  };
}

const rows = new Map<string, { contacts: number; wrong: number; missed: number; after: number[] }>();
for (let n = 0; n < count; n++) {
  const c = new Chance(seed + n);
  const { kind, truth, stands, at } = contactOf(c);
  const reading = new HandsFreeReading({
    dial: kind.dial,
    openAllowed: kind.dial === "Ω" || kind.dial === "diode",
    keepLowest: false,
    zeroAllowed: kind.low <= 0,
    drop: kind.live && "running",
    leadOhms: LEADS,
    ohmsResolution: 0.1,
    probesWere: "elsewhere",
  });
  const small = typeof truth === "number" && Math.abs(truth) < OPEN_VOLTS && kind.live;
  const name =
    truth === "OL"
      ? `${kind.dial}, open line`
      : small
        ? `${kind.dial}, along a conductor, below ${OPEN_VOLTS} V`
        : kind.live
          ? `${kind.dial}, along a conductor`
          : kind.dial;
  const row = rows.get(name) ?? { contacts: 0, wrong: 0, missed: 0, after: [] };
  rows.set(name, row);
  row.contacts++;
  let kept: number | "OL" | undefined;
  let when = 0;
  for (let t = 0; t < stands + 8 && kept === undefined; t += 1 / RATE + c.between(-0.008, 0.008)) {
    kept = reading.feed({ at: t, value: at(t) }).keep;
    when = t;
  }
  if (kept === undefined) row.missed++;
  else if (kept === "OL" ? truth !== "OL" : truth === "OL" || Math.abs(kept - truth) > kind.within(truth) + 1e-9) row.wrong++;
  else row.after.push(when - stands);
}

const all = [...rows.values()];
const sum = (of: (row: (typeof all)[number]) => number): number => all.reduce((total, row) => total + of(row), 0);
const at95 = (values: number[]): string => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length === 0 ? "–" : (sorted[Math.floor(0.95 * (sorted.length - 1))] as number).toFixed(2);
};
const text = [
  `${count} contacts from seed ${seed}, ${RATE} figures a second. An open line is kept ${"2.5"} s after the tips were together, and a drop below ${OPEN_VOLTS} V 2.5 s after the probes were on something live, on purpose: they are told apart from probes that are off by nothing else.`,
  "",
  "| dial | contacts | kept wrong (0) | not kept | 95 of 100 kept within, s after it stands |",
  "|---|---|---|---|---|",
  ...[...rows]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(
      ([name, row]) =>
        `| ${name} | ${row.contacts} | ${row.wrong} | ${row.missed} | ${at95(row.after)}${name.includes("open") || name.includes("below") ? "" : ` (≤ ${BOUND})`} |`,
    ),
  `| **all** | ${count} | ${sum((row) => row.wrong)} | ${sum((row) => row.missed)} | |`,
].join("\n");
process.stdout.write(`${text}\n`);
if (count >= 3000) writeBlock("contacts", text);
