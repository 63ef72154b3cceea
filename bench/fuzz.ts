import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { request as httpRequest } from "node:http";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { MIGRATIONS } from "../store/migrations";
import { openDatabase } from "../store/open";
import { Store } from "../store/store";
import { Chance } from "./diagnosis/chance";
import { writeBlock } from "./document";
import { draw, FORM_PAGES, type Forms, formsOn, type Shot } from "./fuzz/requests";

/**
 * Sends seeded requests of every kind to a built server of its own, and looks after each whether the server held on to its thread or
 * its memory, answered with something that it does not state, or wrote anything of what it refused.
 *
 *     node build/tools/fuzz.js [requests] [seed]
 */

/** A request may keep the main thread for so long, ms, and leave so much behind, MB. */
const MOST = { ranMs: 100, megabytes: 50 } as const;
/** A server that has not answered by then hangs, ms. */
const HANGS = 20_000;
/** Pages asked for before anything counts: the first of each kind is compiled while it is drawn. */
const WARM_UP = 300;
/** From here on the figures are worth writing down. */
const DOCUMENTED = 50_000;

const count = Number(process.argv[2] ?? 100_000);
const seed = Number(process.argv[3] ?? 1);
const data = mkdtempSync(join(tmpdir(), "uvrel-fuzz-"));
const env = { ...process.env, UVREL_DATA: data, PORT: "0", NODE_ENV: "production", LOG_LEVEL: "silent" };
if (spawnSync("node", ["build/tools/seed.js"], { env }).status !== 0) throw new Error("the demo workshop could not be made");

interface Used {
  ranMs: number;
  megabytes: number;
}

interface Answer {
  status: number;
  body: string;
}

async function started(): Promise<{ server: ChildProcess; port: number }> {
  const server = spawn("node", ["--import", "./bench/watch.mjs", "scripts/serve.mjs"], { env, stdio: ["ignore", "pipe", "ignore", "ipc"] });
  return new Promise((resolve) => {
    let says = "";
    server.stdout?.on("data", (chunk: Buffer) => {
      says += String(chunk);
      const port = /http:\/\/127\.0\.0\.1:(\d+)/.exec(says)?.[1];
      if (port) resolve({ server, port: Number(port) });
    });
  });
}

const { server, port } = await started();

function used(): Promise<Used> {
  return new Promise((resolve) => {
    server.once("message", (message) => resolve(message as Used));
    server.send("used");
  });
}

/** Sends a request; no answer in time, or none that HTTP knows, is status 0. */
function send({ method, path, headers, body }: Shot): Promise<Answer> {
  return new Promise((resolve) => {
    const length = body === undefined ? {} : { "Content-Length": String(Buffer.byteLength(body)) };
    const request = httpRequest(
      { host: "127.0.0.1", port, method, path, headers: { Host: `127.0.0.1:${port}`, ...headers, ...length }, timeout: HANGS, agent: false },
      (answer) => {
        const chunks: Buffer[] = [];
        answer.on("data", (chunk: Buffer) => chunks.push(chunk));
        answer.on("end", () => resolve({ status: answer.statusCode ?? 0, body: Buffer.concat(chunks).toString("utf8", 0, 300) }));
        answer.on("error", () => resolve({ status: 0, body: "broke off" }));
      },
    );
    request.on("timeout", () => request.destroy(new Error("hangs")));
    request.on("error", (error) => resolve({ status: 0, body: error.message }));
    request.end(body);
  });
}

/** Sends a request, and tells what the server's main thread and memory had to do with it. */
async function measured(shot: Shot): Promise<Answer & Used> {
  const before = await used();
  const answer = await send(shot);
  const after = await used();
  return { ...answer, ranMs: after.ranMs - before.ranMs, megabytes: after.megabytes - before.megabytes };
}

const watching = new Database(join(data, "uvrel.sqlite"), { readonly: true });
const RECORD = ["jobs", "readings", "skips", "repairs", "endings", "units", "meters", "sheets", "people", "sessions", "sent_forms"];
const counted = watching.prepare(`SELECT ${RECORD.map((table) => `(SELECT count(*) FROM ${table})`).join(" || ',' || ")}`).pluck();
const settled = watching
  .prepare(
    "SELECT (SELECT group_concat(id || name || lead_ohms || ohms_resolution || true_rms || diode_max_volts) FROM meters) || (SELECT group_concat(name || school || meter_id || tools) FROM shop) || (SELECT group_concat(changed_at) FROM sheets) || coalesce((SELECT body FROM prices), '') || coalesce((SELECT body FROM backup_rule), '') || (SELECT group_concat(id || coalesce(closed_at, '') || meter) FROM jobs WHERE id < 20)",
  )
  .pluck();
