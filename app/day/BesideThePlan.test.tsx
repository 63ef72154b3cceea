import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { createMemoryRouter, RouterProvider } from "react-router";
import { at, dayWith, hands, machine } from "../../tests/support/day";
import { BesideThePlan } from "./BesideThePlan";

function draw(...[stretches, machines, more]: Parameters<typeof dayWith>): string {
  const day = dayWith(stretches, machines, more);
  const router = createMemoryRouter([{ path: "/", element: <BesideThePlan day={day} /> }]);
  return renderToStaticMarkup(<RouterProvider router={router} />).replace(/<[^>]+>/g, "|");
}
const pinned = new Date(at(15, 50)).toISOString();

describe("beside the plan", () => {
  test("a machine set by hand that hands do not get to is said with its time, and can be let go", () => {
    const late = draw([], [machine(1, { pinned })], { plan: { stretches: [], idle: 0, tomorrow: [1] } });
    expect(late).toMatch(/No longer fits into the day:[| ]+Machine 1/);
    expect(late).toMatch(/Set by hand for 15:50:[| ]+Machine 1[|]+let the plan choose/);
    const waits = draw([], [machine(1, { pinned, wait: { what: "part", beganAt: pinned } })]);
    expect(waits).toMatch(/nobody has said until when:[| ]+Machine 1/);
    expect(waits).toContain("Set by hand for 15:50:");
  });

  test("on the line it says so there, and not once more", () => {
    expect(draw([hands(1, at(15, 50), at(16))], [machine(1, { pinned })])).not.toContain("Set by hand");
  });

  test("a machine left out can be planned again, and is not called waiting", () => {
    const markup = draw([], [machine(1, { dropped: true })]);
    expect(markup).toMatch(/Left out of the day:[| ]+Machine 1[|]+plan it again/);
    expect(markup).not.toContain("nobody has said");
  });
});
