import { Hourglass } from "lucide-react";
import { Link } from "react-router";

/** Shown on the bench beside a drain reading: the way into the loop. */
export function ToDrainLoop({ jobId }: { jobId: number }) {
  return (
    <p className="m-0">
      <Link to={`/jobs/${jobId}/drain`} className="text-petrol inline-flex min-h-11 items-center gap-2">
        <Hourglass size={17} aria-hidden="true" /> Search the drain as one loop, meter in series throughout
      </Link>
    </p>
  );
}
