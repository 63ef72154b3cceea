import { Link } from "react-router";
import type { Advice } from "../../core/diagnosis/advice";
import type { Mark } from "../../core/diagnosis/words/marks";
import { isListed, marksOf, oddsOf } from "../../core/diagnosis/words/marks";
import { faultWords, headline, misfitWords, oddsWords, togetherWords, turnWords } from "../../core/diagnosis/words/words";
import { partNamesOf } from "../../core/machine/families/registry";
import { PARTS, type Part } from "../../core/machine/part";
import { testOf } from "../../core/procedure/catalogue";
import type { Reading } from "../../core/procedure/step";
import { type Step, stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import type { Engine } from "../jobs/useEngine";
import type { JobView } from "../jobs/view";
import { MARK_WORDS, MarkSquare } from "../loom/marks";

interface OddsPanelProps {
  engine: Engine;
  advice: Advice;
  view: JobView;
  jobId: number;
  stepLink: (step: Step) => string;
  /** Lays out what each suspect would show. */
  onSuspects: () => void;
}

/** Parts shown in the order of their odds; those that stand alike keep the loom's order. */
function inOrder(advice: Advice): Part[] {
  return PARTS.filter((part) => isListed(advice, part)).sort((a, b) => Math.round(50 * oddsOf(advice, b)) - Math.round(50 * oddsOf(advice, a)));
}

/** How every part stands in odds, what to read next and why, which readings push which way, and what would change it. */
export function OddsPanel({ engine, advice, view, jobId, stepLink, onSuspects }: OddsPanelProps) {
  const names = partNamesOf(advice);
  const marks = marksOf(advice, engine.weighed.length);
  const decided = advice.status === "found" || advice.status === "healthy" || advice.sure.length > 0;
  const flat = advice.parts.find(({ what }) => what === "charge")?.odds ?? 0;
  return (
    <section aria-label="Standing">
      <p className="text-mute m-0 mb-2 flex justify-between text-[0.95rem]">
        <span className="font-semibold">Standing</span>
        <span>
          after {engine.weighed.length} {engine.weighed.length === 1 ? "reading" : "readings"}
          {engine.crossed.size > 0 ? `, ${engine.crossed.size} left out` : ""}
        </span>
      </p>
      <ul className="m-0 list-none p-0">
        {inOrder(advice).map((part) => (
          <PartLine key={part} name={names[part]} mark={marks[part]} odds={oddsOf(advice, part)} />
        ))}
        {flat >= 0.05 ? <PartLine name="Battery only flat" mark={flat > 0.5 ? "suspect" : "unseen"} odds={flat} /> : null}
      </ul>
      <div className="border-hair mt-3 border-t pt-3">
        <p className={`m-0 text-lg leading-snug ${decided ? "font-semibold" : ""}`}>{headline(advice)}</p>
        {advice.fault && (decided || advice.settled) ? <p className="m-0 mt-1">{faultWords(advice, view.context.sheet)}</p> : null}
        <Doubts engine={engine} advice={advice} stepLink={stepLink} />
        <button type="button" className="text-petrol min-h-9 text-left" onClick={onSuspects}>
          What each suspect would show<span className="key">x</span>
        </button>
        <Pushes engine={engine} view={view} stepLink={stepLink} />
        <Turns advice={advice} />
        <Link to={`/jobs/${jobId}/verdict`} className={`btn mt-2 w-full ${decided ? "btn-main" : ""}`}>
          Verdict and proof <span className="key">v</span>
        </Link>
      </div>
    </section>
  );
}

const INK: Record<Mark, string> = {
  unseen: "text-mute",
  cleared: "text-petrol",
  suspect: "text-copper font-semibold",
  condemned: "text-plum font-semibold",
  contradicting: "text-copper font-semibold",
};

function PartLine({ name, mark, odds }: { name: string; mark: Mark; odds: number }) {
  return (
    <li className="grid min-h-8 grid-cols-[30px_1fr_auto_3.2rem] items-center gap-x-1">
      <MarkSquare mark={mark} />
      <span className={mark === "unseen" ? "text-mute" : "font-medium"}>{name}</span>
      <span className={`text-[0.9rem] ${INK[mark]}`}>
        <span className="sr-only">{mark === "unseen" ? "" : `${MARK_WORDS[mark]}, `}</span>
        {oddsWords(odds).split(", ")[1] ?? oddsWords(odds)}
      </span>
      <span className={`num text-right text-[0.85rem] ${INK[mark]}`}>{odds < 0.005 ? "<1" : Math.min(99, Math.round(100 * odds))} %</span>
    </li>
  );
}

const readingWords = ({ test, value }: Reading): string => formatQuantity(value, testOf(test).unit);

function Doubts({ engine, advice, stepLink }: Pick<OddsPanelProps, "engine" | "advice" | "stepLink">) {
  const doubted = (["doubts", "spent"] as const).flatMap((which) =>
    advice[which].flatMap(({ reading, odds }) => {
      const doubtful = engine.weighed[reading];
      return doubtful ? [{ doubtful, odds, repeatable: which === "doubts" }] : [];
    }),
  );
  const together = advice.together.map(({ readings }) => readings.flatMap((reading) => engine.weighed[reading] ?? []));
  if (doubted.length === 0 && together.length === 0) return null;
  return (
    <div className="rule-left mt-2">
      {together.map((readings) => (
        <p key={readings[0]?.id} className="m-0">
          {togetherWords(readings)}
        </p>
      ))}
      {doubted.map(({ doubtful, odds, repeatable }) => (
        <p key={doubtful.id} className="m-0">
          {repeatable ? (
            <a href={stepLink(doubtful)} data-step="">
              Take {stepTitle(doubtful)} again
            </a>
          ) : (
            stepTitle(doubtful)
          )}
          : <span className="num">{readingWords(doubtful)}</span> {misfitWords(engine.weighed.length)} ({oddsWords(odds)})
          {repeatable ? "." : " and is weighed as little as that; the battery has not rested since, so it can't be read again today."}
        </p>
      ))}
    </div>
  );
}

/** The readings that are shown as worth taking, the best first. */
export function shownNext({ next }: Advice): Advice["next"] {
  return next.slice(0, 5);
}

/** How many readings are shown before the rest are folded away. */
const SHOWN = 4;

/** Each reading's own push: for (to the right) and against (to the left) the part it moves most, and the way to leave it out. */
function Pushes({ engine, view, stepLink }: Pick<OddsPanelProps, "engine" | "view" | "stepLink">) {
  const lines = view.judged
    .map(({ reading }) => {
      const pushes = Object.entries(engine.pushes?.get(reading.id) ?? {}).sort((a, b) => Math.abs(b[1]) - Math.abs(a[1])) as [Part, number][];
      return { reading, pushes };
    })
    .filter(({ pushes, reading }) => pushes.length > 0 || engine.crossed.has(reading.id))
    .sort((a, b) => Math.abs(b.pushes[0]?.[1] ?? 0) - Math.abs(a.pushes[0]?.[1] ?? 0));
  if (lines.length === 0) return null;
  const row = ({ reading, pushes }: (typeof lines)[number]) => {
    const out = engine.crossed.has(reading.id);
    return (
      <li key={reading.id} className="border-hair border-t py-1">
        <div className={`flex items-baseline justify-between gap-2 ${out ? "line-through" : ""}`}>
          <a href={stepLink(reading)} data-step="" className="text-mute no-underline">
            {stepTitle(reading)} <span className="num text-ink text-[0.85rem] whitespace-nowrap">{readingWords(reading)}</span>
          </a>
          <button
            type="button"
            className="text-petrol min-h-7 shrink-0 text-[0.85rem]"
            aria-pressed={out}
            aria-label={`${out ? "Count" : "Leave out"} ${stepTitle(reading)}`}
            onClick={() => engine.cross(reading.id)}
          >
            {out ? "count it" : "leave out"}
          </button>
        </div>
        <p className="m-0 flex flex-wrap gap-x-3 text-[0.9rem] leading-snug">
          {pushes.slice(0, 3).map(([part, push]) => (
            <span key={part} className={`whitespace-nowrap ${push > 0 ? "text-copper" : "text-petrol"}`}>
              {push > 0 ? "for" : "against"} {partNamesOf(view.context.sheet)[part].toLowerCase()} <span className="num text-[0.8rem]">{strength(push)}</span>
            </span>
          ))}
        </p>
      </li>
    );
  };
  return (
    <div className="mt-3">
      <p className="text-mute m-0 text-[0.95rem] font-semibold">What each reading says by itself</p>
      <ul className="m-0 list-none p-0">{lines.slice(0, SHOWN).map(row)}</ul>
      {lines.length > SHOWN ? (
        <details>
          <summary className="text-petrol min-h-8 cursor-pointer text-[0.9rem]">{lines.length - SHOWN} more readings</summary>
          <ul className="m-0 list-none p-0">{lines.slice(SHOWN).map(row)}</ul>
        </details>
      ) : null}
    </div>
  );
}

/** A push as the factor it puts on the odds. */
function strength(push: number): string {
  const factor = Math.exp(Math.abs(push));
  return factor >= 100 ? "×100 and more" : `×${factor >= 10 ? Math.round(factor) : factor.toFixed(1)}`;
}

function Turns({ advice }: { advice: Advice }) {
  const turns = advice.next.flatMap((suggestion) => turnWords(suggestion, advice) ?? []).slice(0, 2);
  return (
    <div className="border-hair text-mute mt-3 border-t pt-2">
      <p className="m-0 font-semibold">What would change this</p>
      {turns.length === 0 ? (
        <p className="m-0">No single reading would.</p>
      ) : (
        turns.map((turn) => (
          <p key={turn} className="m-0">
            {turn}
          </p>
        ))
      )}
    </div>
  );
}

/** The engine at work before its first advice: what is being done, how far, and that the fixed order serves meanwhile. */
export function EngineProgress({ engine }: { engine: Engine }) {
  const { stage } = engine;
  if (stage.at === "ready") return null;
  if (stage.at === "failed") {
    return (
      <p role="status" className="rule-left m-0 mb-3">
        The odds cannot be worked out ({stage.why}). The run list goes on working; every reading is judged and kept.
      </p>
    );
  }
  const share = stage.at === "making" ? 1 : stage.of > 0 ? stage.done / stage.of : 0;
  return (
    <div role="status" className="mb-3">
      <p className="text-mute m-0 text-[0.95rem]">
        {stage.at === "making" ? "Working out the odds." : `Drawing this machine's charts${stage.of > 0 ? `, ${stage.done} of ${stage.of}` : ""}.`} The run list
        serves meanwhile.
      </p>
      <div className="border-hair mt-1 h-2 border" aria-hidden="true">
        <div className="bg-petrol h-full" style={{ width: `${Math.round(100 * share)}%` }} />
      </div>
    </div>
  );
}
