import type { Page } from "@playwright/test";
import { expect, jobOf, ready, test, type Workshop } from "./workshop";

/** What can come between a typed reading and the store: nothing of it may lose one, or keep one twice. */

const ENTRIES = "**/entries";
const waits = (page: Page, count: number) => expect(page.getByText(`${count} not yet sent`)).toBeVisible();
const sent = (page: Page) => expect(page.getByText("not yet sent")).toHaveCount(0);

async function type(page: Page, value: string): Promise<void> {
  await page.getByLabel(/What the meter shows/).fill(value);
  await page.keyboard.press("Enter");
}

/** The store has a reading of that value once, neither lost nor doubled; where it has not, what it has of that test is said. */
async function keptOnce(page: Page, job: string, test: string, value: number): Promise<void> {
  const kept = async (): Promise<string> => {
    const file = await page.request.get(`${job}/case.json`);
    const { readings } = (await file.json()) as { readings: { test: string; value: unknown }[] };
    const values = readings.flatMap((reading) => (reading.test === test ? [reading.value] : []));
    return values.filter((kept) => kept === value).length === 1 ? "once" : `${test}: ${values.join(", ")}`;
  };
  await expect.poll(kept).toBe("once");
}

test("two tabs with the line down keep both their readings, and the one left open sends them", async ({ page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  const other = await page.context().newPage();
  await page.goto(`${job}?step=battery.rest`);
  await other.goto(`${job}?step=battery.settled`);
  await ready(page);
  await ready(other);
  await workshop.stop();
  await type(page, "12.41");
  await type(other, "12.12");
  await waits(other, 2);
  await page.close();
  await workshop.again();
  await sent(other);
  await keptOnce(other, job, "battery.rest", 12.41);
  await keptOnce(other, job, "battery.settled", 12.12);
});

test("a sign-in page, a wall and a broken server are no answers: the reading waits, is named on the rail, and is sent from there", async ({
  page,
  workshop,
}) => {
  const job = await jobOf(page, workshop, "SK-121");
  let answer = { status: 200, contentType: "text/html", body: "<html>Sign in to the network" };
  await page.route(ENTRIES, (route) => route.fulfill(answer));
  await page.goto(`${job}?step=battery.rest`);
  await ready(page);
  await type(page, "12.42");
  await waits(page, 1);
  answer = { status: 403, contentType: "text/plain", body: "no" };
  await page.goto(workshop.url);
  const told = page.getByRole("link", { name: "SK-121: 1 not yet sent" });
  await expect(told).toBeVisible();
  const firstTag = page.getByRole("main").getByRole("link").first();
  const place = await firstTag.boundingBox();
  await page.unroute(ENTRIES);
  await sent(page);
  // What is said at the lower end takes nothing from under a finger when it goes.
  await expect(told).toHaveCount(0);
  expect((await firstTag.boundingBox())?.y).toBe(place?.y);
  await keptOnce(page, job, "battery.rest", 12.42);
});

test("where the device keeps nothing the bench works, says so, and the reading stays until it is sent", async ({ page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.addInitScript(() => {
    Object.defineProperty(window, "localStorage", {
      get: () => {
        throw new DOMException("denied", "SecurityError");
      },
    });
  });
  await page.route(ENTRIES, (route) => route.abort());
  await page.goto(`${job}?step=battery.rest`);
  await ready(page);
  await type(page, "12.43");
  await expect(page.getByText(/^This device keeps nothing more: Rest volts 12.43 V lives in this page alone/)).toBeVisible();
  await page.unroute(ENTRIES);
  await sent(page);
  await keptOnce(page, job, "battery.rest", 12.43);
});

test("odd things on the device's shelf stop no page, and what is a reading among them is sent", async ({ page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  const jobId = Number(job.split("/").at(-1));
  await page.evaluate((id) => {
    const reading = { id: "from-before-1", test: "battery.rest", value: 12.44, takenAt: new Date().toISOString() };
    const strange = { id: "strange-0001", test: "horn.volts", value: 3, takenAt: new Date().toISOString() };
    const list = [
      null,
      { jobId: id, entry: { kind: "reading", reading }, state: "waiting" },
      { jobId: id, entry: { kind: "reading", reading: strange }, state: "waiting" },
    ];
    localStorage.setItem("uvrel.outbox", JSON.stringify(list));
    localStorage.setItem("uvrel.outbox.broken-1", "{");
  }, jobId);
  await page.goto(`${job}?step=battery.settled`);
  await ready(page);
  await expect(page.getByText(/Not kept: horn.volts 3/)).toBeVisible();
  await keptOnce(page, job, "battery.rest", 12.44);
});

test("a job closed meanwhile takes the waiting reading once it is open again; a refused figure is put right without typing it anew", async ({
  page,
  workshop,
}) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.route(ENTRIES, (route) => route.abort());
  await page.goto(`${job}?step=battery.rest`);
  await ready(page);
  await type(page, "12.45");
  await waits(page, 1);
  // Closed by another device: a page of this one would send what waits here.
  const form = new URLSearchParams({ intent: "close", ending: "unproven", note: "picked up" });
  const closed = await page.request.post(`${job}/verdict`, {
    data: form.toString(),
    headers: { "Content-Type": "application/x-www-form-urlencoded", Origin: workshop.url },
  });
  expect(closed.ok()).toBe(true);
  await page.unroute(ENTRIES);
  await expect(page.getByText("Not yet sent: This job is closed. Open it again, and it is sent by itself.")).toBeVisible();
  const other = await page.context().newPage();
  await other.goto(`${job}/verdict`);
  await other.getByRole("button", { name: "Open this job again" }).click();
  await expect(other.getByText("Its ending stays in the record")).toBeVisible();
  await other.getByRole("button", { name: "Yes, open it" }).click();
  await expect(other.getByRole("heading", { name: "Close the job" })).toBeVisible();
  await expect(page.getByText("not yet sent", { exact: false })).toHaveCount(0);
  await other.goto(`${job}/report`);
  await expect(other.getByText(/as “Closed without proof”: picked up; opened again/)).toBeVisible();
  await keptOnce(other, job, "battery.rest", 12.45);
  await other.close();

  await page.route(ENTRIES, (route) => route.fulfill({ status: 422, json: { kept: false, field: "value", error: "It cannot be." } }), { times: 1 });
  await page.goto(`${job}?step=battery.settled`);
  await ready(page);
  await type(page, "12.9");
  const refused = page.getByRole("alert").filter({ hasText: "Not kept: Settled volts" });
  await expect(refused).toBeVisible();
  // The bench turns to another step in the middle of a figure: what is being typed beside the refusal goes on there.
  const list = page.getByRole("navigation", { name: "Run list" });
  await list
    .getByRole("link", { name: /^Crank dip/ })
    .last()
    .click();
  const crank = page.getByRole("heading", { name: "Crank dip" });
  await expect(crank).toBeVisible();
  await refused.getByRole("textbox").focus();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("12.");
  await page.evaluate(() => history.back());
  await expect(crank).toHaveCount(0);
  await page.keyboard.type("09");
  await expect(refused.getByRole("textbox")).toHaveValue("12.09");
  // Whatever the page turns to meanwhile, what was typed beside the refusal stays typed.
  await page.goto(`${job}/verdict`);
  await expect(refused.getByRole("textbox")).toHaveValue("12.09");
  await refused.getByRole("button", { name: "Send again" }).click();
  await expect(refused).toHaveCount(0);
  await sent(page);
  await keptOnce(page, job, "battery.settled", 12.09);
});

test("a repair is typed with the line down and stays typed; sent twice on a slow line it is recorded once", async ({ page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-121");
  await page.goto(`${job}/verdict`);
  await ready(page);
  await page.getByLabel("Part", { exact: true }).selectOption("battery");
  await page.getByLabel("What was done").fill("Battery renewed, posts cleaned.");
  await workshop.stop();
  await page.getByRole("button", { name: "Record the repair" }).click();
  await expect(page.getByText(/^Not sent: the line is down/)).toBeVisible();
  await expect(page.getByLabel("What was done")).toHaveValue("Battery renewed, posts cleaned.");
  await workshop.again();
  let posts = 0;
  let answersLost = 0;
  await page.route("**/verdict.data*", async (route) => {
    if (route.request().method() === "POST" && ++posts === 1) {
      // It arrives, but its answer is lost on the way back.
      await route.fetch();
      await route.abort();
      answersLost++;
      return;
    }
    return route.fallback();
  });
  await page.getByRole("button", { name: "Record the repair" }).click();
  // What the press before could not send still says so: the lost answer itself has to be waited for.
  await expect.poll(() => answersLost, { timeout: 60_000 }).toBe(1);
  await expect(page.getByText(/^Not sent: the line is down/)).toBeVisible();
  await page.getByRole("button", { name: "Record the repair" }).click();
  await expect(page.getByRole("listitem").filter({ hasText: "Battery renewed, posts cleaned." })).toHaveCount(1);
  await page.reload();
  await expect(page.getByRole("listitem").filter({ hasText: "Battery renewed, posts cleaned." })).toHaveCount(1);
  // The next repair from the same page is another one.
  await ready(page);
  for (const done of ["Regulator renewed.", "Ground cleaned."]) {
    await page.getByLabel("Part", { exact: true }).selectOption("regulator");
    await expect(page.getByLabel("What was done")).toHaveValue("");
    await page.getByLabel("What was done").fill(done);
    await page.getByRole("button", { name: "Record the repair" }).click();
    await expect(page.getByRole("listitem").filter({ hasText: done })).toHaveCount(1);
  }
});

test("a form that asks for an endless list is refused at once, and the server goes on", async ({ page, workshop }) => {
  await page.goto(workshop.url);
  const asked = Date.now();
  const answer = await page.request.post(`${workshop.url}/machines/new`, {
    data: "legs[99999].id=x",
    headers: { "Content-Type": "application/x-www-form-urlencoded", Origin: workshop.url },
  });
  expect(answer.status()).toBe(400);
  expect(Date.now() - asked).toBeLessThan(5000);
  expect((await page.request.get(workshop.url)).status()).toBe(200);
});

test("a form that asks for nothing known changes nothing", async ({ page, workshop }) => {
  const job = await jobOf(page, workshop, "SK-102");
  const answer = await page.request.post(`${job}/verdict`, {
    data: "intent=scrap&ending=unproven",
    headers: { "Content-Type": "application/x-www-form-urlencoded", Origin: workshop.url },
  });
  expect(answer.status()).toBe(422);
  await page.goto(`${job}/verdict`);
  await expect(page.getByRole("heading", { name: "Close the job" })).toBeVisible();
});

/** A job that no other test has had its hands on. */
async function newJob(page: Page, workshop: Workshop): Promise<string> {
  const answer = await page.request.post(`${workshop.url}/jobs/new`, {
    headers: { Origin: workshop.url },
    form: { machine: "unit:SK-121", ambientC: "14" },
    maxRedirects: 0,
  });
  return workshop.url + String(answer.headers().location);
}

test("two phones on one job, the line down between them: each sends its own when it is back, nothing lost, nothing twice", async ({
  browser,
  page,
  workshop,
}) => {
  const job = await newJob(page, workshop);
  const phones = await Promise.all(Array.from({ length: 2 }, async () => (await browser.newContext()).newPage()));
  for (const [k, phone] of phones.entries()) {
    await phone.goto(`${job}?step=battery.rest`);
    await ready(phone);
    await phone.context().setOffline(true);
    await type(phone, `12.${61 + k}`);
    await waits(phone, 1);
  }
  for (const phone of phones) {
    await phone.context().setOffline(false);
    await sent(phone);
  }
  await keptOnce(page, job, "battery.rest", 12.61);
  await keptOnce(page, job, "battery.rest", 12.62);
  for (const phone of phones) await phone.context().close();
});

test("a server that answers late is waited for: what is typed meanwhile goes on, in order, each once", async ({ page, workshop }) => {
  const job = await newJob(page, workshop);
  await page.route(ENTRIES, async (route) => {
    const answer = await route.fetch();
    // Kept long before the answer is heard: sending it again must not keep it twice.
    await new Promise((resolve) => setTimeout(resolve, 1500));
    // The page may have been left meanwhile, and hears it no more.
    await route.fulfill({ response: answer }).catch(() => undefined);
  });
  for (const [step, value] of [
    ["battery.rest", "12.71"],
    ["battery.settled", "12.31"],
  ]) {
    await page.goto(`${job}?step=${step}`);
    await ready(page);
    await type(page, String(value));
    await expect(page.getByText(/not yet sent/)).toBeVisible();
  }
  await page.unroute(ENTRIES);
  await sent(page);
  await keptOnce(page, job, "battery.rest", 12.71);
  await keptOnce(page, job, "battery.settled", 12.31);
});
