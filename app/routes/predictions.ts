import { createHash } from "node:crypto";
import { z } from "zod";
import { looksOf } from "../../core/diagnosis/planning/candidates";
import { type Look, lookOfReading } from "../../core/diagnosis/population/look";
import { PARTS } from "../../core/machine/part";
import { predictionsKey } from "../../store/predictions";
import { officeContext } from "../context";
import { jobFileOf } from "../jobs/file.server";
import { inTime } from "../patience.server";
import type { Route } from "./+types/predictions";

const mendedSchema = z.array(z.enum(PARTS)).max(PARTS.length);

/**
 * What a job's machine would show, packed for the page's own engine: at every look that can be wanted with some parts mended
 * (`?mended=stator+battery`), or, with `?odd`, at those of the job's readings that were taken in some other way.
 */
export async function loader({ context, params, request }: Route.LoaderArgs): Promise<Response> {
  const { file } = jobFileOf(context, params.id);
  const office = context.get(officeContext);
  const asked = new URL(request.url).searchParams;
  const mended = mendedSchema.safeParse(asked.get("mended")?.split(" ").filter(Boolean) ?? []);
  if (!mended.success) return Response.json({ state: "failed", why: `mended: must be parts out of ${PARTS.join(", ")}, joined by +.` }, { status: 400 });
  const drawing = office.ask(file.job.sheet);
  if (drawing.state !== "ready") return Response.json(drawing, { status: drawing.state === "failed" ? 500 : 202 });
  const looks = asked.has("odd") ? oddLooks(file) : undefined;
  if (looks?.length === 0) return new Response(null, { status: 204 });
  const key = looks
    ? createHash("sha256")
        .update(looks.map((look) => look.key).join("\n"))
        .digest("hex")
    : "";
  const tag = `"${predictionsKey(file.job.sheet, file.job.ambientC, mended.data)}${key}"`;
  const headers = { ETag: tag, "Cache-Control": "private, no-cache", "Content-Type": "application/gzip" };
  if (request.headers.get("If-None-Match") === tag) return new Response(null, { status: 304, headers });
  const pack = await inTime(office.predictions(file.job, looks ? { looks } : { mended: mended.data }));
  if (!pack) return Response.json({ state: "drawing", done: 0, of: 0 }, { status: 202 });
  return new Response(Uint8Array.from(pack), { headers });
}

/** Looks of a job's readings that no pack of the usual ones holds: another speed, another rest, another load. */
function oddLooks({ job, history }: ReturnType<typeof jobFileOf>["file"]): Look[] {
  const usual = new Map<string, Set<string>>();
  const looks = new Map<string, Look>();
  for (const reading of history) {
    const look = lookOfReading(reading, job.sheet)?.look;
    if (!look) continue;
    const state = look.mended.join();
    const known = usual.get(state) ?? new Set(looksOf(job.sheet, look.mended).map(({ key }) => key));
    usual.set(state, known);
    if (!known.has(look.key)) looks.set(look.key, look);
  }
  return [...looks.values()];
}
