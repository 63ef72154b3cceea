import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test as base, expect, type Page } from "@playwright/test";
import type AxeSource from "axe-core";

const AXE = readFileSync("node_modules/axe-core/axe.min.js", "utf8");

interface AxeWindow {
  axe: typeof AxeSource;
}

/** What axe finds wrong with the page as it stands. */
export async function violations(page: Page): Promise<string[]> {
  await page.evaluate(AXE);
  return page.evaluate(async () => {
    const result = await (window as unknown as AxeWindow).axe.run(document, { resultTypes: ["violations"] });
    return result.violations.flatMap((one) => one.nodes.map((node) => `${one.id}: ${node.html.slice(0, 160)} ${node.any[0]?.message ?? ""}`));
  });
}

/** A running Uvrel with a throw-away database. */
export interface Workshop {
  url: string;
  data: string;
  stop: () => Promise<void>;
  /** Starts it again on the same port and database. */
  again: () => Promise<void>;
}

/** Runs a built tool to its end. */
export function tool(file: string, args: string[], env: Record<string, string> = {}, input = "") {
  return spawnSync("node", [file, ...args], { encoding: "utf8", input, env: { ...process.env, NODE_ENV: "production", ...env } });
}

/** Starts the built server on a free port and waits for its address. */
export function serve(
  env: Record<string, string>,
  user: { uid?: number; gid?: number } = {},
): Promise<{ child: ChildProcess; url: string; says: () => string; code: Promise<number | null> }> {
  const child = spawn("node", ["scripts/serve.mjs"], { env: { ...process.env, NODE_ENV: "production", ...env }, ...user });
  let says = "";
  const code = new Promise<number | null>((resolve) => child.on("exit", resolve));
  return new Promise((resolve) => {
    const heard = (chunk: Buffer): void => {
      says += String(chunk);
      const url = /http:\/\/\S+/.exec(says)?.[0];
      if (url) resolve({ child, url, says: () => says, code });
    };
    child.stdout.on("data", heard);
    child.stderr.on("data", heard);
    child.on("exit", () => resolve({ child, url: "", says: () => says, code }));
  });
}

async function open(seeded: boolean): Promise<Workshop> {
  const data = mkdtempSync(join(tmpdir(), "uvrel-e2e-"));
  if (seeded) expect(tool("build/tools/seed.js", [], { UVREL_DATA: data }).status).toBe(0);
  let running = await serve({ UVREL_DATA: data, PORT: "0" });
  const { url } = running;
  const stop = async (): Promise<void> => {
    running.child.kill("SIGTERM");
    await running.code;
  };
  return {
    url,
    data,
    stop,
    again: async () => {
      running = await serve({ UVREL_DATA: data, PORT: new URL(url).port });
      expect(running.url).toBe(url);
    },
  };
}

/** The workshop of the test file that is running: the one before is shut when another file begins. */
class Premises {
  readonly #seeded: boolean;
  #file = "";
  #workshop: Workshop | undefined;

  constructor(seeded: boolean) {
    this.#seeded = seeded;
  }

  async of(file: string): Promise<Workshop> {
    if (file !== this.#file) await this.close();
    this.#file = file;
    this.#workshop ??= await open(this.#seeded);
    return this.#workshop;
  }

  async close(): Promise<void> {
    await this.#workshop?.stop();
    this.#workshop = undefined;
  }
}

/** Premises that last as long as their worker, which works through several files. */
function premises(seeded: boolean) {
  // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the names of the first argument
  return async ({}, use: (premises: Premises) => Promise<void>): Promise<void> => {
    const premises = new Premises(seeded);
    await use(premises);
    await premises.close();
  };
}

/** Tests with the demo workshop running, one a file; every request must stay on this machine and no script may fail. */
export const test = base.extend<{ shop: Page; workshop: Workshop; empty: Workshop }, { seeded: Premises; unseeded: Premises }>({
  seeded: [premises(true), { scope: "worker" }],
  unseeded: [premises(false), { scope: "worker" }],
  workshop: async ({ seeded }, use, { file }) => await use(await seeded.of(file)),
  empty: async ({ unseeded }, use, { file }) => await use(await unseeded.of(file)),
  shop: async ({ page, workshop }, use) => {
    const strays: string[] = [];
    page.on("request", (request) => {
      if (!request.url().startsWith(workshop.url) && !request.url().startsWith("data:")) strays.push(request.url());
    });
    page.on("pageerror", (error) => strays.push(error.stack ?? String(error)));
    // Steps are walked through in the list's order, which no timing changes; what the odds do has tests of its own.
    await page.addInitScript(() => {
      if (localStorage.getItem("uvrel.order") === null) localStorage.setItem("uvrel.order", "list");
    });
    await page.goto(workshop.url);
    await use(page);
    expect(strays).toEqual([]);
  },
});

/** Waits until the page's script has taken over, so that keys and taps are heard. */
export async function ready(page: Page): Promise<void> {
  await page.waitForSelector("html[data-listening]", { state: "attached" });
}

/** The address of the open job of a machine. */
export async function jobOf(page: Page, workshop: Workshop, tag: string): Promise<string> {
  await page.goto(workshop.url);
  const href = await page
    .getByRole("link", { name: new RegExp(tag) })
    .first()
    .getAttribute("href");
  return `${workshop.url}${href}`;
}

export { expect };
