import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import type { Planned } from "../../core/day/plan";
import { at, dayWith, hands, machine } from "../../tests/support/day";
import { DayLine } from "./DayLine";

const draw = (...day: Parameters<typeof dayWith>): string => renderToStaticMarkup(<DayLine day={dayWith(...day)} onSet={() => undefined} />);

describe("the line of the day", () => {
  test("work stands where its hours are, and says so to those who do not see it", () => {
    const markup = draw([hands(1, at(12), at(14))], [machine(1)]);
    expect(markup).toMatch(/left:50%;width:25%/);
    expect(markup).toContain('aria-label="Rest volts, 12:00 to 14:00"');
    // A wide block has room for its words.
    expect(markup).toMatch(/>Rest volts<\/button>/);
    expect(draw([hands(1, at(12), at(12, 10))], [machine(1)])).not.toMatch(/>Rest volts<\/button>/);
  });

  test("a machine's first work alone can be dragged; what was set by hand is said", () => {
    const markup = draw([hands(1, at(12), at(13)), hands(1, at(14), at(15), "Mend: stator")], [machine(1, { pinned: new Date(at(12)).toISOString() })]);
    expect(markup.match(/aria-roledescription="draggable"/g)).toHaveLength(1);
    expect(markup).toContain('12:00 to 13:00, set by hand"');
  });

  test("what charges or rests is hatched, as far as the day goes; what was done is filled", () => {
    const charge: Planned = { jobId: 1, title: "Charging", from: at(13), to: at(20), mechanic: undefined, what: "charge" };
    const markup = draw([hands(1, at(12), at(13)), charge], [machine(1)], {
      done: [{ jobId: 1, from: new Date(at(9)).toISOString(), to: new Date(at(10)).toISOString() }],
    });
    expect(markup).toMatch(/hatched[^"]*" style="left:62\.5%;width:37\.5%"/);
    expect(markup).toMatch(/bg-ink" style="left:12\.5%;width:12\.5%"/);
    expect(markup).toContain("Charging");
  });

  test("machines come in the order in which hands turn to them; one with nothing today has no row", () => {
    const markup = draw([hands(2, at(12), at(13)), hands(1, at(13), at(14))], [machine(1), machine(2), machine(3)]);
    expect(markup.indexOf("Machine 2")).toBeLessThan(markup.indexOf("Machine 1"));
    expect(markup).not.toContain("Machine 3");
  });

  test("now is drawn today, and not on tomorrow's line", () => {
    expect(draw([hands(1, at(12), at(13))], [machine(1)])).toMatch(/bg-copper[^"]*" style="left:50%"/);
    expect(draw([hands(1, at(12), at(13))], [machine(1)], { isToday: false })).not.toContain("bg-copper");
  });
});
