import { describe, expect, test } from "@jest/globals";
import { openStore } from "../tests/support/store";
import { SESSION, secretOf } from "./people";
import type { Store } from "./store";

const NOW = new Date("2026-06-01T10:00:00.000Z");
const later = (ms: number): Date => new Date(NOW.getTime() + ms);
const PASSWORD = "halyard and sheave";

async function withPeople(): Promise<Store> {
  const store = openStore();
  store.people.add("Ailsa", await secretOf(PASSWORD), NOW.toISOString());
  store.people.add("Torquil", await secretOf("another one"), NOW.toISOString());
  return store;
}

describe("who may come in", () => {
  test("is told by name and password, the name in any case", async () => {
    const { people } = await withPeople();
    expect(await people.check("ailsa", PASSWORD)).toMatchObject({ name: "Ailsa" });
    expect(await people.check("Ailsa", "another one")).toBeUndefined();
    expect(await people.check("Nobody", PASSWORD)).toBeUndefined();
    expect(await people.check("Ailsa", "")).toBeUndefined();
  });

  test("has one name, once", async () => {
    const { people } = await withPeople();
    expect(people.add("AILSA", await secretOf(PASSWORD), NOW.toISOString())).toBe(false);
    expect(people.list().map(({ name }) => name)).toEqual(["Ailsa", "Torquil"]);
  });

  test("is kept as a key with salt: one password twice is two secrets, and neither holds it", async () => {
    const [secret, two] = [await secretOf(PASSWORD), await secretOf(PASSWORD)];
    expect(secret).not.toBe(two);
    expect(secret).not.toContain(PASSWORD);
  });
});

describe("a session", () => {
  test("is its person's until it is ended", async () => {
    const { people } = await withPeople();
    const [ailsa] = people.list();
    const token = people.begin(ailsa as { id: number; name: string }, NOW);
    expect(people.of(token, later(1000))).toMatchObject({ name: "Ailsa", unseen: false });
    expect(people.of(`${token}x`, later(1000))).toBeUndefined();
    people.end(token);
    expect(people.of(token, later(1000))).toBeUndefined();
  });

  test("ends when nobody uses it, and in any case after a week", async () => {
    const { people } = await withPeople();
    const [ailsa] = people.list();
    const token = people.begin(ailsa as { id: number; name: string }, NOW);
    expect(people.of(token, later(SESSION.idle + 1))).toBeUndefined();
    for (let at = SESSION.idle / 2; at < SESSION.absolute; at += SESSION.idle / 2) {
      expect(people.of(token, later(at))).toMatchObject({ unseen: true });
      people.see(token, later(at));
    }
    expect(people.of(token, later(SESSION.absolute + 1))).toBeUndefined();
  });

  test("ends with a new password, and with its person", async () => {
    const { people } = await withPeople();
    const [ailsa, torquil] = people.list() as [{ id: number; name: string }, { id: number; name: string }];
    const [session, two] = [people.begin(ailsa, NOW), people.begin(torquil, NOW)];
    people.changeSecret("Ailsa", await secretOf("something else"));
    people.remove("torquil");
    expect(people.of(session, NOW)).toBeUndefined();
    expect(people.of(two, NOW)).toBeUndefined();
    expect(await people.check("Ailsa", "something else")).toMatchObject({ name: "Ailsa" });
    expect(people.changeSecret("Torquil", "x")).toBe(false);
    expect(people.remove("Torquil")).toBe(false);
  });
});
