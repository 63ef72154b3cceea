import type { Advice } from "../../core/diagnosis/advice";
import { remediesOf } from "../../core/diagnosis/remedies";
import { isListed, oddsOf } from "../../core/diagnosis/words/marks";
import { faultWords, headline, oddsWords, setName, turnWords } from "../../core/diagnosis/words/words";
import { partNamesOf } from "../../core/machine/families/registry";
import { PARTS, type Part } from "../../core/machine/part";
import { testOf } from "../../core/procedure/catalogue";
import { beforeRepair } from "../../core/procedure/runlist";
import { stepKey, stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import type { Engine } from "../jobs/useEngine";
import type { JobView } from "../jobs/view";
import { BatteryMethods } from "../report/BatteryMethods";
import { Evidence } from "./Evidence";

/** A part counts as ruled out below these odds. */
const OUT = 0.02;
/** Readings shown for a part. */
const MOST = 4;
/** Beside a reading that decides, one that pushes less than this share of it says nothing that anybody would name. */
const NAMED = 0.25;

/** The verdict by the odds: which part, how surely, where, by which readings, what was ruled out, what it costs. */
export function EngineVerdict({ engine, advice, view, jobId }: { engine: Engine; advice: Advice; view: JobView; jobId: number }) {
  const decided = remediesOf(advice.decision.set).filter((remedy): remedy is Part => remedy !== "charge");
  const names = partNamesOf(advice);
  const turns = advice.next.flatMap((suggestion) => turnWords(suggestion, advice) ?? []).slice(0, 3);
  return (
    <>
      <h1 className="m-0 mb-2 text-3xl">{headline(advice)}</h1>
      {advice.fault ? <p className="m-0 mb-3 text-lg">{faultWords(advice, view.context.sheet)}</p> : null}
      {decided.map((part) => (
        <section key={part} className="mb-4">
          <h2 className="m-0">{decided.length > 1 ? `${names[part]}: ${oddsWords(oddsOf(advice, part))}` : `What speaks for ${names[part].toLowerCase()}`}</h2>
          {engine.pushes ? null : <p className="text-mute mt-1">Being worked out.</p>}
          <ul className="m-0 list-none p-0">
            {pushing(engine, advice, view, part, 1)
              .slice(0, MOST)
              .map((judgedReading) => (
                <Evidence key={judgedReading.reading.id} judgedReading={judgedReading} jobId={jobId} />
              ))}
          </ul>
        </section>
      ))}
      <BatteryMethods sheet={view.context.sheet} judged={beforeRepair(view.judged)} />
      {advice.otherwise && advice.later.length === 0 ? (
        <p className="rule-left">
          Or {setName(advice.otherwise.set, advice).toLowerCase()} ({oddsWords(advice.otherwise.odds)}).{" "}
          {advice.decision.set === ""
            ? "That is not likely enough to spend money on."
            : `Do ${setName(advice.decision.set, advice).toLowerCase()} first: of the two it costs least on average, what is bought for nothing and what comes back counted in.`}
        </p>
      ) : null}
      {advice.loose ? null : <Bill decision={advice.decision} />}
      {advice.loose ? null : (
        <>
          <h2>Ruled out</h2>
          <RuledOut engine={engine} advice={advice} view={view} />
        </>
      )}
      {advice.loose && turns.length === 0 ? null : (
        <>
          <h2>What would change this</h2>
          {turns.length === 0 ? (
            <p className="mt-1">No single reading that is left would.</p>
          ) : (
            turns.map((turn) => (
              <p key={turn} className="mt-1 mb-0">
                {turn}
              </p>
            ))
          )}
        </>
      )}
    </>
  );
}

function Bill({ decision: { set, bill } }: Pick<Advice, "decision">) {
  if (set === "") return null;
  return (
    <p>
      About <span className="num">{Math.round(bill.money)}</span> in all by the shop's prices, <span className="num">{bill.minutes}</span> min of work among it.
    </p>
  );
}

/** Readings that push a part's odds one way by themselves, the strongest first, each step's strongest only; neither one that was likely misread nor what is faint beside the strongest. */
function pushing({ pushes, weighed }: Engine, { doubts, spent }: Advice, view: JobView, part: Part, way: 1 | -1) {
  const doubted = new Set([...doubts, ...spent].map(({ reading }) => weighed[reading]?.id));
  const push = (id: string): number => (doubted.has(id) ? 0 : way * (pushes?.get(id)?.[part] ?? 0));
  const least = NAMED * Math.max(0, ...view.judged.map(({ reading }) => push(reading.id)));
  const strongest = view.judged
    .filter(({ reading }) => push(reading.id) > 0 && push(reading.id) >= least)
    .sort((a, b) => push(b.reading.id) - push(a.reading.id));
  const steps = strongest.map(({ reading }) => stepKey(reading));
  return strongest.filter((_, i) => steps.indexOf(steps[i] as string) === i);
}

/** Parts that are out of the question, each with the readings that speak most against it. */
export function RuledOut({ engine, advice, view }: { engine: Engine; advice: Advice; view: JobView }) {
  const out = engine.weighed.length > 0 ? PARTS.filter((part) => isListed(advice, part) && oddsOf(advice, part) < OUT) : [];
  if (out.length === 0) return <p className="text-mute mt-1">Nothing yet.</p>;
  const names = partNamesOf(advice);
  const against = (part: Part): string =>
    pushing(engine, advice, view, part, -1)
      .slice(0, 3)
      .map(({ reading, value }) => `${stepTitle(reading)} ${formatQuantity(value, testOf(reading.test).unit)}`)
      .join("; ");
  return (
    <ul className="m-0 list-none p-0">
      {out.map((part) => (
        <li key={part} className="border-hair border-t py-1.5">
          <strong className="text-petrol">{names[part]}</strong>
          {engine.pushes ? `: ${against(part) || "something else explains it all"}` : null}
        </li>
      ))}
    </ul>
  );
}
