import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import { entryId, type JobEntry } from "./entry";
import { Outbox } from "./outbox";

/** A browser with just storage, a window that hears of the line and of other tabs, and a server that answers as told. */
const shelf = new Map<string, string>();
const heard = new Map<string, ((event: object) => void)[]>();
const hear = (name: string, event: object = {}): void => {
  for (const listener of heard.get(name) ?? []) listener(event);
};
/** What the other tabs are told when one of them changes the shelf. */
const otherTabs = (): void => hear("storage", { key: null });
const storage = (setItem: (key: string, value: string) => void) => ({
  getItem: (key: string) => shelf.get(key) ?? null,
  setItem,
  removeItem: (key: string) => void shelf.delete(key),
  key: (k: number) => [...shelf.keys()][k] ?? null,
  get length() {
    return shelf.size;
  },
});
let answers: (() => Promise<Response>)[] = [];
let sent: { url: string; body: unknown }[] = [];

const keeps = async (): Promise<Response> => Response.json({ kept: true });
const refuses = async (): Promise<Response> => Response.json({ kept: false, field: "value", error: "cannot be" }, { status: 422 });
const broken = async (): Promise<Response> => new Response("starting", { status: 503 });
const gone = (): Promise<Response> => Promise.reject(new TypeError("no line"));

beforeEach(() => {
  shelf.clear();
  heard.clear();
  sent = [];
  answers = [];
  jest.useFakeTimers();
  Object.assign(globalThis, {
    localStorage: storage((key, value) => void shelf.set(key, value)),
    window: {
      addEventListener: (name: string, listener: (event: object) => void) => void heard.set(name, [...(heard.get(name) ?? []), listener]),
    },
    fetch: (url: string, request: { body: string }) => {
      sent.push({ url, body: JSON.parse(request.body) });
      return (answers.shift() ?? keeps)();
    },
  });
});

const skip = (id: string): JobEntry => ({ kind: "skip", skip: { id, step: "battery.rest", reason: "seen" } });
const states = (box: Outbox) => box.snapshot().map((sent) => sent.state);
const settle = () => jest.advanceTimersByTimeAsync(0);

