import { parse } from "node-html-parser";
import { z } from "zod";
import { entrySchema } from "../../app/jobs/keep.server";
import { sheetSchema } from "../../core/machine/sheet";
import { CATALOGUE } from "../../core/procedure/catalogue";
import { stepKey, stepsOf } from "../../core/procedure/step";
import { DEMO_SHEETS } from "../../demo/sheets";
import { caseJsonSchema } from "../../formats/case";
import type { Chance } from "../diagnosis/chance";
import { NASTY, sampleOf, spoilt } from "./samples";

/** One request as it goes out. */
export interface Shot {
  method: string;
  path: string;
  headers: Record<string, string>;
  body?: string | Buffer;
}

/** The forms that the pages themselves have, by the page they stand on: found anew, so that none is forgotten. */
export type Forms = ReadonlyMap<string, readonly Form[]>;

interface Form {
  action: string;
  fields: { name: string; values: string[] }[];
}

const JOBS = 14;
const PAGES = ["/", "/jobs/new", "/jobs/import", "/machines", "/machines/new", "/rig", "/traces", "/settings", "/sign-in", "/sign-out", "/theme", "/nowhere"];
const OF_JOB = ["", "/verdict", "/report", "/case.json", "/advice", "/predictions", "/entries"];
const IDS = ["0", "-1", "1e3", "99999999999999", "999999999999999999999", "x", "%00", "%2e%2e", "1%2f2", "é", "__proto__", "a".repeat(3000)];
const QUERIES = [
  "",
  "?stretch=2",
  "?stretch=-1",
  "?stretch=1e9",
  "?step=battery.rest",
  "?step=%F0%9F",
  "?step=a~b~c~d~e",
  "?mended=stator+battery",
  "?mended=horn",
  "?odd",
  "?_routes=root",
  "?index",
  `?q=${"y".repeat(3000)}`,
];
const ENTRY = z.toJSONSchema(entrySchema, { io: "input" }) as object;
const SHEET = z.toJSONSchema(sheetSchema, { io: "input" }) as object;
const CASE = caseJsonSchema();
const SHEETS = DEMO_SHEETS.map(({ id }) => id);
const SAME = { "Sec-Fetch-Site": "same-origin" };

/** Reads the forms off a page. */
export function formsOn(html: string): Form[] {
  return parse(html)
    .querySelectorAll("form")
    .map((form) => {
      const fields = new Map<string, string[]>();
      for (const field of form.querySelectorAll("input,select,textarea,button")) {
        const name = field.getAttribute("name");
        if (!name) continue;
        const options = field.querySelectorAll("option").map((option) => option.getAttribute("value") ?? option.text);
        fields.set(name, [...(fields.get(name) ?? []), ...(options.length > 0 ? options : [field.getAttribute("value") ?? ""])]);
      }
      return { action: form.getAttribute("action") ?? "", fields: [...fields].map(([name, values]) => ({ name, values })) };
    });
}

/** Pages whose forms are worth sending. */
export const FORM_PAGES: readonly string[] = [
  "/jobs/new",
  "/jobs/import",
  "/machines/new",
  "/settings",
  ...SHEETS.slice(0, 3).map((id) => `/machines/${id}/edit`),
  ...Array.from({ length: JOBS }, (_, k) => [`/jobs/${k + 1}`, `/jobs/${k + 1}/verdict`]).flat(),
];

/** Draws one request: a page, an entry, a form, or something that is none. */
export function draw(chance: Chance, forms: Forms): Shot {
  return chance.weighted<() => Shot>([
    [() => look(chance), 4],
    [() => entry(chance), 4],
    [() => form(chance, forms), 5],
    [() => file(chance), 1],
    [() => odd(chance), 1.5],
  ])();
}

const jobPath = (chance: Chance): string => `/jobs/${chance.yes(0.85) ? Math.ceil(chance.between(0, JOBS + 3)) : chance.pick(IDS)}`;

