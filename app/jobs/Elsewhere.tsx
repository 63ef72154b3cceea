import { CloudOff } from "lucide-react";
import { Link, useLocation } from "react-router";
import { useAllSent } from "./outbox";

/** On every page: what was written down for other jobs and is not sent yet, and what was refused there. */
export function ElsewhereWaiting() {
  // Bench, drain search and verdict tell of their own job themselves.
  const [, id] = /^\/jobs\/(\d+)(?:\/(?:verdict|drain))?\/?$/.exec(useLocation().pathname) ?? [];
  const elsewhere = useAllSent().filter((sent) => sent.state !== "kept" && String(sent.jobId) !== id);
  const jobs = [...new Set(elsewhere.map(({ jobId }) => jobId))];
  if (jobs.length === 0) return <p role="status" className="sr-only" />;
  return (
    <p role="status" className="no-print border-copper m-0 flex flex-wrap items-center gap-x-3 border-b-2 px-3 py-1 md:px-5">
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
