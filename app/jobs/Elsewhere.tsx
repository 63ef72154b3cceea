import { CloudOff } from "lucide-react";
import { Link, useLocation } from "react-router";
import { useAllSent } from "./outbox";

/** A job's own pages have their keys at the lower end and tell of their own job themselves. */
const OF_A_JOB = /^\/jobs\/(\d+)(?:\/(?:verdict|drain))?\/?$/;

/**
 * On every page: what was written down for other jobs and is not sent yet, and what was refused there. It stands at the lower end, so that
 * nothing moves from under a finger when the line comes or goes; on a job's pages at the upper.
 */
export function ElsewhereWaiting({ at }: { at: "upper" | "lower" }) {
  const [, id] = OF_A_JOB.exec(useLocation().pathname) ?? [];
  const elsewhere = useAllSent().filter((sent) => sent.state !== "kept" && String(sent.jobId) !== id);
  if ((id === undefined) !== (at === "lower")) return null;
  const jobs = [...new Set(elsewhere.map(({ jobId }) => jobId))];
  if (jobs.length === 0) return <p role="status" className="sr-only" />;
  return (
    <p
      role="status"
      className={`no-print border-copper bg-paper m-0 flex flex-wrap items-center gap-x-3 px-3 py-1 md:px-5 ${at === "lower" ? "sticky bottom-0 z-20 border-t-2" : "border-b-2"}`}
    >
      <CloudOff size={17} aria-hidden="true" />
      {jobs.map((job) => {
        const [waiting, refused] = ["waiting", "refused"].map((state) => elsewhere.filter((sent) => sent.jobId === job && sent.state === state).length);
        const counts = [waiting ? `${waiting} not yet sent` : "", refused ? `${refused} not kept` : ""].filter(Boolean).join(", ");
        return (
          <Link key={job} to={`/jobs/${job}`} className="text-petrol flex min-h-9 items-center">
            {elsewhere.find(({ jobId }) => jobId === job)?.tag}: {counts}
          </Link>
        );
      })}
    </p>
  );
}
