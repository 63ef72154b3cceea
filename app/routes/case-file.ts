import { writeCase } from "../../formats/case";
import { current } from "../../store/readings";
import { jobFileOf } from "../jobs/file.server";
import { withMended } from "../jobs/mended";
import type { Route } from "./+types/case-file";

/** The job as a case file, for `uvrel diagnose`, another workshop, or the drawer. */
export function loader({ context, params }: Route.LoaderArgs) {
  const { store, file } = jobFileOf(context, params.id);
  const { job, history, repairs } = file;
  const { sheet, ambientC, complaint, words, batteryAgeYears, meter, school } = job;
  const readings = withMended(current(history), repairs).map(
    ({ supersedes: _s, supersedesWhy: _w, supersededBy: _b, repairs: _r, by: _by, ...reading }) => reading,
  );
  const body = writeCase({ sheet, ambientC, complaint, words, batteryAgeYears, meter, tools: store.workshop.shop().tools, school, readings });
  return new Response(body, {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Content-Disposition": `attachment; filename="uvrel-case-${job.id}.json"`,
      "Cache-Control": "no-store",
    },
  });
}
