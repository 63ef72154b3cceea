import { Hourglass } from "lucide-react";
import { Link } from "react-router";
import type { Advice } from "../../core/diagnosis/advice";
import type { Suggestion } from "../../core/diagnosis/planning/plan";
import { faultWords, headline, moveWords, reasonFor, standWords } from "../../core/diagnosis/words/words";
import type { Sheet } from "../../core/machine/sheet";
import { perishes } from "../../core/procedure/moves";
import { type Step, stepKey, stepTitle } from "../../core/procedure/step";
import { type LookState, stateToSay } from "./preparation";

/** Readings of one stand that are shown at a time: what a hand keeps in mind. */
const SHOWN = 3;

/** The plan's stands, each with the readings taken there; those worth nothing are left out. */
function standsOf({ next }: Pick<Advice, "next">): Suggestion[][] {
  const stays = new Map<number, Suggestion[]>();
  for (const suggestion of next) stays.set(suggestion.stay, [...(stays.get(suggestion.stay) ?? []), suggestion]);
  return [...stays.values()].map((stay) => {
    const worth = stay.filter(({ pays }) => pays);
    return worth.length > 0 ? worth : stay.slice(0, 1);
  });
}

interface PlanPanelProps {
  advice: Advice;
  sheet: Sheet;
  active: string;
  /** What was entered last is not weighed yet: another plan is on its way. */
  busy: boolean;
  stepLink: (step: Step, state?: LookState) => string;
  /** The address of the job's verdict. */
  verdict: string;
}

/** Where to stand, what to read there in which order, and where to go after that. Leaving it costs nothing. */
export function PlanPanel({ advice, sheet, active, busy, stepLink, verdict }: PlanPanelProps) {
  if (advice.settled) return <Settled says={headline(advice)} what={faultWords(advice, sheet)} verdict={verdict} />;
  const [here, then] = standsOf(advice);
  const [first] = here ?? [];
  if (!here || !first) return null;
  const doing = moveWords(first.moves, sheet);
  const linkOf = (suggestion: Suggestion): string => stepLink(suggestion.step, stateToSay(suggestion, advice.next));
  return (
    <section aria-label="Plan" aria-busy={busy} className="border-copper mb-3 border-l-4 pl-3">
      <p className="m-0 font-semibold">{standWords(first, sheet)}</p>
      {doing.length > 0 ? <p className="text-mute m-0 text-[0.95rem] leading-snug">{doing.join(" ")}</p> : null}
      <ol className="m-0 list-none p-0">
        {here.slice(0, SHOWN).map((suggestion, k) => (
          <li key={suggestion.look.key}>
            <a
              href={linkOf(suggestion)}
              data-step=""
              {...(k === 0 ? { "data-advised": "" } : { "data-alternative": "" })}
              aria-current={stepKey(suggestion.step) === active ? "step" : undefined}
              className="flex min-h-8 items-baseline gap-2 py-0.5 no-underline"
            >
              <span className="num text-mute w-4 text-[0.8rem]">{k + 1}</span>
              <span className="flex flex-wrap items-baseline gap-x-2">
                <span className={k === 0 ? "font-medium underline" : ""}>{stepTitle(suggestion.step)}</span>
                {k === 0 ? <span className="key ml-0">a</span> : k === 1 ? <span className="key ml-0">t</span> : null}
                {sheet.loose ? null : <Perishable step={suggestion.step} />}
              </span>
            </a>
            {k === 0 ? <p className="text-mute m-0 pl-6 text-[0.9rem] leading-snug">{reasonFor(suggestion, advice)}</p> : null}
          </li>
        ))}
      </ol>
      {here.length > SHOWN ? <p className="text-mute m-0 pl-6 text-[0.9rem]">and {here.length - SHOWN} more here</p> : null}
      {then?.[0] ? (
        <p className="m-0 mt-1 text-[0.95rem] leading-snug">
          <span className="text-mute">Then</span> {lower(standWords(then[0], sheet))}:{" "}
          <a href={linkOf(then[0])} data-step="" data-alternative="" className="text-petrol underline">
            {lower(stepTitle(then[0].step))}
          </a>
        </p>
      ) : null}
    </section>
  );
}

/** Nothing is worth reading any more: what was found, and the way there. The steps of the list stay open to whoever wants to know more. */
function Settled({ says, what, verdict }: { says: string; what: string; verdict: string }) {
  return (
    <section aria-label="Nothing more to read" className="border-copper mb-3 border-l-4 pl-3">
      <p className="m-0 font-semibold">
        <span className="md:hidden">{says}</span>
        <span className="hidden md:inline">Nothing more has to be read.</span>
      </p>
      {what ? <p className="m-0 md:hidden">{what}</p> : null}
      <p className="m-0">
        <Link to={verdict} data-advised="" className="text-petrol inline-flex min-h-11 items-center underline md:min-h-8">
          To the verdict
        </Link>
        <span className="key">a</span>
      </p>
    </section>
  );
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** A reading that only the present state of the machine allows. */
function Perishable({ step }: { step: Step }) {
  const how = perishes(step.test);
  if (!how) return null;
  const words = how === "rest" ? "only before you turn the key" : "before the engine has run";
  return (
    <span className="text-copper inline-flex items-center gap-1 text-[0.85rem]">
      <Hourglass size={13} aria-hidden="true" /> {words}
    </span>
  );
}
