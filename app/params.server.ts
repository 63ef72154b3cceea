import { z } from "zod";

/** What an address may carry, checked before anything is looked up. */

const jobId = z
  .string()
  .regex(/^\d{1,15}$/)
  .transform(Number);
const sheetId = z.string().regex(/^[a-z0-9-]{1,60}$/);
const stretch = z.coerce.number().int().min(1).max(1_000_000).catch(1);

/** The job an address names; undefined when it cannot be one. */
export function jobIdOf(param: string | undefined): number | undefined {
  return jobId.safeParse(param).data;
}

/** The sheet an address names; undefined when it cannot be one. */
export function sheetIdOf(param: string | undefined): string | undefined {
  return sheetId.safeParse(param).data;
}

/** Which stretch of the rail is asked for; the first where the address is unclear. */
export function stretchOf(request: Request): number {
  return stretch.parse(new URL(request.url).searchParams.get("stretch") ?? 1);
}
