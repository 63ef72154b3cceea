import { describe, expect, test } from "@jest/globals";
import type { ReactElement } from "react";
import { createRef } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { createMemoryRouter, RouterProvider } from "react-router";
import type { SetFault } from "../../core/machine/defects";
import { FAULTS } from "../../core/machine/faults";
import { unfitReason } from "../../core/machine/places";
import { pointsAlong } from "../../core/machine/points";
import type { Sheet } from "../../core/machine/sheet";
import { ASSUMED_METER } from "../../core/meter/meter";
import { firstSetup, RIG_DIALS } from "../../core/rig/setup";
import { DEMO_SHEETS, demoSheet } from "../../demo/sheets";
import { Loom } from "../loom/Loom";
import { Eyelets } from "./Eyelets";
import { FaultPanel } from "./FaultPanel";
import { MeterFace } from "./MeterFace";
import { RigScreen } from "./RigScreen";
import { fillReadout } from "./Scope";
import { Switches } from "./Switches";
import { Throttle } from "./Throttle";
import { WhatChanged } from "./WhatChanged";

const sheet = demoSheet("corvane-ferrel-650") as Sheet;
const first = firstSetup(sheet);
const nothing = (): void => undefined;
const draw = (element: ReactElement): string => renderToStaticMarkup(element);
const count = (markup: string, pattern: RegExp): number => markup.match(new RegExp(pattern, "g"))?.length ?? 0;

describe("the loom on the rig", () => {
  const loom = (over: { unplugged?: string[]; sheet?: Sheet } = {}): string => {
    const machine = over.sheet ?? sheet;
    const points = pointsAlong(machine);
    return draw(
      <Loom
        sheet={machine}
        marks={{}}
        stand={{ unplugged: over.unplugged ?? [], probes: { red: "leg:1", black: "engine" }, dial: "Ω" }}
        over={(layout) => <Eyelets {...{ sheet: machine, layout, points }} red="leg:1" black="engine" put={nothing} inHand="red" />}
      />,
    );
  };

  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s: an eyelet for every point, each with a name and reached by Tab", (_id, machine) => {
    const markup = loom({ sheet: machine });
    expect(count(markup, /role="button" tabindex="0"/i)).toBe(pointsAlong(machine).length);
    expect(markup).not.toContain("NaN");
  });

  test("shows which eyelets hold the probes, and the dial on its meter", () => {
    const markup = loom();
    expect(markup).toContain('aria-label="pin 1, red probe"');
    expect(markup).toContain('aria-label="a clean engine bolt, black probe"');
    expect(markup).toContain(">Ω</text>");
  });

  test("parts what is parted", () => {
    expect(loom({ unplugged: ["stator"] })).toContain("C2, unplugged");
    expect(loom()).not.toContain("unplugged");
    expect(loom({ unplugged: ["unit"] })).toContain("M0 126H14");
  });
});

