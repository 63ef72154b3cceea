import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { MemoryRouter } from "react-router";
import type { Mark, WiringBreak } from "../../core/diagnosis/words/marks";
import { FAULTS } from "../../core/machine/faults";
import { ISOLATORS } from "../../core/machine/isolator";
import { PARTS } from "../../core/machine/part";
import type { Sheet } from "../../core/machine/sheet";
import { unlistedSheet } from "../../core/machine/unlisted";
import { CATALOGUE } from "../../core/procedure/catalogue";
import { probesOf, type Step, stepKey, stepsOf } from "../../core/procedure/step";
import { DEMO_SHEETS, demoSheet } from "../../demo/sheets";
import { Loom } from "./Loom";
import { type ReadingTag, ZONES, type Zone, zonesOf } from "./layout";
import { MiniLoom } from "./MiniLoom";
import { MARK_WORDS, MarkSquare } from "./marks";

const ferrel = demoSheet("corvane-ferrel-650") as Sheet;
const corrie = demoSheet("brannoch-corrie-600") as Sheet;

const draw = (loom: React.ReactElement): string => renderToStaticMarkup(<MemoryRouter>{loom}</MemoryRouter>);
const count = (markup: string, pattern: RegExp): number => markup.match(new RegExp(pattern, "g"))?.length ?? 0;

describe("the loom is drawn from the machine's own sheet", () => {
  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s: its plug, its fuse, its battery, its wires", (_id, sheet) => {
    const markup = draw(<Loom sheet={sheet} marks={{}} />);
    expect(markup).toContain(`>${sheet.statorConnector.name}<`);
    expect(markup).toContain(`${sheet.fuses[0]?.id}, ${sheet.fuses[0]?.amps} A`);
    expect(markup).toContain(sheet.battery.microfarads ? "22,000 µF" : `${sheet.battery.ah} Ah`);
    for (const leg of sheet.legs) {
      expect(markup).toContain(`var(--wire-${leg.wire.base})`);
      if (leg.wire.tracer) expect(markup).toContain(`stroke="var(--wire-${leg.wire.tracer})" stroke-width="2" stroke-dasharray`);
    }
    expect(markup).not.toMatch(/NaN|undefined|Infinity/);
  });

  test("wye has a star point, delta has none, an unknown winding says so", () => {
    const star = /<circle cx="108" cy="156" r="3"/;
    expect(draw(<Loom sheet={ferrel} marks={{}} />)).toMatch(star);
    expect(draw(<Loom sheet={corrie} marks={{}} />)).not.toMatch(star);
    expect(draw(<Loom sheet={unlistedSheet("three-phase-shunt", 6)} marks={{}} />)).toContain(">?</text>");
  });

  test("a second battery is drawn where it is joined: by a diode of its own, or by a relay", () => {
    const drawn = (isolator: Sheet["isolator"]): string => draw(<Loom sheet={{ ...ferrel, isolator }} marks={{}} />);
    expect(drawn(undefined)).not.toContain(">second<");
    for (const isolator of ISOLATORS) expect(drawn(isolator)).toContain(">second<");
    expect(count(drawn("diode"), /<path/)).toBeGreaterThan(count(drawn("combiner"), /<path/));
  });

  test("positive earth and six volts are told", () => {
    const markup = draw(<Loom sheet={{ ...ferrel, earth: "positive", systemVolts: 6 }} marks={{}} />);
    expect(markup).toContain("engine and frame, battery plus");
    expect(markup).toContain(">6 V<");
  });

  test("the unit shows which of its ways are switched, by family", () => {
    const unit = (family: Sheet["family"]) => draw(<Loom sheet={{ ...ferrel, family }} marks={{}} zones={["unit"]} />);
    const [shunt, series, synchronous] = [unit("three-phase-shunt"), unit("three-phase-series"), unit("three-phase-mosfet")];
    expect([shunt, series].map((markup) => count(markup, /l8 -7h5/g))).toEqual([3, 3]);
    expect(shunt).not.toBe(series);
    expect(count(synchronous, /v-14M/g)).toBe(6);
  });

  test("a tachometer hangs on the wire that it counts, and on none where the sheet names none", () => {
    // Beside lamps on a wire's AC too.
    for (const sheet of [
      { ...ferrel, tach: "3" },
      { ...(demoSheet("corvane-dabchick-50") as Sheet), tach: "C" },
    ])
      expect(draw(<Loom sheet={sheet} marks={{}} />)).toContain(">tachometer</text>");
    expect(draw(<Loom sheet={ferrel} marks={{}} />)).not.toContain("tachometer");
  });

  test("a one-leg machine has one wire and one pin", () => {
    const single = { ...ferrel, legs: ferrel.legs.slice(0, 1) };
    const pins = (sheet: Sheet) => count(draw(<Loom sheet={sheet} marks={{}} zones={["connector"]} />), /a9 9 0 1 0 18 0/g);
    expect([pins(single), pins(ferrel)]).toEqual([1, 3]);
  });
});

