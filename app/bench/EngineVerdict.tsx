import type { Advice } from "../../core/diagnosis/advice";
import { remediesOf } from "../../core/diagnosis/hypotheses";
import { oddsOf } from "../../core/diagnosis/marks";
import { billOf, type Prices } from "../../core/diagnosis/prices";
import { decidedFault, headline, oddsWords, setName, turnWords, whereWords } from "../../core/diagnosis/words";
import { faultOf } from "../../core/machine/faults";
import { PART_NAMES, PARTS, type Part } from "../../core/machine/part";
import { testOf } from "../../core/procedure/catalogue";
import { stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import type { Engine } from "../jobs/useEngine";
import type { JobView } from "../jobs/view";
import { Evidence } from "./Evidence";

/** A part counts as ruled out below these odds. */
const OUT = 0.02;
/** Readings shown for a part. */
const MOST = 4;

/** The verdict by the odds: which part, how surely, where, by which readings, what was ruled out, what it costs. */
export function EngineVerdict({ engine, advice, view, jobId, prices }: { engine: Engine; advice: Advice; view: JobView; jobId: number; prices: Prices }) {
  const decided = remediesOf(advice.decision.set).filter((one): one is Part => one !== "charge");
  const where = whereWords(advice, view.context.sheet);
  const fault = decidedFault(advice);
  const pushing = (part: Part, way: 1 | -1) =>
    view.judged
      .filter((one) => way * (engine.pushes.get(one.reading.id)?.[part] ?? 0) > 0)
      .sort((a, b) => way * ((engine.pushes.get(b.reading.id)?.[part] ?? 0) - (engine.pushes.get(a.reading.id)?.[part] ?? 0)));
  const out = engine.weighed.length > 0 ? PARTS.filter((part) => oddsOf(advice, part) < OUT) : [];
  const turns = advice.next.flatMap((one) => turnWords(one) ?? []).slice(0, 3);
  return (
    <>
      <h1 className="m-0 mb-2 text-3xl">{headline(advice)}</h1>
      {fault ? (
        <p className="m-0 mb-3 text-lg">
          {faultOf(fault).title}
          {where ? `: ${where}` : ""}.
        </p>
      ) : null}
      {decided.map((part) => (
        <section key={part} className="mb-4">
          <h2 className="m-0">
            {PART_NAMES[part]}: {oddsWords(oddsOf(advice, part))}
          </h2>
          <ul className="m-0 list-none p-0">
            {pushing(part, 1)
              .slice(0, MOST)
              .map((one) => (
                <Evidence key={one.reading.id} one={one} jobId={jobId} />
              ))}
          </ul>
        </section>
      ))}
      {advice.otherwise ? (
        <p className="rule-left">
          Or {setName(advice.otherwise.set).toLowerCase()} ({oddsWords(advice.otherwise.odds)}). Do {setName(advice.decision.set).toLowerCase()} first: of the
          two it costs least on average, what is bought for nothing and what comes back counted in.
        </p>
      ) : null}
      <Bill set={advice.decision.set} prices={prices} />
      <h2>Ruled out</h2>
      {out.length === 0 ? <p className="text-mute mt-1">Nothing yet.</p> : null}
      <ul className="m-0 list-none p-0">
        {out.map((part) => (
          <li key={part} className="border-hair border-t py-1.5">
            <strong className="text-petrol">{PART_NAMES[part]}:</strong>{" "}
            {pushing(part, -1)
              .slice(0, 3)
              .map(({ reading, value }) => `${stepTitle(reading)} ${formatQuantity(value, testOf(reading.test).unit)}`)
              .join("; ") || "something else explains it all"}
          </li>
        ))}
      </ul>
      <h2>What would change this</h2>
      {turns.length === 0 ? (
        <p className="mt-1">No single reading that is left would.</p>
      ) : (
        turns.map((one) => (
          <p key={one} className="mt-1 mb-0">
            {one}
          </p>
        ))
      )}
    </>
  );
}

function Bill({ set, prices }: { set: string; prices: Prices }) {
  if (set === "") return null;
  const { money, minutes } = billOf(set, prices);
  return (
    <p>
      About <span className="num">{Math.round(money)}</span> in all by the shop's prices, <span className="num">{minutes}</span> min of work among it.
    </p>
  );
}
