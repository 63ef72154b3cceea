import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { createMemoryRouter, RouterProvider } from "react-router";
import { ASSUMED_PRICES } from "../../core/diagnosis/planning/prices";
import { cautionsOf } from "../../core/procedure/stepCautions";
import { USUAL_TOOLS } from "../../core/procedure/tools";
import { seedDemo } from "../../demo/workshop";
import type { JobFile } from "../../store/jobs";
import { openStore } from "../../tests/support/store";
import type { ShopKnows } from "../jobs/facts";
import type { Engine } from "../jobs/useEngine";
import { type JobView, viewOf } from "../jobs/view";
import { Bench } from "./Bench";
import { RunList } from "./RunList";
import { Cautions } from "./SetUp";
import { StandingPanel } from "./StandingPanel";

const store = openStore();
seedDemo(store, new Date("2026-06-01T12:00:00Z"));

const KNOWS: ShopKnows = { prices: ASSUMED_PRICES, tools: USUAL_TOOLS, confirmed: {} };

/** The engine before its charts are drawn. */
const DRAWING: Engine = {
  stage: { at: "drawing", done: 4, of: 12 },
  advice: undefined,
  weighed: [],
  pushes: new Map(),
  crossed: new Set(),
  cross: () => undefined,
  isOfNow: true,
  after: async () => undefined,
};

function fileOf(tag: string): JobFile {
  const job = [...store.jobs.listOpen(30, 0), ...store.jobs.listClosed(30)].find((row) => row.unitTag === tag);
  const file = job && store.jobs.file(job.id);
  if (!file) throw new Error(`no job for ${tag}`);
  return file;
}

/** Draws something that links and reads the address, at an address of its own. */
function at(path: string, element: React.ReactElement): string {
  const router = createMemoryRouter([{ path: "*", element }], { initialEntries: [path] });
  return renderToStaticMarkup(<RouterProvider router={router} />);
}

const runList = (view: JobView, active?: string): string =>
  at(
    "/",
    <RunList
      stages={view.stages}
      active={active}
      school="Harbour"
      byOdds={false}
      onOrder={() => undefined}
      sheet={view.context.sheet}
      plan={null}
      stepLink={() => "/"}
    />,
  );

const bench = (tag: string, step = "", phone = false): string =>
  at(
    `/jobs/1${step ? `?step=${encodeURIComponent(step)}` : ""}`,
    <Bench instruments={[]} file={fileOf(tag)} knows={KNOWS} kept={undefined} phone={phone} refusal={undefined} />,
  );

describe("the bench", () => {
  test("a new job begins with the walk round", () => {
    const page = bench("SK-121");
    expect(page).toContain("Battery posts and starter post</h1>");
    expect(page).toContain("Working out the odds");
    expect(page).toContain(">tight<");
  });

  test("half way, the next open step stands large, with where the probes go", () => {
    const page = bench("SK-207");
    expect(page).toContain("Pair 1–2 AC volts, 5,000 rpm</h1>");
    expect(page).toContain("Red on pin 1, yellow");
    expect(page).toContain("Black on pin 2, yellow with black tracer");
    expect(page).toContain("Unplug P11 (left of the airbox), then start the engine");
    expect(page).toContain("Hold 5,000 rpm.");
  });

  test("the address names the step, known readings stand beside their ruler", () => {
    const page = bench("SK-114", "stator.toGround~2");
    expect(page).toContain("Leg 2 to engine case</h1>");
    expect(page).toContain("the meter showed 0.33 Ω");
    expect(page).toContain("0.15 Ω of leads taken off");
    expect(page).toContain("it was mistyped");
  });

  test.each(["horn.volts", "stator.resistance~9-9", "stator.resistance", "charge.volts", "drain.fusePulled~F9", "<script>"])(
    "an address that names “%s”, no step of this machine, falls back on the next one",
    (step) => {
      expect(bench("SK-207", step)).toContain("Pair 1–2 AC volts, 5,000 rpm</h1>");
    },
  );

  test("a phone gets the thumb's keys and the folded loom at the first paint, a wide screen does not carry them", () => {
    const asked = [bench("SK-207", "stator.toGround~2", true), bench("SK-207", "stator.toGround~2")];
    expect(asked.map((page) => page.includes('aria-label="Erase one"'))).toEqual([true, false]);
    expect(asked.map((page) => page.includes(">Battery</text>"))).toEqual([false, true]);
  });

  test("a closed job shows its readings and takes none", () => {
    const page = bench("SK-206", "charge.volts~~5000~normal");
    expect(page).toContain("This job is closed");
    expect(page).not.toContain('id="entry"');
  });

  test("since a repair the bench says what was mended, in the machine's own names, or that no part was", () => {
    const bar = (tag: string, part: string): string => {
      const repair = { id: 1, repairedAt: "2026-06-01T12:00:00Z", part, fault: null, found: null, done: "done", by: null };
      const file = { ...fileOf(tag), repairs: [repair] } as JobFile;
      const page = at("/jobs/1", <Bench instruments={[]} file={file} knows={KNOWS} kept={undefined} phone={false} refusal={undefined} />);
      return /Repaired: ([^.]*)\./.exec(page)?.[1] ?? "";
    };
    expect(bar("SK-207", "stator")).toBe("stator");
    expect(bar("SK-117", "stator")).toBe("field");
    expect(bar("SK-117", "none")).toBe("cleaned or charged, no part");
  });

  test("of a part by itself shows that part, its tests and how it lies, and nothing of a machine", () => {
    const file = fileOf("SK-207");
    const loose: JobFile = { ...file, job: { ...file.job, sheet: { ...file.job.sheet, loose: "regulator" } }, history: [], skips: [], repairs: [] };
    const page = at("/jobs/1", <Bench instruments={[]} file={loose} knows={KNOWS} kept={undefined} phone={false} refusal={undefined} />);
    const words = page.replace(/<[^>]+>/g, " ");
    expect(words).toContain("loose regulator/rectifier");
    expect(words).toContain("In the hand, its plugs open and clean.");
    expect(words).not.toMatch(/Walk up|Crank dip|Charging volts|Engine off|Disconnect the earthed post/);
    expect(page).toContain('viewBox="0 0 250 ');
  });

  test("what the server refused stands beside the entry it refused", () => {
    const page = at(
      "/jobs/1?step=battery.rest",
      <Bench instruments={[]} file={fileOf("SK-121")} knows={KNOWS} kept={undefined} phone={false} refusal={{ error: "1000.0 V cannot be.", typed: "" }} />,
    );
    expect(page).toContain("1000.0 V cannot be.");
    expect(page).toContain('aria-invalid="true"');
  });
});

