import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import type { JobEntry } from "./entry";
import { Outbox } from "./outbox";

/** A browser with just storage, a window that can come back on line, and a server that answers as told. */
const shelf = new Map<string, string>();
const heard = new Map<string, () => void>();
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
    localStorage: { getItem: (key: string) => shelf.get(key) ?? null, setItem: (key: string, value: string) => void shelf.set(key, value) },
    window: { addEventListener: (name: string, listener: () => void) => void heard.set(name, listener) },
    fetch: (url: string, request: { body: string }) => {
      sent.push({ url, body: JSON.parse(request.body) });
      return (answers.shift() ?? keeps)();
    },
  });
});

const skip = (id: string): JobEntry => ({ kind: "skip", skip: { id, step: "battery.rest", reason: "seen" } });
const states = (box: Outbox) => box.snapshot().map((one) => one.state);
const settle = () => jest.advanceTimersByTimeAsync(0);

describe("the outbox", () => {
  test("sends what is added, in order, and keeps nothing on the shelf once it is kept", async () => {
    const box = new Outbox();
    box.add(7, skip("first-01"));
    box.add(7, skip("second-1"));
    await settle();
    expect(states(box)).toEqual(["kept", "kept"]);
    expect(sent.map(({ url, body }) => [url, (body as { skip: { id: string } }).skip.id])).toEqual([
      ["/jobs/7/entries", "first-01"],
      ["/jobs/7/entries", "second-1"],
    ]);
    expect(JSON.parse(shelf.get("uvrel.outbox") ?? "")).toEqual([]);
  });

  test("waits while the server is gone or starting, and sends again by itself", async () => {
    answers = [gone, broken, keeps, keeps];
    const box = new Outbox();
    box.add(7, skip("first-01"));
    box.add(7, skip("second-1"));
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
    box.add(7, skip("first-01"));
    await settle();
    expect(states(box)).toEqual(["waiting"]);
    heard.get("online")?.();
    await settle();
    expect(states(box)).toEqual(["kept"]);
  });

  test("survives the page: a new one finds what the old one could not send", async () => {
    answers = [gone];
    const old = new Outbox();
    old.add(7, skip("first-01"));
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
    box.add(7, skip("first-01"));
    box.add(7, skip("second-1"));
    await settle();
    expect(box.snapshot()).toMatchObject([{ state: "refused", error: "cannot be" }, { state: "kept" }]);
    expect(JSON.parse(shelf.get("uvrel.outbox") ?? "")).toHaveLength(1);
    box.drop("first-01");
    expect(JSON.parse(shelf.get("uvrel.outbox") ?? "")).toEqual([]);
  });

  test("an answer that is no answer is told as a refusal, not lost", async () => {
    answers = [async () => new Response("<html>", { status: 403 })];
    const box = new Outbox();
    box.add(7, skip("first-01"));
    await settle();
    expect(box.snapshot()[0]).toMatchObject({ state: "refused", error: expect.stringContaining("403") });
  });

  test("tells its listeners of every change, until they leave", async () => {
    const box = new Outbox();
    const listener = jest.fn();
    const leave = box.subscribe(listener);
    box.add(7, skip("first-01"));
    await settle();
    expect(listener).toHaveBeenCalledTimes(2);
    leave();
    box.add(7, skip("second-1"));
    await settle();
    expect(listener).toHaveBeenCalledTimes(2);
  });

  test("a shelf full of rubbish is an empty shelf", async () => {
    shelf.set("uvrel.outbox", "{not json");
    const box = new Outbox();
    box.wake();
    await settle();
    expect(box.snapshot()).toEqual([]);
  });

  test("without storage, entries are still sent", async () => {
    Object.assign(globalThis, {
      localStorage: {
        getItem: () => null,
        setItem: () => {
          throw new Error("full");
        },
      },
    });
    const box = new Outbox();
    box.add(7, skip("first-01"));
    await settle();
    expect(states(box)).toEqual(["kept"]);
  });
});