describe("the outbox", () => {
  test("sends what is added, in order, and keeps nothing on the shelf once it is kept", async () => {
    const box = new Outbox();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    box.add({ jobId: 7, tag: "SK-7" }, skip("second-1"));
    await settle();
    expect(states(box)).toEqual(["kept", "kept"]);
    expect(sent.map(({ url, body }) => [url, (body as { skip: { id: string } }).skip.id])).toEqual([
      ["/jobs/7/entries", "first-01"],
      ["/jobs/7/entries", "second-1"],
    ]);
    expect(shelf.size).toBe(0);
  });

  test("waits while the server is gone or starting, and sends again by itself", async () => {
    answers = [gone, broken, keeps, keeps];
    const box = new Outbox();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    box.add({ jobId: 7, tag: "SK-7" }, skip("second-1"));
    await settle();
    expect(states(box)).toEqual(["waiting", "waiting"]);
    await jest.advanceTimersByTimeAsync(3000);
    expect(states(box)).toEqual(["waiting", "waiting"]);
    await jest.advanceTimersByTimeAsync(3000);
    expect(states(box)).toEqual(["kept", "kept"]);
  });

  test("does not wait for the clock when the line comes back", async () => {
    answers = [gone];
    const box = new Outbox();
    box.wake();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    await settle();
    expect(states(box)).toEqual(["waiting"]);
    hear("online");
    await settle();
    expect(states(box)).toEqual(["kept"]);
  });

  test("survives the page: a new one finds what the old one could not send", async () => {
    answers = [gone];
    const old = new Outbox();
    old.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    await settle();
    const fresh = new Outbox();
    fresh.wake();
    await settle();
    expect(states(fresh)).toEqual(["kept"]);
    expect(sent).toHaveLength(2);
  });

  test("a refusal is shown with its reason, stops nothing behind it, and is set aside by hand", async () => {
    answers = [refuses, keeps];
    const box = new Outbox();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    box.add({ jobId: 7, tag: "SK-7" }, skip("second-1"));
    await settle();
    expect(box.snapshot()).toMatchObject([{ state: "refused", error: "cannot be" }, { state: "kept" }]);
    expect(shelf.size).toBe(1);
    box.drop("first-01");
    expect(shelf.size).toBe(0);
  });

  test.each<[string, () => Promise<Response>]>([
    ["a sign-in page", async () => new Response("<html>Sign in", { status: 200, headers: { "Content-Type": "text/html" } })],
    ["some other program's JSON", async () => Response.json({ status: "ok" })],
    ["half an answer", async () => Response.json({ kept: false }, { status: 422 })],
    ...[403, 404, 408, 413, 421, 429, 500, 503].map((status): [string, () => Promise<Response>] => [
      String(status),
      async () => Response.json({ kept: false, field: "x", error: "y" }, { status }),
    ]),
  ])("%s is not the store's answer: the entry waits", async (_name, answer) => {
    answers = [answer];
    const box = new Outbox();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    await settle();
    expect(states(box)).toEqual(["waiting"]);
    await jest.advanceTimersByTimeAsync(3000);
    expect(states(box)).toEqual(["kept"]);
  });

  test("a closed job is waited for, with the reason, until it is open again", async () => {
    answers = [async () => Response.json({ kept: false, field: "job", error: "This job is closed.", later: true }, { status: 422 })];
    const box = new Outbox();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    await settle();
    expect(box.snapshot()).toMatchObject([{ state: "waiting", error: "This job is closed." }]);
    expect(shelf.size).toBe(1);
    await jest.advanceTimersByTimeAsync(15_000);
    expect(box.snapshot()).toEqual([expect.objectContaining({ state: "kept" })]);
    expect(box.snapshot()[0]?.error).toBeUndefined();
  });

  test("one job that gets nowhere holds back no other", async () => {
    answers = [broken, keeps];
    const box = new Outbox();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    box.add({ jobId: 7, tag: "SK-7" }, skip("second-1"));
    box.add({ jobId: 8, tag: "SK-8" }, skip("third-01"));
    await settle();
    expect(states(box)).toEqual(["waiting", "waiting", "kept"]);
    expect(sent.map(({ url }) => url)).toEqual(["/jobs/7/entries", "/jobs/8/entries"]);
  });

  test("two tabs with the line down keep both their entries, and the one left open sends them", async () => {
    answers = [gone, gone, gone, gone];
    const [outbox, other] = [new Outbox(), new Outbox()];
    outbox.wake();
    other.wake();
    outbox.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    other.add({ jobId: 7, tag: "SK-7" }, skip("second-1"));
    await settle();
    expect(shelf.size).toBe(2);
    otherTabs();
    await settle();
    expect(states(other)).toEqual(["waiting", "waiting"]);
    answers = [];
    hear("online");
    await settle();
    otherTabs();
    expect(states(outbox)).toEqual(["kept", "kept"]);
    expect(states(other)).toEqual(["kept", "kept"]);
    expect(shelf.size).toBe(0);
  });

  test("what was refused is put right and sent under a number of its own", async () => {
    answers = [refuses, keeps];
    const box = new Outbox();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    await settle();
    box.drop("first-01", skip("second-1"));
    await settle();
    expect(box.snapshot().map(({ entry, state }) => [entryId(entry), state])).toEqual([["second-1", "kept"]]);
    expect(shelf.size).toBe(0);
  });

  test("tells its listeners of every change, until they leave", async () => {
    const box = new Outbox();
    const listener = jest.fn();
    const leave = box.subscribe(listener);
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    await settle();
    expect(listener).toHaveBeenCalledTimes(2);
    leave();
    box.add({ jobId: 7, tag: "SK-7" }, skip("second-1"));
    await settle();
    expect(listener).toHaveBeenCalledTimes(2);
  });

  test.each(["{not json", "[null]", "null", '"text"', JSON.stringify([{ jobId: 7 }]), JSON.stringify([{ jobId: 7, entry: { kind: "reading", reading: {} } }])])(
    "a list of an earlier edition that holds %s is set aside, and the rest goes on",
    async (text) => {
      shelf.set("uvrel.outbox", text);
      const box = new Outbox();
      box.wake();
      box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
      await settle();
      expect(states(box)).toEqual(["kept"]);
      expect([...shelf.keys()].every((name) => name.startsWith("uvrel.aside."))).toBe(true);
    },
  );

  test("the entries of an earlier edition's list are sent, each from a place of its own", async () => {
    shelf.set(
      "uvrel.outbox",
      JSON.stringify([{ jobId: 7, entry: skip("first-01"), state: "waiting" }, null, { jobId: 8, entry: skip("second-1"), state: "refused", error: "no" }]),
    );
    const box = new Outbox();
    box.wake();
    await settle();
    expect(box.snapshot()).toMatchObject([{ state: "kept" }, { state: "refused", error: "no" }]);
    expect(shelf.has("uvrel.outbox")).toBe(false);
  });

  test("something odd on the shelf is set aside and not lost", async () => {
    shelf.set("uvrel.outbox.first-01", "{broken");
    shelf.set("uvrel.outbox.second-1", JSON.stringify({ jobId: 7, tag: "SK-7", entry: skip("another-1"), writtenAt: 1 }));
    const box = new Outbox();
    box.wake();
    await settle();
    expect(box.snapshot()).toEqual([]);
    expect([...shelf.keys()].sort()).toEqual(["uvrel.aside.first-01", "uvrel.aside.second-1"]);
  });

  test("a full device says so at once, keeps the entry in the page, and does not let the page go", async () => {
    answers = [gone, gone];
    Object.assign(globalThis, {
      localStorage: storage(() => {
        throw new Error("full");
      }),
    });
    const box = new Outbox();
    box.wake();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    expect(box.snapshot()).toMatchObject([{ state: "waiting", unshelved: true }]);
    await settle();
    // Another tab's news do not take away what lives in this page alone.
    otherTabs();
    expect(box.snapshot()).toMatchObject([{ state: "waiting", unshelved: true }]);
    const leaving = { preventDefault: jest.fn() };
    hear("beforeunload", leaving);
    expect(leaving.preventDefault).toHaveBeenCalledTimes(1);
    await jest.advanceTimersByTimeAsync(6000);
    expect(states(box)).toEqual(["kept"]);
    hear("beforeunload", leaving);
    expect(leaving.preventDefault).toHaveBeenCalledTimes(1);
  });

  test("where storage is denied altogether, entries are still sent", async () => {
    Object.defineProperty(globalThis, "localStorage", {
      configurable: true,
      get: () => {
        throw new Error("denied");
      },
    });
    const box = new Outbox();
    box.wake();
    box.add({ jobId: 7, tag: "SK-7" }, skip("first-01"));
    await settle();
    expect(states(box)).toEqual(["kept"]);
    Object.defineProperty(globalThis, "localStorage", { configurable: true, writable: true, value: undefined });
  });
});