/** Everything that an action could have written, in a line. */
const record = (): string => `${counted.get()} ${settled.get()}`;

const chance = new Chance(seed);
const found: { what: string; shot: Shot; says: string }[] = [];
const statuses = new Map<number, number>();
const worst: Used = { ranMs: 0, megabytes: 0 };

const forms: Forms = new Map(
  await Promise.all(
    FORM_PAGES.map(async (page) => {
      const answer = await new Promise<string>((resolve, reject) => {
        httpRequest({ host: "127.0.0.1", port, path: page, headers: { Host: `127.0.0.1:${port}` } }, (response) => {
          let html = "";
          response.on("data", (chunk: Buffer) => {
            html += String(chunk);
          });
          response.on("end", () => resolve(html));
        })
          .on("error", reject)
          .end();
      });
      return [page, formsOn(answer)] as const;
    }),
  ).then((pages) => pages.filter(([, on]) => on.length > 0)),
);
if (![...forms.keys()].some((page) => page.endsWith("/verdict"))) throw new Error("the pages' own forms were not found");
for (let k = 0; k < Math.min(WARM_UP, count); k++) await send(draw(new Chance(k), forms));

const begun = performance.now();
for (let k = 0; k < count; k++) {
  const shot = draw(chance, forms);
  const stood = record();
  const { status, body, ...cost } = await measured(shot);
  // A collection of garbage, or a page that is compiled at last, falls on any request; what a request takes by itself it takes again.
  const again = cost.ranMs > MOST.ranMs || cost.megabytes > MOST.megabytes ? await measured(shot) : cost;
  const [ranMs, megabytes] = [Math.min(cost.ranMs, again.ranMs), Math.min(cost.megabytes, again.megabytes)];
  worst.ranMs = Math.max(worst.ranMs, ranMs);
  worst.megabytes = Math.max(worst.megabytes, megabytes);
  statuses.set(status, (statuses.get(status) ?? 0) + 1);
  const note = (what: string): void => void found.push({ what, shot, says: body });
  // A connection that is cut at once is an answer to what is no HTTP; one that never comes is none.
  if (status === 0 && body === "hangs") note("hangs");
  if (status >= 500 && !(status === 503 && /Nothing was changed/.test(body))) note(`answers ${status}`);
  if (ranMs > MOST.ranMs) note(`holds the thread for ${ranMs.toFixed(0)} ms`);
  if (megabytes > MOST.megabytes) note(`leaves ${megabytes.toFixed(0)} MB behind`);
  if (status >= 400 && record() !== stood) note(`writes, though it answers ${status}`);
  if ((k + 1) % 10_000 === 0) process.stdout.write(`${k + 1} of ${count}, ${((performance.now() - begun) / 1000).toFixed(0)} s\n`);
}
server.kill("SIGTERM");
await new Promise((resolve) => server.once("exit", resolve));

// What was kept is whole: every job reads, and nothing hangs on nothing.
watching.close();
const db = openDatabase(data, MIGRATIONS);
const dangling = (db.pragma("foreign_key_check") as unknown[]).length;
if (dangling > 0) found.push({ what: `${dangling} rows hang on nothing`, shot: { method: "", path: "", headers: {} }, says: "" });
const store = new Store(db);
const jobs = db.prepare("SELECT id FROM jobs").pluck().all() as number[];
for (const id of jobs) if (!store.jobs.file(id)) found.push({ what: `job ${id} cannot be read`, shot: { method: "", path: "", headers: {} }, says: "" });
store.close();
rmSync(data, { recursive: true, force: true });

for (const { what, shot, says } of found.slice(0, 20))
  process.stdout.write(
    `${what}: ${shot.method} ${shot.path.slice(0, 120)} ${JSON.stringify(shot.headers)} ${String(shot.body ?? "").slice(0, 300)}\n    ${says.slice(0, 200)}\n`,
  );
const table = [
  "| fuzzed | value | must hold |",
  "|---|---|---|",
  `| requests, seed ${seed} | ${count.toLocaleString("en")} | |`,
  `| answers | ${[...statuses]
    .sort(([a], [b]) => a - b)
    .map(([status, times]) => `${status || "cut off"}: ${times}`)
    .join(", ")} | |`,
  `| hangs, answers of 5xx that state nothing, writes of what was refused, unreadable records | ${found.length} | 0 |`,
  `| longest that a request ran on the main thread, ms | ${worst.ranMs.toFixed(0)} | ≤ ${MOST.ranMs} |`,
  `| most that a request left behind, MB | ${worst.megabytes.toFixed(1)} | ≤ ${MOST.megabytes} |`,
].join("\n");
process.stdout.write(`${table}\n`);
if (count >= DOCUMENTED) writeBlock("fuzz", table);
if (found.length > 0) process.exitCode = 1;