describe("the active step", () => {
  const every = CATALOGUE.flatMap((row) => stepsOf(row, ferrel));

  test.each(every.filter((step) => probesOf(step)).map((step) => [stepKey(step), step] as const))(
    "%s: meter, dial, red and black, wide and folded",
    (_key, step) => {
      for (const zones of [undefined, zonesOf(step)]) {
        const markup = draw(<Loom sheet={ferrel} marks={{}} step={step} display="12.6" {...(zones ? { zones } : {})} />);
        expect(markup).toContain(">12.6<");
        expect(count(markup, /r="11"/)).toBe(2);
        expect(markup).toContain('stroke="var(--wire-red)" stroke-width="3" class="travels"');
        expect(markup).not.toMatch(/NaN|undefined/);
      }
    },
  );

  test("an unplugged test shows the plug parted, part side and harness side named", () => {
    const parted = draw(<Loom sheet={ferrel} marks={{}} step={{ test: "stator.resistance", at: "1-2" }} />);
    expect(parted).toContain("C2, unplugged");
    expect(parted).toContain("part side");
    expect(parted).toContain("harness side");
    expect(draw(<Loom sheet={ferrel} marks={{}} step={{ test: "battery.rest" }} />)).not.toContain("unplugged");
  });

  test("swapped probes change places", () => {
    const tip = (markup: string, sign: string) =>
      new RegExp(`<text x="(\\d+)" y="[\\d.]+" font-size="12" text-anchor="middle" class="num" font-weight="700">\\${sign}<`).exec(markup)?.[1];
    const step: Step = { test: "charge.positiveDrop", rpm: 5000, loads: "normal" };
    const straight = draw(<Loom sheet={ferrel} marks={{}} step={step} />);
    const turned = draw(<Loom sheet={ferrel} marks={{}} step={step} swapped />);
    expect(tip(turned, "+")).toBe(tip(straight, "−"));
    expect(tip(turned, "−")).toBe(tip(straight, "+"));
  });

  test("a test of the eyes draws no meter", () => {
    expect(count(draw(<Loom sheet={ferrel} marks={{}} step={{ test: "inspect.terminals" }} />), /r="11"/)).toBe(0);
  });
});

