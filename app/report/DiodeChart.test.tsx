import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { judgeAll } from "../../core/procedure/judge";
import { context, reading } from "../../tests/support/readings";
import { DiodeChart } from "./DiodeChart";

const around = context();
const chart = (readings: Parameters<typeof judgeAll>[0]): string =>
  renderToStaticMarkup(<DiodeChart sheet={around.sheet} judged={judgeAll(readings, around)} />);
const diode = (at: string, value: number | string) => reading("regulator.diode", value, { at });

describe("the diode chart", () => {
  test("is not drawn where no diode was read", () => {
    expect(chart([reading("battery.rest", 12.6)])).toBe("");
  });

  test("has a cell for each way round, the latest reading in it, what is bad in words, and a dash where none was taken", () => {
    const drawn = chart([diode("1>B+", 0.9), diode("1>B+", 0.5), diode("B+>2", 0.001), diode("B->3", "OL")]);
    const rows = [...drawn.matchAll(/<th scope="row"[^>]*>([^<]+)<\/th>(.*?)<\/tr>/g)].map(([, name, cells]) => [name, cells?.replace(/<[^>]+>/g, " ").trim()]);
    expect(rows.map(([name]) => name)).toEqual(["1", "2", "3", "B+", "B−"]);
    expect(rows[0]?.[1]).toMatch(/0\.50/);
    expect(drawn).not.toContain("0.90");
    expect(rows[3]?.[1]).toMatch(/0\.00\s+shorted/);
    expect(rows[4]?.[1]).toMatch(/OL\s+open line/);
    expect(drawn.match(/–<\/td>/g)?.length).toBe(5 * 5 - 5 - 3);
  });
});