describe("the run list", () => {
  test("opens what is being worked on and what is wrong, folds what is done and good", () => {
    const view = viewOf(fileOf("SK-109"));
    const list = runList(view, "regulator.feed");
    expect(list).toContain("Feed at the unit");
    expect(list).toContain("Charging volts at the battery, 5,000 rpm");
    expect(list).not.toContain("Crank dip");
    expect(list).toContain("school: Harbour");
    // What is read with the engine off stands apart from what is read while it runs.
    expect(list).toMatch(/Engine off, key out<\/p>.*Engine running<\/p>/s);
  });

  test("marks skipped steps", () => {
    const file = fileOf("SK-121");
    const view = viewOf({ ...file, skips: [{ id: "s", step: "inspect.terminals", reason: "Not safe here" }] });
    expect(runList(view)).toContain("skipped");
  });
});

describe("the standing", () => {
  test("until there are odds it says how far they are, and judges no part", () => {
    const html = at("/", <StandingPanel engine={DRAWING} view={viewOf(fileOf("SK-109"))} jobId={1} stepLink={() => "/"} onSuspects={() => undefined} />);
    expect(html).toContain("4 of 12");
    expect(html).not.toContain("condemned");
  });
});

describe("cautions", () => {
  test("a boat and a mower add their own to every running test", () => {
    const { sheet } = fileOf("SK-302").job;
    expect(cautionsOf({ test: "charge.volts", rpm: 3000 }, sheet)).toContain("marine");
    expect(cautionsOf({ test: "stator.resistance", at: "1-2" }, sheet)).not.toContain("marine");
    expect(cautionsOf({ test: "charge.volts", rpm: 3000 }, { ...sheet, kind: "mower" })).toContain("mower");
    expect(cautionsOf({ test: "charge.volts", rpm: 3000 }, { ...sheet, kind: "snowmobile" })).toContain("track");
    expect(cautionsOf({ test: "battery.rest" }, { ...sheet, battery: { ...sheet.battery, chemistry: "lithium-iron" } })).toContain("lithium");
  });

  test("where the ignition's winding can sit on the same stator, its volts are warned of at the running tests of the stator alone", () => {
    const { sheet } = fileOf("SK-302").job;
    const ac = { test: "stator.acVolts", at: "1-2", rpm: 3000 } as const;
    expect(cautionsOf(ac, { ...sheet, kind: "outboard" })).toContain("ignition");
    expect(cautionsOf(ac, { ...sheet, kind: "motorcycle" })).not.toContain("ignition");
    expect(cautionsOf({ test: "stator.resistance", at: "1-2" }, { ...sheet, kind: "outboard" })).not.toContain("ignition");
    expect(cautionsOf({ test: "charge.volts", rpm: 3000 }, { ...sheet, kind: "outboard" })).not.toContain("ignition");
  });

  test("stand in words, and take no room where there are none", () => {
    expect(renderToStaticMarkup(<Cautions ids={["ammeter"]} />)).toContain("Never turn the key or crank with the ammeter in series");
    expect(renderToStaticMarkup(<Cautions ids={[]} />)).toBe("");
  });
});
