import { beforeAll, describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { createMemoryRouter, RouterProvider } from "react-router";
import { type Advice, advise, type JobFacts } from "../../core/diagnosis/advice";
import { pushesByReading } from "../../core/diagnosis/posterior/push";
import { faultWords, headline } from "../../core/diagnosis/words/words";
import type { Part } from "../../core/machine/part";
import { stepKey, stepTitle } from "../../core/procedure/step";
import { seedDemo } from "../../demo/workshop";
import type { JobFile } from "../../store/jobs";
import { jobFacts } from "../../tests/support/facts";
import { populationOf } from "../../tests/support/population";
import { openStore } from "../../tests/support/store";
import type { Engine } from "../jobs/useEngine";
import { type JobView, viewOf } from "../jobs/view";
import { EngineVerdict, RuledOut } from "./EngineVerdict";
import { EngineProgress, OddsPanel } from "./OddsPanel";
import { PlanPanel } from "./PlanPanel";

const store = openStore();
seedDemo(store, new Date("2026-06-01T12:00:00Z"));

function fileOf(tag: string): JobFile {
  const job = store.jobs.listOpen(30, 0).find((row) => row.unitTag === tag);
  const file = job && store.jobs.file(job.id);
  if (!file) throw new Error(`no open job for ${tag}`);
  return file;
}

interface Shown {
  file: JobFile;
  view: JobView;
  advice: Advice;
  engine: Engine;
}

/** A job with the engine's answer to it, one reading left out where asked. */
function shown(tag: string, crossed: (view: JobView) => string[] = () => [], over: Partial<JobFacts> = {}): Shown {
  const file = fileOf(tag);
  const view = viewOf(file);
  const out = new Set(crossed(view));
  const weighed = view.judged.map(({ reading }) => reading).filter(({ id }) => !out.has(id));
  const population = populationOf(file.job.sheet);
  const facts: JobFacts = jobFacts(weighed, { meter: view.context.meter, ...over });
  const byId = new Map(Object.entries(pushesByReading(population, facts)).map(([place, push]) => [weighed[Number(place)]?.id ?? "", push]));
  const engine: Engine = {
    stage: { at: "ready" },
    advice: advise(population, facts),
    weighed,
    pushes: byId,
    crossed: out,
    cross: () => undefined,
    isOfNow: true,
    after: async () => undefined,
  };
  return { file, view, engine, advice: engine.advice as Advice };
}

function drawn(element: React.ReactElement): string {
  const router = createMemoryRouter([{ path: "*", element }], { initialEntries: ["/jobs/1"] });
  return renderToStaticMarkup(<RouterProvider router={router} />).replace(/<[^>]+>/g, " ");
}

const panel = ({ engine, advice, view }: Shown): string =>
  drawn(<OddsPanel engine={engine} advice={advice} view={view} jobId={1} stepLink={(step) => `?step=${stepKey(step)}`} onSuspects={() => undefined} />);
const verdict = ({ engine, advice, view }: Shown): string => drawn(<EngineVerdict engine={engine} advice={advice} view={view} jobId={1} />);

describe("the standing by odds", () => {
  let job: Shown;
  beforeAll(() => {
    job = shown("SK-133");
  });

  test("names every part with words and a figure, the likeliest first", () => {
    const text = panel(job);
    const places = ["Wiring", "Battery", "Stator", "Rotor", "Starter"].map((name) => text.indexOf(name));
    expect(Math.min(...places)).toBeGreaterThan(-1);
    expect(places[0]).toBe(Math.min(...places));
    expect(text).toMatch(/\d+\s+%/);
    expect(text).toContain(`after ${job.engine.weighed.length} readings`);
  });

  test("says what each reading does by itself, and offers to leave it out", () => {
    const text = panel(job);
    expect(text).toContain("What each reading says by itself");
    expect(text).toMatch(/for wiring\s+×/);
    expect(text).toMatch(/against \w+\s+×/);
    expect(text).toContain("leave out");
  });

  test("counts what was left out, and strikes it", () => {
    const text = panel(shown("SK-133", (view) => view.judged.slice(0, 1).map(({ reading }) => reading.id)));
    expect(text).toContain("1 left out");
    expect(text).toContain("count it");
  });

  test("says what would change it, or that nothing would", () => {
    expect(panel(job)).toMatch(/What would change this\s+(No single reading would|.+ would turn it to)/);
  });

  test.each([
    ["feed", "regulator.feed", /Take\s+Feed at the unit&#x27;s output\s+again\s+:\s+2\.10 V\s+does not go with the others/],
    ["rest volts, which the runs since have taken", "battery.rest", /Rest volts\s*:\s+2\.10 V\s+does not go with the others .+ can&#x27;t be read again today/],
  ])("a reading that does not go with the others is named, and asked for again where it can be: %s", (_, wrong, said) => {
    const { file, view, engine } = job;
    const place = engine.weighed.findIndex(({ test: id }) => id === wrong);
    const weighed = engine.weighed.map((reading, i) => (i === place ? { ...reading, value: 2.1 } : reading));
    const advice = advise(populationOf(file.job.sheet), jobFacts(weighed, { meter: view.context.meter }));
    expect(panel({ ...job, advice, engine: { ...engine, weighed } })).toMatch(said);
  });

  test("before any reading nothing is cleared, and the first reading says why it comes first", () => {
    const text = panel(shown("SK-121"));
    expect(text).toContain("after 0 readings");
    expect(text).not.toContain("cleared");
    expect(text).toContain("Nothing stands out yet.");
    expect(text).toContain("What each suspect would show");
  });
});

describe("where the plan stands", () => {
  const { advice, file } = shown("SK-133");
  const plan = (of: Advice): string =>
    renderToStaticMarkup(
      <RouterProvider
        router={createMemoryRouter([
          { path: "*", element: <PlanPanel advice={of} sheet={file.job.sheet} active="" busy={false} stepLink={stepKey} verdict="/jobs/1/verdict" /> },
        ])}
      />,
    );

  test("while readings are worth taking they are laid out, and no way leads past them", () => {
    const open = plan({ ...advice, settled: false });
    expect(open).toContain('aria-label="Plan"');
    expect(open).toContain(stepTitle((advice.next[0] as (typeof advice.next)[number]).step));
    expect(open).not.toContain("/jobs/1/verdict");
  });

  test("once none is, what was found is said there, and the way to the verdict", () => {
    const settled = plan({ ...advice, settled: true });
    expect(faultWords(advice, file.job.sheet)).not.toBe("");
    expect(settled).toContain(`>${faultWords(advice, file.job.sheet)}<`);
    expect(settled).toContain(headline({ ...advice, settled: true }));
    expect(settled).toMatch(/<a [^>]*data-advised[^>]*>To the verdict</);
    expect(settled).toContain('href="/jobs/1/verdict"');
    expect(settled).not.toContain('aria-label="Plan"');
  });
});

describe("the verdict by odds", () => {
  test("names part, fault and odds, its readings, what was ruled out and what it costs", () => {
    const text = verdict(shown("SK-133"));
    expect(text).toMatch(/wiring .*\d+ in \d+/i);
    expect(text).toContain("Ruled out");
    expect(text).toMatch(/About\s+\d+\s+in all by the shop&#x27;s prices|About\s+\d+\s+in all by the shop's prices/);
    expect(text).toContain("What would change this");
  });

  test("a reading that was likely misread rules nothing out", () => {
    const { engine, advice, view } = shown("SK-133");
    const told = drawn(<RuledOut engine={engine} advice={advice} view={view} />);
    const cited = engine.weighed.findIndex(({ test: id, at }) => id === "regulator.diode" && at === "B->B+");
    const title = stepTitle(engine.weighed[cited] as (typeof engine.weighed)[number]);
    expect(told).toContain(title);
    for (const which of ["doubts", "spent"] as const) {
      const doubting = { ...advice, [which]: [{ reading: cited, odds: 0.97 }] };
      expect(drawn(<RuledOut engine={engine} advice={doubting} view={view} />)).not.toContain(title);
    }
  });

  test("says nothing of why until it is known", () => {
    const { engine, advice, view } = shown("SK-133");
    const unknown = { engine: { ...engine, pushes: undefined }, advice, view };
    const told = drawn(<RuledOut {...unknown} />);
    expect(told).toContain("Rotor");
    expect(told).not.toMatch(/something else|:/);
    expect(drawn(<EngineVerdict {...unknown} jobId={1} />)).toContain("Being worked out.");
    expect(verdict({ engine, advice, view } as Shown)).not.toContain("Being worked out.");
  });

  test("a reading that was taken twice is told once", () => {
    const { engine, advice, view } = shown("SK-133");
    const twice = (judgedReading: (typeof view.judged)[number]) => [
      judgedReading,
      { ...judgedReading, reading: { ...judgedReading.reading, id: `${judgedReading.reading.id}-again` } },
    ];
    const pushes = new Map(
      [...(engine.pushes ?? [])].flatMap(([id, push]): [string, typeof push][] => [
        [id, push],
        [`${id}-again`, push],
      ]),
    );
    const doubled = { engine: { ...engine, pushes }, advice, view: { ...view, judged: view.judged.flatMap(twice) } };
    expect(drawn(<RuledOut {...doubled} />)).toBe(drawn(<RuledOut engine={engine} advice={advice} view={view} />));
  });

  test("beside a reading that decides, what hardly pushes is not named", () => {
    const { engine, advice, view, file } = shown("SK-133");
    const [part] = advice.decision.set.split("+") as [Part];
    const strong = engine.weighed.filter(({ id }) => (engine.pushes?.get(id)?.[part] ?? 0) > 0);
    expect(strong.length).toBeGreaterThan(1);
    const [decisive, ...others] = strong.map(({ id }) => id) as [string, ...string[]];
    const titleOf = (id: string): string => stepTitle(strong.find((reading) => reading.id === id) as (typeof strong)[number]);
    const told = (push: number): string => {
      const pushes = new Map([[decisive, { [part]: 4 }], ...others.map((id): [string, Record<string, number>] => [id, { [part]: push }])]);
      // What is left to read is named further down by the same titles.
      return verdict({ engine: { ...engine, pushes }, advice: { ...advice, next: [] }, view, file });
    };
    expect(told(0.9)).toContain(titleOf(decisive));
    const otherTitles = others.map(titleOf).filter((title) => title !== titleOf(decisive));
    expect(otherTitles.some((title) => told(0.9).includes(title))).toBe(false);
    expect(otherTitles.some((title) => told(1.1).includes(title))).toBe(true);
  });

  test("rules nothing out before anything was read", () => {
    const { engine, advice, view } = shown("SK-121");
    expect(drawn(<RuledOut engine={engine} advice={advice} view={view} />)).toContain("Nothing yet.");
  });

  test("after a repair it speaks of what is left", () => {
    const { engine, view, file } = shown("SK-133");
    const advice = advise(populationOf(file.job.sheet), jobFacts(engine.weighed, { meter: view.context.meter, mended: ["wiring"] }));
    expect(advice.repaired).toBe(true);
    expect(verdict({ engine, view, file, advice })).toMatch(/cured/i);
    // What was mended is no longer among what may have failed.
    expect(advice.fault?.startsWith("wiring.")).not.toBe(true);
    expect(advice.parts.find(({ what }) => what === "wiring")?.odds).toBeLessThan(0.01);
    expect(verdict({ engine, view, file, advice })).not.toContain("Do nothing failed first");
  });
});

describe("the engine at work", () => {
  const at = (stage: Engine["stage"]): string => drawn(<EngineProgress engine={{ ...shown("SK-121").engine, stage }} />);

  test("tells how far the charts are, that the run list serves, and why it failed", () => {
    expect(at({ at: "drawing", done: 3, of: 12 })).toMatch(/3 of 12.*run\s+list\s+serves/);
    expect(at({ at: "drawing", done: 0, of: 0 })).not.toContain("0 of 0");
    expect(at({ at: "making" })).toContain("Working out the odds");
    expect(at({ at: "failed", why: "no thread" })).toMatch(/cannot be worked out \(no thread\)/);
    expect(at({ at: "ready" })).toBe("");
  });
});