describe("what ails it", () => {
  const panel = (faults: SetFault[], machine = sheet): string => draw(<FaultPanel sheet={machine} faults={faults} onChange={nothing} />);

  test("a sound machine says so and offers every fault that it can have, by part", () => {
    const markup = panel([]);
    expect(markup).toContain("Nothing: a sound machine.");
    const offered = FAULTS.filter((fault) => !unfitReason(fault.id, sheet));
    expect(count(markup, /<option value="[a-z]+\./)).toBe(offered.length);
    expect(markup).not.toContain('value="regulator.sense-open"');
    expect(panel([], demoSheet("ostrel-burro-520"))).toContain('value="regulator.sense-open"');
  });

  test("its parts bear the family's names, and a part in which nothing can fail is not listed", () => {
    expect(panel([])).toContain('<optgroup label="Stator">');
    expect(panel([])).not.toContain('<optgroup label="Belt">');
    const dynamo = panel([], demoSheet("corvane-merle-250"));
    expect(dynamo).toContain('<optgroup label="Armature">');
    expect(panel([], demoSheet("tidewright-farway-29"))).toContain('<optgroup label="Belt">');
    expect(dynamo).not.toContain('<optgroup label="Stator">');
  });

  test("a set fault shows its place, how far along, and its figure with what it may be", () => {
    const markup = panel([{ fault: "stator.winding-grounded", at: "2", along: 0.4, severity: 0.05 }]);
    expect(markup).toContain("A winding touches the engine case");
    expect(markup).toContain("Where: A winding touches the engine case");
    expect(markup).toContain("40 %");
    expect(markup).toContain('min="0" max="1000000"');
    expect(markup).toContain("Mend: A winding touches the engine case");
  });

  test("one that is there or not has no figure; six are the most", () => {
    expect(panel([{ fault: "stator.winding-open", at: "1" }])).not.toContain('type="number"');
    const six = Array.from({ length: 6 }, (): SetFault => ({ fault: "rotor.weak", severity: 0.1 }));
    expect(panel(six)).not.toContain("Add a fault");
  });
});

describe("the meter's face", () => {
  const face = (over: Partial<Parameters<typeof MeterFace>[0]> = {}): string =>
    draw(
      <MeterFace
        dial="V DC"
        onDial={nothing}
        inHand="red"
        onHand={nothing}
        red="pin 1"
        black="a clean engine bolt"
        figure={createRef()}
        sound={createRef()}
        withSound={false}
        {...over}
      />,
    );

  test("has every stop of the dial, and says where the probes are and which is in hand", () => {
    const markup = face();
    expect(count(markup, /type="radio"/)).toBe(RIG_DIALS.length);
    expect(markup).toContain("Red on pin 1");
    expect(markup).toContain("Black on a clean engine bolt");
    expect(count(markup, /aria-pressed="true"/)).toBe(1);
  });

  test.each([
    ["V AC", ">V AC</span>"],
    ["A DC", ">mA</span>"],
    ["clamp", ">A</span>"],
  ] as const)("on %s it reads in its unit", (dial, unit) => expect(face({ dial })).toContain(unit));
});

describe("switches and throttle", () => {
  test("the switches show how the machine stands", () => {
    const markup = draw(
      <Switches sheet={sheet} setup={{ ...first, unplug: ["output"], pulled: ["F3"], key: "on" }} onChange={nothing} onEngine={nothing} onPart={nothing} />,
    );
    expect(count(markup, /type="checkbox"[^>]*checked/)).toBe(3);
    for (const words of ["C2", "unit&#x27;s output plug", "negative cable", "fuse main, 30 A", "fuse F3, 10 A", "ridden"]) expect(markup).toContain(words);
  });

  test("the throttle shows its speed, and nothing while the engine stands", () => {
    const throttle = (disabled: boolean): string => draw(<Throttle rpm={4200} onChange={nothing} disabled={disabled} idle={1200} />);
    expect(throttle(false)).toContain("4,200");
    expect(throttle(true)).not.toContain("4,200");
    expect(throttle(false)).toContain("idle 1,200");
  });
});

describe("what changed", () => {
  test("a sound machine has nothing to compare", () => {
    const markup = draw(<WhatChanged faults={0} compare={async () => []} />);
    expect(markup).toContain("disabled");
    expect(markup).toContain("A sound machine reads as a sound machine.");
    expect(draw(<WhatChanged faults={1} compare={async () => []} />)).not.toContain("disabled");
  });
});

test("the scope's readout: both cursors, difference, mean, rms and swing", () => {
  const cells = Array.from({ length: 7 }, () => ({ textContent: "" }));
  const body = { rows: [{ cells }] } as unknown as HTMLTableSectionElement;
  fillReadout(body, { step: 1e-5, ailing: [new Float32Array([0, 1, 2, 3, 4])], sound: undefined }, [0.25, 1]);
  expect(cells.slice(1).map((cell) => cell.textContent)).toEqual(["1.00", "4.00", "3.00", "2.00", "2.45", "4.00"]);
  fillReadout(null, { step: 1e-5, ailing: [new Float32Array([1])], sound: undefined }, [0, 1]);
});

describe("the whole page, before its thread has started", () => {
  const page = (search: string): string => {
    const element = <RigScreen instruments={[]} sheet={sheet} sheets={[{ id: sheet.id, name: "Corvane Ferrel 650" }]} meter={ASSUMED_METER} />;
    const router = createMemoryRouter([{ path: "*", element }], { initialEntries: [`/rig${search}`] });
    return draw(<RouterProvider router={router} />);
  };

  test("stands as the address says", () => {
    const markup = page("?sheet=corvane-ferrel-650&fault=stator.winding-open,at=3&unplug=stator&dial=Ω&red=leg:2&black=leg:3");
    expect(markup).toContain("C2, unplugged");
    expect(markup).toContain("Red on pin 2");
    expect(markup).toContain("A winding is open");
    expect(markup).toContain("- - -");
    expect(markup).not.toContain('role="alert"');
  });

  test("tells what of the address it could not set up, and what is hard to believe", () => {
    expect(page("?dial=horn&loads=most")).toContain("dial: “horn” must be one of V DC");
    expect(page("?ambientC=55")).toContain("55 °C is hotter than any workshop");
  });
});
