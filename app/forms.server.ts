import type { Store } from "../store/store";
import { whyNotWritten } from "../store/trouble";

/** Bounds of a posted form: far above what any of our own pages sends. */
const BOUNDS = { fields: 1000, name: 100, index: 99, value: 2_000_000 } as const;
/** Numbers that a page gives to its forms. */
const FORM_ID = /^[A-Za-z0-9-]{8,64}$/;

/**
 * Reads a posted form. What is read later builds lists out of names such as `legs[2].pin`, so a name may not ask for a long one.
 * @throws a Response with one sentence for what is no form, or larger than any form of ours
 */
export async function formOf(request: Request): Promise<FormData> {
  const form = await request.formData().catch(() => undefined);
  if (!form) throw refusal(400, "That is not a form that can be read. Nothing was changed.");
  let fields = 0;
  for (const [name, value] of form) {
    if (++fields > BOUNDS.fields) throw refusal(413, `A form may hold ${BOUNDS.fields} fields at most. Nothing was changed.`);
    if (name.length > BOUNDS.name) throw refusal(400, `A field's name may hold ${BOUNDS.name} characters at most. Nothing was changed.`);
    const far = [...name.matchAll(/\d+/g)].some(([digits]) => Number(digits) > BOUNDS.index && /[[\].]/.test(name));
    if (far) throw refusal(400, `The field ${name} is beyond the longest list: lists end at ${BOUNDS.index + 1}. Nothing was changed.`);
    if (typeof value === "string" && value.length > BOUNDS.value) throw refusal(413, `The field ${name} is larger than 2 MB. Nothing was changed.`);
  }
  return form;
}

/**
 * The text that a form brings as a file, or as what was pasted beside it.
 * @returns undefined where the file is larger than anything pasted may be
 */
export async function textOf(form: FormData, pasted: string): Promise<string | undefined> {
  const file = form.get("file");
  if (!(file instanceof File) || file.size === 0) return String(form.get(pasted) ?? "");
  return file.size > BOUNDS.value ? undefined : file.text();
}

/** The number that the page gave to a form; undefined where it gave none. */
function formId(form: FormData): string | undefined {
  const id = String(form.get("formId") ?? "");
  return FORM_ID.test(id) ? id : undefined;
}

/**
 * Does what a form asks for once, however often it is sent: pressed twice on a slow line, it answers the second time as it did the first.
 * @param work does it and says which page it leads to; nothing where it refused
 */
export function sendOnce(store: Store, form: FormData, now: string, work: () => string | undefined): Promise<string | undefined> {
  return written(store.once(formId(form), now, work));
}

/** What a page's action writes. @throws a Response (503) that says why where the database does not take it */
export async function written<T>(writing: Promise<T>): Promise<T> {
  try {
    return await writing;
  } catch (error) {
    const why = whyNotWritten(error);
    throw why === undefined ? error : refusal(503, why);
  }
}

/** A refusal in one sentence. */
export const refusal = (status: number, says: string): Response => new Response(says, { status, headers: { "Content-Type": "text/plain; charset=utf-8" } });