function look(chance: Chance): Shot {
  const path = chance.weighted<() => string>([
    [() => chance.pick(PAGES), 3],
    [() => jobPath(chance) + chance.pick(OF_JOB), 4],
    [() => `/machines/${chance.yes(0.7) ? chance.pick(SHEETS) : chance.pick(IDS)}${chance.pick(["", "/edit"])}`, 2],
    [() => `/backups/${chance.pick(IDS)}`, 0.5],
  ])();
  const data = chance.yes(0.3) ? (path === "/" ? "_root.data" : ".data") : "";
  return {
    method: chance.yes(0.9) ? "GET" : "HEAD",
    path: path + data + chance.pick(QUERIES),
    headers: { Accept: chance.pick(["text/html", "*/*", "application/json"]) },
  };
}

/** A reading that fits a demo machine, so that what is kept is not only what any schema lets through. */
function reading(chance: Chance): object {
  const sheet = chance.pick(DEMO_SHEETS);
  const step = chance.pick(CATALOGUE.flatMap((test) => stepsOf(test, sheet)));
  const id = Array.from({ length: 12 }, () => Math.floor(chance.between(0, 36)).toString(36)).join("");
  const value = chance.weighted([
    [chance.between(0, 20), 6],
    ["OL", 1],
    [chance.pick(NASTY), 1],
  ] as const);
  return { kind: "reading", reading: { ...step, id, value, takenAt: new Date().toISOString() } };
}

function entry(chance: Chance): Shot {
  const whole = chance.yes(0.5) ? reading(chance) : sampleOf(ENTRY, chance);
  const body = JSON.stringify(chance.yes(0.4) ? spoilt(whole, chance) : whole);
  return { method: "POST", path: `${jobPath(chance)}/entries`, headers: { ...SAME, "Content-Type": "application/json" }, body };
}

function form(chance: Chance, forms: Forms): Shot {
  const [page, on] = chance.pick([...forms]);
  const { action, fields } = chance.pick(on);
  const body = new URLSearchParams();
  for (const { name, values } of fields) {
    if (chance.yes(0.1)) continue;
    body.append(name, chance.yes(0.7) ? chance.pick(values) : textOf(chance.yes(0.5) ? chance.between(-10, 6000) : chance.pick(NASTY)));
  }
  if (page.endsWith("/import")) body.set("pasted", JSON.stringify(caseOf(chance)));
  if (chance.yes(0.15))
    body.append(
      chance.pick([`legs[${Math.floor(chance.between(0, 2e5))}].id`, "bands[0].low", "__proto__[x]", "intent", "a".repeat(chance.yes(0.5) ? 50 : 500)]),
      textOf(chance.pick(NASTY)),
    );
  if (chance.yes(0.3) && page.includes("/jobs/")) body.set("step", stepKey(chance.pick(CATALOGUE.flatMap((test) => stepsOf(test, chance.pick(DEMO_SHEETS))))));
  return {
    method: "POST",
    path: (action || page) + (chance.yes(0.3) ? ".data" : ""),
    headers: { ...SAME, "Content-Type": "application/x-www-form-urlencoded" },
    body: body.toString(),
  };
}

const textOf = (value: unknown): string => (typeof value === "string" ? value : JSON.stringify(value));

function caseOf(chance: Chance): unknown {
  const machine = chance.yes(0.6) ? { sheet: chance.pick(SHEETS) } : { inline: chance.yes(0.5) ? chance.pick(DEMO_SHEETS) : sampleOf(SHEET, chance) };
  const whole = { ...(sampleOf(CASE, chance) as object), uvrelCase: 1, machine };
  return chance.yes(0.6) ? spoilt(whole, chance) : whole;
}

