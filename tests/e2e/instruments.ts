import { type ChildProcess, spawn } from "node:child_process";
import type { Page } from "@playwright/test";
import { expect, ready, type Workshop } from "./workshop";

// Meters that are heard live: stand-ins, their hands, and what the bench says of what it heard.

/** A stand-in that plays a machine on a port of its own. */
export async function standIn(...args: string[]): Promise<{ port: number; stop: () => Promise<void>; process: ChildProcess }> {
  const process_ = spawn(process.execPath, ["build/tools/uvrel.js", "meter", "--port", "0", ...args], { stdio: ["ignore", "pipe", "inherit"] });
  const port = await new Promise<number>((resolve, reject) => {
    let said = "";
    process_.stdout.on("data", (text) => {
      said += String(text);
      const found = /:(\d+), playing/.exec(said);
      if (found) resolve(Number(found[1]));
    });
    process_.on("exit", () => reject(new Error(`the stand-in ended: ${said}`)));
  });
  const stop = (): Promise<void> =>
    new Promise((resolve) => {
      if (process_.exitCode !== null || process_.signalCode !== null) return resolve();
      process_.on("exit", () => resolve());
      process_.kill();
    });
  return { port, stop, process: process_ };
}

/** Sets what a stand-in stands at, as whoever holds its machine would. */
export const hands = (port: number, words: string): Promise<unknown> =>
  new Promise((resolve) => spawn(process.execPath, ["build/tools/uvrel.js", "meter", "--port", String(port), "--set", words]).on("exit", resolve));

/** Writes down from now on which readings the bench says were kept, and which traces it draws: each may be gone again before it is looked for. */
export async function announced(page: Page): Promise<() => Promise<string[]>> {
  const said = await page.evaluateHandle(() => {
    const words: string[] = [];
    const write = (): void => {
      for (const element of document.querySelectorAll("[aria-live=polite]")) words.push(element.textContent);
      for (const drawn of document.querySelectorAll("[role=img][aria-label]")) words.push(drawn.getAttribute("aria-label") as string);
    };
    new MutationObserver(write).observe(document.body, { subtree: true, childList: true, characterData: true });
    return words;
  });
  return async () => [...new Set(await said.jsonValue())];
}

/** Where the step under the probes is one for eyes, says that all is sound; the page may have gone on meanwhile. */
export async function tapWhatEyesFind(page: Page): Promise<void> {
  const sound = page.locator("#entry button[name=value]:not([value=OL])").first();
  if (await sound.isVisible()) await sound.click({ timeout: 2000 }).catch(() => undefined);
}

/** Sets an instrument up on the shop's page. */
export async function setUp(page: Page, workshop: Workshop, name: string, port: number, language?: string): Promise<void> {
  await page.goto(`${workshop.url}/settings`);
  await ready(page);
  await page.locator("summary").filter({ hasText: "Another one" }).click();
  const form = page.locator("details[open]");
  await form.getByLabel("Name").fill(name);
  if (language) await form.getByLabel("Speaks").selectOption({ label: language });
  await form.getByLabel("Port").fill(String(port));
  await form.getByRole("button", { name: "Keep this one" }).click();
  // Another's name may end the same way ("Stand-in logger").
  await expect(page.locator("summary").filter({ has: page.getByText(name, { exact: true }) })).toBeVisible();
}
