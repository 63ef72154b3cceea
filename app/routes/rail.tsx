import { formatDistanceToNowStrict } from "date-fns";
import { Plus } from "lucide-react";
import { useEffect } from "react";
import { Link, useFetcher, useRevalidator } from "react-router";
import { complaintWords } from "../../core/procedure/complaints";
import type { Job } from "../../store/rows";
import { backupMissed } from "../backupWatch.server";
import { waitWords } from "../bench/WaitStrip";
import { storeContext } from "../context";
import type { Day } from "../day/day.server";
import { dueOf, useReminders } from "../day/useReminders";
import { shopKnowing } from "../jobs/file.server";
import { ofMachine } from "../jobs/ofMachine";
import { railTagsOf } from "../jobs/railTag.server";
import { useTagsToCome } from "../jobs/useTagsToCome";
import { MiniLoom } from "../loom/MiniLoom";
import { stretchOf } from "../params.server";
import { TopBar } from "../ui/TopBar";
import type { Route } from "./+types/rail";

/** Tags on one stretch of the rail. */
const PER_PAGE = 24;
const CLOSED_SHOWN = 6;

export function loader({ context, request }: Route.LoaderArgs) {
  const store = context.get(storeContext);
  const open = store.jobs.countOpen();
  const stretches = Math.max(1, Math.ceil(open / PER_PAGE));
  const stretch = Math.min(stretches, stretchOf(request));
  const listed = store.jobs.listOpen(PER_PAGE, (stretch - 1) * PER_PAGE);
  const tags = railTagsOf(store, listed, () => shopKnowing(store));
  const jobs = listed.map((job, k) => ({
    job: brief(job),
    sheet: { family: job.sheet.family, legs: job.sheet.legs, groundWire: job.sheet.groundWire },
    tag: tags[k],
  }));
  return {
    backupMissed: backupMissed(context),
    shop: store.workshop.shop().name,
    jobs,
    closed: store.jobs.listClosed(CLOSED_SHOWN).map(brief),
    open,
    stretch,
    stretches,
  };
}

function brief({ id, unitTag, nickname, sheet, words, complaint, openedAt, closedAt, ending }: Job) {
  return {
    id,
    unitTag,
    nickname,
    machine: ofMachine(sheet),
    words: words || complaintWords(complaint).join(", "),
    openedAt,
    closedAt,
    ending,
  };
}

const ENDINGS = {
  proven: "repaired and proven",
  healthy: "nothing failed",
  "plain-cause": "plain cause",
  unproven: "closed without proof",
} as const;

export default function Rail({ loaderData }: Route.ComponentProps) {
  const { backupMissed: missed, shop, jobs, closed, open, stretch, stretches } = loaderData;
  useTagsToCome(jobs.some(({ tag }) => !tag));
  const { revalidate } = useRevalidator();
  const said = useReminders(
    jobs.flatMap(({ job, tag }) => dueOf(job.id, job.nickname, tag?.wait)),
    () => void revalidate(),
  );
  return (
    <>
      <title>Bay rail · Uvrel</title>
      <TopBar />
      <main className="px-4 py-4 md:px-6">
        <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
          <div>
            <h1 className="m-0">{shop}</h1>
            <p className="text-mute m-0">{open === 0 ? "No machine is waiting." : `${open} ${open === 1 ? "machine" : "machines"} on the rail`}</p>
          </div>
          <Link to="/jobs/new" className="btn btn-main">
            <Plus size={18} aria-hidden="true" /> Take in a machine
          </Link>
        </div>
        {said.map((sentence) => (
          <p key={sentence} role="status" className="rule-left mt-0 mb-3 text-lg">
            {sentence}
          </p>
        ))}
        {missed ? (
          <p role="alert" className="rule-left mt-0 mb-4">
            {missed} <Link to="/settings">To the backups</Link>
          </p>
        ) : null}
        {jobs.length > 0 ? <TurnNext /> : null}
        {jobs.length === 0 ? (
          <p className="rule-left max-w-xl text-lg">The rail is empty. Take in a machine, or open a case file from another workshop.</p>
        ) : (
          <ol className="border-ink relative m-0 grid list-none grid-cols-1 gap-x-5 gap-y-8 border-t-[3px] p-0 pt-5 sm:grid-cols-2 lg:grid-cols-3 xl:grid-cols-4">
            {jobs.map((job) => (
              <RepairTag key={job.job.id} {...job} />
            ))}
          </ol>
        )}
        {stretches > 1 ? (
          <nav aria-label="Stretches of the rail" className="mt-6 flex items-center gap-4">
            {stretch > 1 ? <Link to={`/?stretch=${stretch - 1}`}>Longer waiting</Link> : null}
            <span className="text-mute">
              stretch {stretch} of {stretches}
            </span>
            {stretch < stretches ? <Link to={`/?stretch=${stretch + 1}`}>Came in later</Link> : null}
          </nav>
        ) : null}
        <section className="mt-10 max-w-4xl">
          <h2>Off the rail</h2>
          {closed.length === 0 ? <p className="text-mute">No job has been closed yet.</p> : null}
          <ul className="m-0 list-none p-0">
            {closed.map((job) => (
              <li key={job.id} className="border-hair flex flex-wrap items-baseline gap-x-5 border-t py-2">
                <Link to={`/jobs/${job.id}/report`} className="font-medium">
                  {job.unitTag ?? "No tag"} “{job.nickname}”
                </Link>
                <span className="text-mute">{job.machine}</span>
                <span className="text-mute min-w-0 flex-1 truncate">{job.words}</span>
                <span>{job.ending ? ENDINGS[job.ending] : ""}</span>
              </li>
            ))}
          </ul>
          <p>
            <Link to="/jobs/import">Open a case file</Link>
          </p>
        </section>
      </main>
    </>
  );
}

