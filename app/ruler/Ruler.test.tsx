import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { bandFor } from "../../core/procedure/bands";
import { judgeOne } from "../../core/procedure/judge";
import { context, reading } from "../../tests/support/readings";
import { ReadingRuler } from "./ReadingRuler";
import { Ruler } from "./Ruler";

const usual = context();
const chargeBand = bandFor({ test: "charge.volts", rpm: 5000, loads: "normal" }, usual.sheet, usual.school);
const ohmsBand = bandFor({ test: "stator.resistance", at: "1-2" }, usual.sheet, usual.school);

/** Where a notch of this colour stands, in the ruler's own units. */
const notchAt = (markup: string, colour: string): number =>
  Number(new RegExp(`<path d="M([\\d.]+) \\d+V[\\d.]+" stroke="var\\(--${colour}\\)"`).exec(markup)?.[1]);
const bracket = (markup: string): number[] => (/<path d="M([\d.]+) \d+V[\d.]+H([\d.]+)V\d+" fill="none"/.exec(markup) ?? []).slice(1, 3).map(Number);

describe("the spec ruler", () => {
  const draw = (value: number | string) => {
    const judgedReading = judgeOne(reading("charge.volts", value, { rpm: 5000, loads: "normal" }), usual);
    return renderToStaticMarkup(
      <Ruler band={chargeBand} notches={[{ value, judged: judgedReading.judged, now: true }]} unit="V" openAllowed={false} title="charging volts" />,
    );
  };

  test("a reading in band stands inside the bracket, in petrol", () => {
    const markup = draw(14.3);
    const [from = 0, to = 0] = bracket(markup);
    expect(notchAt(markup, "petrol")).toBeGreaterThan(from);
    expect(notchAt(markup, "petrol")).toBeLessThan(to);
  });

  test("a low one stands before it and a high one behind it, in copper", () => {
    const low = draw(12.4);
    expect(notchAt(low, "copper")).toBeLessThan(bracket(low)[0] ?? 0);
    const high = draw(16.4);
    expect(notchAt(high, "copper")).toBeGreaterThan(bracket(high)[1] ?? 999);
  });

  test("the ends of the band stand under it in figures", () => {
    expect(draw(14.3)).toContain(">13.80<");
    expect(draw(14.3)).toContain(">14.90<");
  });

  test("three pairs share one rule, each with its name, names apart", () => {
    const markup = renderToStaticMarkup(
      <Ruler
        band={ohmsBand}
        notches={[
          { value: 0.3, judged: "in", label: "1-2" },
          { value: 0.301, judged: "in", label: "2-3" },
          { value: 0.24, judged: "unequal", label: "3-1", now: true },
        ]}
        unit="Ω"
        openAllowed
        title="pairs"
      />,
    );
    const places = [...markup.matchAll(/<text x="([\d.]+)" y="9"/g)].map((match) => Number(match[1]));
    expect(places).toHaveLength(3);
    for (const [i, place] of places.entries()) if (i > 0) expect(place - (places[i - 1] ?? 0)).toBeGreaterThanOrEqual(39);
    expect(markup).toContain(">OL<");
  });

  test("the open line stands on its stop", () => {
    const judgedReading = judgeOne(reading("stator.resistance", "OL", { at: "1-2" }), usual);
    const markup = renderToStaticMarkup(
      <Ruler band={ohmsBand} notches={[{ value: "OL", judged: judgedReading.judged, now: true }]} unit="Ω" openAllowed title="pair" />,
    );
    expect(notchAt(markup, "copper")).toBeGreaterThan(560);
  });

  test("says in words what it shows", () => {
    expect(draw(12.4)).toContain('aria-label="charging volts"');
  });
});

describe("a kept reading's own ruler", () => {
  test("tells the judgement and the source", () => {
    const markup = renderToStaticMarkup(<ReadingRuler judgedReading={judgeOne(reading("charge.volts", 12.4, { rpm: 5000, loads: "normal" }), usual)} />);
    expect(markup).toContain('aria-label="low; sheet p. 16-4"');
  });

  test("is not drawn for words, nor where there is no band", () => {
    expect(renderToStaticMarkup(<ReadingRuler judgedReading={judgeOne(reading("inspect.terminals", "tight"), usual)} />)).toBe("");
    expect(renderToStaticMarkup(<ReadingRuler judgedReading={{ ...judgeOne(reading("battery.rest", 12.6), usual), band: undefined }} />)).toBe("");
  });
});