describe("standing is told by outline, not by colour alone", () => {
  const with_ = (mark: Mark) => draw(<Loom sheet={ferrel} marks={{ regulator: mark }} zones={["unit"]} />);

  test("each mark draws its own shape", () => {
    const looks = (["unseen", "cleared", "suspect", "condemned", "contradicting"] as const).map((mark) => with_(mark).replace(/aria-label="[^"]*"/, ""));
    expect(new Set(looks).size).toBe(5);
    expect(with_("unseen")).toContain('stroke-dasharray="7 5"');
    expect(with_("suspect")).toMatch(/fill="url\(#/);
    expect(with_("condemned")).toContain('fill="var(--plum)"');
  });

  test("and is spoken", () => {
    for (const [mark, words] of Object.entries(MARK_WORDS)) expect(with_(mark as Mark)).toContain(`Regulator/rectifier ${words}`);
  });

  test("the small loom of the rail and the squares of the list know all marks", () => {
    for (const mark of Object.keys(MARK_WORDS) as Mark[]) {
      const small = draw(<MiniLoom sheet={ferrel} marks={Object.fromEntries(PARTS.map((part) => [part, mark]))} id="x" />);
      expect(small).toContain(mark === "unseen" ? "nothing looked at yet" : `Stator ${MARK_WORDS[mark]}`);
      expect(renderToStaticMarkup(<MarkSquare mark={mark} />)).toContain("<svg");
    }
  });
});

describe("condemned wiring is marked where it failed", () => {
  const BREAKS = FAULTS.filter(({ part, id }) => part === "wiring" && id !== "wiring.field-feed").map(({ id }) => id);
  const drawn = (breaks: readonly WiringBreak[], sheet = ferrel, over: Partial<React.ComponentProps<typeof Loom>> = {}): string =>
    draw(<Loom sheet={sheet} marks={{ wiring: "condemned" }} broken={breaks} {...over} />);
  const rings = (markup: string): number => count(/data-broken="">(.*?)<\/g>/.exec(markup)?.[1] ?? "", /a12 12/g) / 2;

  test.each(BREAKS)("%s has a place of its own, and fuse and plug are left alone", (fault) => {
    const markup = drawn([{ fault, at: "2" }]);
    expect(rings(markup)).toBe(fault === "wiring.terminals" ? 2 : 1);
    expect(markup).not.toContain('fill="var(--plum)"');
    expect(markup).toContain("Wiring condemned");
  });

  test("all legs where it is not known which, and the half of a plug that is parted", () => {
    expect(rings(drawn([{ fault: "wiring.leg-burnt" }]))).toBe(3);
    const at = (step: Step): string | undefined =>
      /data-broken=""><path d="M([\d.]+)/.exec(drawn([{ fault: "wiring.leg-burnt", at: "1" }], ferrel, { step }))?.[1];
    expect(at({ test: "stator.resistance", at: "1-2" })).not.toBe(at({ test: "battery.rest" }));
  });

  test("one without a place on this machine, and one that is not told apart, are marked at fuse and plug as before", () => {
    const bare = demoSheet("corvane-dabchick-50") as Sheet;
    for (const markup of [drawn([]), drawn([{ fault: "wiring.field-feed" }]), drawn([{ fault: "wiring.fuse-open" }, { fault: "wiring.field-feed" }], bare)]) {
      expect(markup).not.toContain("data-broken");
      expect(markup).toContain('fill="var(--plum)"');
    }
  });

  test("what lies outside the zones shown is not drawn", () => {
    expect(drawn([{ fault: "wiring.ground-resistance" }], ferrel, { zones: ["battery"] })).not.toContain("data-broken");
  });
});

describe("links on the loom", () => {
  test("tags keep within the strip, over zones that have none; where there is no room for all those out of band stay", () => {
    const step = { test: "battery.rest" as const };
    const tags: ReadingTag[] = ["rest 12.32 V", "crank 10.81 V", "charging 12.31 12.23 V"].map((text, k) => ({ zone: "battery", text, bad: k !== 1, step }));
    const drawn = (zones: readonly Zone[], lettering: number, more: readonly ReadingTag[] = []): string =>
      draw(<Loom sheet={ferrel} marks={{}} tags={[...tags, ...more]} zones={zones} lettering={lettering} />);
    const squeezed = (markup: string, text: string): number => Number(new RegExp(`textLength="([\\d.]+)"[^>]*>${text}`).exec(markup)?.[1]) / text.length;
    const phone = drawn(["output", "battery"], 1.5);
    expect([phone.includes("rest 12.32"), phone.includes("crank 10.81"), phone.includes("charging 12.31")]).toEqual([true, false, true]);
    expect(squeezed(phone, "charging 12.31 12.23 V")).toBeCloseTo(7.5 * 1.5);
    const ends = [...phone.matchAll(/<path d="M([\d.]+) [\d.]+h([\d.]+)v27h/g)].map(([, x, width]) => Number(x) + Number(width));
    expect(ends).toHaveLength(2);
    expect(Math.max(...ends)).toBeLessThanOrEqual(400);
    expect(drawn(ZONES, 1)).toContain("crank 10.81");
    const beside = drawn(["output", "battery"], 1.5, [{ zone: "output", text: "feed 12.1 V", bad: false, step }]);
    expect(squeezed(beside, "charging 12.31 12.23 V")).toBeLessThan(7.5 * 1.5);
  });

  test("parts and tags lead to their tests, and only where asked to", () => {
    const tags = [{ zone: "battery" as const, text: "rest 12.81 V", bad: false, step: { test: "battery.rest" as const } }];
    const linked = draw(<Loom sheet={ferrel} marks={{}} tags={tags} partLink={(part) => `/to/${part}`} stepLink={(step) => `/step/${stepKey(step)}`} />);
    for (const part of PARTS) expect([part, linked.includes(`href="/to/${part}"`)]).toEqual([part, part !== "drive"]);
    const belted = draw(<Loom sheet={demoSheet("tidewright-farway-29") as Sheet} marks={{}} tags={[]} partLink={(part) => `/to/${part}`} />);
    for (const part of PARTS) expect(belted).toContain(`href="/to/${part}"`);
    expect(linked).toContain('href="/step/battery.rest"');
    expect(draw(<Loom sheet={ferrel} marks={{}} tags={tags} />)).not.toContain("<a ");
  });

  test("a long typed figure stays inside the small meter: its end is shown", () => {
    const shown = (display: string): string | undefined =>
      /data-display="">([^<]*)</.exec(draw(<Loom sheet={ferrel} marks={{}} step={{ test: "battery.rest" }} display={display} />))?.[1];
    expect(["12.6", "12.6000000001", ""].map(shown)).toEqual(["12.6", "…00001", "- - -"]);
  });
});
