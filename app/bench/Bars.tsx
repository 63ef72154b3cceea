import { Link } from "react-router";
import type { Sheet } from "../../core/machine/sheet";
import { repairedName } from "../jobs/repaired";

/** Of a closed job: what can be done with it. */
export function ClosedBar({ id }: { id: number }) {
  return (
    <p className="border-hair m-0 border-b px-5 py-2">
      This job is closed; its readings can be looked at, not changed. <Link to={`/jobs/${id}/verdict`}>Open it again</Link> or{" "}
      <Link to={`/jobs/${id}/report`}>see the report</Link>.
    </p>
  );
}

/** Since a repair the bench goes on with the machine as mended: its readings prove the repair or find what is left. */
export function RepairedBar({ part, sheet }: { part: string; sheet: Sheet }) {
  return (
    <p className="border-hair m-0 border-b px-5 py-2">Repaired: {repairedName(sheet, part).toLowerCase()}. Readings from here on are of the mended machine.</p>
  );
}