/** A file that is uploaded, its envelope whole or torn. */
function file(chance: Chance): Shot {
  const boundary = "uvrelBoundary7";
  const text = chance.weighted<() => string>([
    [() => JSON.stringify(caseOf(chance)), 4],
    [() => "[".repeat(20_000) + "]".repeat(20_000), 1],
    [() => '{"a":'.repeat(20_000), 1],
    [() => "\u0000\u0001not a case", 1],
    [() => `{"uvrelCase":1,"machine":{"sheet":"${SHEETS[0]}"},"readings":[${'{"test":"battery.rest","value":12.6},'.repeat(3000)}`, 0.3],
  ])();
  const body = `--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="${chance.pick(["case.json", "..\\x", 'a";b'])}"\r\nContent-Type: application/json\r\n\r\n${text}\r\n--${boundary}--\r\n`;
  const torn = chance.yes(0.4) ? body.slice(0, Math.floor(chance.between(1, body.length))) : body;
  return {
    method: "POST",
    path: "/jobs/import",
    headers: { ...SAME, "Content-Type": `multipart/form-data; boundary=${chance.yes(0.85) ? boundary : chance.pick(["", "x".repeat(200), '"'])}` },
    body: torn,
  };
}

/** What no page of ours sends. */
function odd(chance: Chance): Shot {
  return chance.pick<() => Shot>([
    () => ({ method: "OPTIONS", path: "*", headers: {} }),
    () => ({ method: "GET", path: "http://elsewhere.invalid/", headers: {} }),
    () => ({ method: "GET", path: "//elsewhere.invalid/%2f", headers: {} }),
    () => ({ method: chance.pick(["PUT", "DELETE", "PATCH", "TRACE", "PROPFIND"]), path: jobPath(chance), headers: SAME, body: "x" }),
    () => ({
      method: "GET",
      path: "/",
      headers: { Host: chance.pick(["", "elsewhere.invalid", "LOCALHOST", "127.0.0.2", "[::1]", "a b", "127.0.0.1:99999"]) },
    }),
    () => ({
      method: "POST",
      path: "/theme",
      headers: { ...SAME, "Content-Type": "application/x-www-form-urlencoded" },
      body: `theme=dark&back=${chance.pick(["//x.invalid", "/a%0d%0aSet-Cookie:x=1", "/\\\\x", "javascript:alert(1)", "/jobs/1"])}`,
    }),
    () => ({
      method: "POST",
      path: `${jobPath(chance)}/entries`,
      headers: { ...SAME, "Content-Type": chance.pick(["text/plain", "application/xml", "", "application/json; charset=utf-7"]) },
      body: "[".repeat(20_000),
    }),
    () => ({
      method: "POST",
      path: `${jobPath(chance)}/entries`,
      headers: { ...SAME, "Content-Type": "application/json" },
      body: `${'{"a":'.repeat(20_000)}1${"}".repeat(20_000)}`,
    }),
    () => ({
      method: "POST",
      path: `${jobPath(chance)}/entries`,
      headers: { ...SAME, "Content-Type": "application/json" },
      body: `{${Array.from({ length: 50_000 }, (_, k) => `"k${k}":1`).join(",")}}`,
    }),
    () => ({
      method: "POST",
      path: "/settings",
      headers: { ...SAME, "Content-Type": "application/x-www-form-urlencoded" },
      body: Array.from({ length: 5000 }, (_, k) => `f${k}=1`).join("&"),
    }),
    () => ({
      method: "POST",
      path: `/machines/${SHEETS[0]}/edit`,
      headers: { ...SAME, "Content-Type": "application/x-www-form-urlencoded" },
      body: "legs[99999].id=x",
    }),
    () => ({
      method: "POST",
      path: "/settings",
      headers: { "Sec-Fetch-Site": "cross-site", "Content-Type": "application/x-www-form-urlencoded" },
      body: "intent=shop",
    }),
    () => ({ method: "GET", path: "/", headers: { Cookie: `theme=${"d".repeat(5000)}; uvrel-session=%%%` } }),
  ])();
}
