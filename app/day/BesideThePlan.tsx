import { format } from "date-fns";
import { Form, Link } from "react-router";
import { FormId } from "../unsent";
import type { Day } from "./day.server";

/** What stands beside the plan: waiting for nobody knows how long, no longer fitting in, left out or set for a time by hand. */
export function BesideThePlan({ day: { day, machines, plan } }: { day: Day }) {
  const unknown = machines.filter(({ wait, dropped }) => wait && wait.until === undefined && !dropped);
  const onTheLine = new Set(plan.stretches.filter(({ mechanic }) => mechanic !== undefined).map(({ jobId }) => jobId));
  const byHand = machines.filter(({ id, dropped, pinned }) => dropped || (pinned && !onTheLine.has(id)));
  const tomorrow = machines.filter(({ id }) => plan.tomorrow.includes(id));
  const named = (list: Day["machines"]) =>
    list.map(({ id, name }, k) => (
      <span key={id}>
        {k > 0 ? ", " : ""}
        <Link to={`/jobs/${id}`}>{name}</Link>
      </span>
    ));
  return (
    <>
      {unknown.length > 0 ? (
        <p className="mt-5 mb-0">
          <span className="text-mute">Waiting, and nobody has said until when:</span> {named(unknown)}
        </p>
      ) : null}
      {tomorrow.length > 0 ? (
        <p className="mt-2 mb-0">
          <span className="text-mute">No longer fits into the day:</span> {named(tomorrow)}
        </p>
      ) : null}
      {byHand.map((machine) => (
        <Form key={machine.id} method="post" className="mt-2 flex flex-wrap items-center gap-x-3" preventScrollReset>
          <FormId />
          <input type="hidden" name="job" value={machine.id} />
          <input type="hidden" name="day" value={day} />
          <span suppressHydrationWarning>
            <span className="text-mute">{machine.pinned ? `Set by hand for ${format(new Date(machine.pinned), "HH:mm")}:` : "Left out of the day:"}</span>{" "}
            {named([machine])}
          </span>
          <button type="submit" name="intent" value="free" className="text-petrol min-h-11 underline">
            {machine.pinned ? "let the plan choose" : "plan it again"}
          </button>
        </Form>
      ))}
    </>
  );
}