type TagProps = Route.ComponentProps["loaderData"]["jobs"][number];

/** Which machine the day's plan turns to next; asked for once the rail stands, so that it waits for no plan. */
function TurnNext() {
  const { load, data: day } = useFetcher<Day>();
  useEffect(() => void load("/day"), [load]);
  const [next] = day?.plan.stretches.filter(({ mechanic }) => mechanic !== undefined) ?? [];
  const machine = day?.machines.find(({ id }) => id === next?.jobId);
  return (
    <p className="m-0 mb-4 min-h-7 text-lg">
      {next && machine ? (
        <>
          {day?.isToday ? "Turn to" : "Tomorrow first:"} <strong className="font-semibold">{machine.name}</strong>
          {next.why ? `: ${next.why}` : ""}. <Link to="/day">The day's plan</Link>
        </>
      ) : null}
    </p>
  );
}

/** What is shown of a job until its tag is drawn. */
const UNDRAWN = { marks: {}, repaired: false, minutes: 0 };

/** What is to be done with a job, or what is known of it. */
function doingOf(tag: TagProps["tag"]): string {
  if (!tag) return "Being worked out";
  if (tag.wait) return waitWords(tag.wait, Date.now());
  if (tag.repaired) return "Prove the repair";
  if (tag.headline) return tag.headline;
  if (tag.next) return `Next: ${tag.next}`;
  return tag.ready ? "Nothing more is worth reading" : "Open it for its odds";
}

/** One job on the rail: a tag on its string, with the small loom and the next thing to do. */
function RepairTag({ job, sheet, tag }: TagProps) {
  const { marks, repaired, minutes } = tag ?? UNDRAWN;
  return (
    <li className="relative">
      <span aria-hidden="true" className="bg-ink absolute -top-5 left-6 h-6 w-[2px]" />
      <Link
        to={repaired ? `/jobs/${job.id}/verdict` : `/jobs/${job.id}`}
        className="border-ink bg-sheet relative flex h-full flex-col gap-2 border p-4 pt-5 no-underline [clip-path:polygon(18px_0,100%_0,100%_100%,0_100%,0_18px)]"
      >
        <span aria-hidden="true" className="border-ink bg-paper absolute top-2 left-5 size-3 rounded-full border-2" />
        <span className="flex items-baseline justify-between gap-2 pl-6">
          <span className="truncate text-xl font-semibold">{job.nickname}</span>
          <span className="num text-sm whitespace-nowrap">{job.unitTag ?? "no tag"}</span>
        </span>
        <span className="text-mute">{job.machine}</span>
        <MiniLoom sheet={sheet} marks={marks} id={`job-${job.id}`} />
        <span className="line-clamp-2 italic">“{job.words || "No words taken down"}”</span>
        <span className="border-hair mt-auto border-t pt-2 font-medium" suppressHydrationWarning>
          {doingOf(tag)}
        </span>
        <span className="text-mute flex justify-between text-[0.95rem]">
          <span suppressHydrationWarning>here {formatDistanceToNowStrict(job.openedAt)}</span>
          <span>
            <span className="num">{minutes}</span> min of testing
          </span>
        </span>
      </Link>
    </li>
  );
}
