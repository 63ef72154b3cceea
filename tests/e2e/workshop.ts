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
    return result.violations.flatMap((violation) => violation.nodes.map((node) => `${violation.id}: ${node.html.slice(0, 160)} ${node.any[0]?.message ?? ""}`));
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

/** The workshops of the test file that is running: those of the one before are shut when another file begins, so that none works on unused. */
class Premises {
  #file = "";
  readonly #workshops = new Map<"seeded" | "empty", Workshop>();

  async of(file: string, kind: "seeded" | "empty"): Promise<Workshop> {
    if (file !== this.#file) await this.close();
    this.#file = file;
    const workshop = this.#workshops.get(kind) ?? (await open(kind === "seeded"));
    this.#workshops.set(kind, workshop);
    return workshop;
  }

  async close(): Promise<void> {
    await Promise.all([...this.#workshops.values()].map((workshop) => workshop.stop()));
    this.#workshops.clear();
  }
}

/** Tests with the demo workshop running, one a file; every request must stay on this machine and no script may fail. */
export const test = base.extend<{ shop: Page; workshop: Workshop; empty: Workshop }, { premises: Premises }>({
  premises: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the names of the first argument
    async ({}, use) => {
      const premises = new Premises();
      await use(premises);
      await premises.close();
    },
    { scope: "worker" },
  ],
  workshop: async ({ premises }, use, { file }) => await use(await premises.of(file, "seeded")),
  empty: async ({ premises }, use, { file }) => await use(await premises.of(file, "empty")),
  shop: async ({ page, workshop }, use) => {
    const strays: string[] = [];
    page.on("request", (request) => {
      if (!request.url().startsWith(workshop.url) && !request.url().startsWith("data:")) strays.push(request.url());
    });
    page.on("pageerror", (error) => strays.push(`${String(error)} ${error.stack ?? ""}`));
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
