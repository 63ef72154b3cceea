import { createHash, randomBytes, type ScryptOptions, scrypt, timingSafeEqual } from "node:crypto";
import { promisify } from "node:util";
import type { Database } from "better-sqlite3";
import { preparer } from "./statements";

/** Somebody who may sign in. */
export interface Person {
  id: number;
  name: string;
}

/** Bounds of a password: shorter is guessed, longer is no password. */
export const PASSWORD = { least: 8, most: 200 } as const;
/** Bounds of a name. */
export const MOST_NAME = 40;

/** Cost of one guess (RFC 7914): 32 MiB and some 60 ms. */
const COST: ScryptOptions = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 2 ** 20 };
const KEY_BYTES = 32;
const derive = promisify<string, Buffer, number, ScryptOptions, Buffer>(scrypt);

/** A session ends after so long without a request, and after so long in any case, ms. */
export const SESSION = { idle: 12 * 3_600_000, absolute: 7 * 24 * 3_600_000 } as const;
/** How seldom it is written down that a session is in use, ms. */
const SEEN_EVERY = 300_000;

interface PersonRow extends Person {
  secret: string;
}

/** People who may sign in, and their sessions. Passwords are kept as scrypt keys, sessions under a hash of their token. */
export class People {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  list(): Person[] {
    return this.#sql("SELECT id, name FROM people ORDER BY name").all() as Person[];
  }

  /** Adds somebody; false when the name is taken. @param secret as {@link secretOf} makes it */
  add(name: string, secret: string, now: string): boolean {
    return this.#sql("INSERT INTO people (name, secret, added_at) VALUES (?, ?, ?) ON CONFLICT DO NOTHING").run(name, secret, now).changes === 1;
  }

  /** Gives somebody another password, and ends the sessions begun with the former one; false when there is no such person. */
  changeSecret(name: string, secret: string): boolean {
    this.#sql("DELETE FROM sessions WHERE person_id = (SELECT id FROM people WHERE name = ?)").run(name);
    return this.#sql("UPDATE people SET secret = ? WHERE name = ?").run(secret, name).changes === 1;
  }

  /** Takes somebody off; what they did keeps their name. False when there is no such person. */
  remove(name: string): boolean {
    this.#sql("DELETE FROM sessions WHERE person_id = (SELECT id FROM people WHERE name = ?)").run(name);
    return this.#sql("DELETE FROM people WHERE name = ?").run(name).changes === 1;
  }

  /** The person of that name and password; undefined for a wrong one of either, after as much work. */
  async check(name: string, password: string): Promise<Person | undefined> {
    const row = this.#sql("SELECT id, name, secret FROM people WHERE name = ?").get(name) as PersonRow | undefined;
    const fits = await isSecretOf(password, row?.secret ?? NOBODY);
    return row && fits ? { id: row.id, name: row.name } : undefined;
  }

  /** Begins a session, and forgets those that are over. @returns its token, which is kept nowhere */
  begin(person: Person, now: Date): string {
    const token = randomBytes(32).toString("base64url");
    const [idle, absolute] = [new Date(now.getTime() - SESSION.idle), new Date(now.getTime() - SESSION.absolute)];
    this.#sql("DELETE FROM sessions WHERE seen_at < ? OR begun_at < ?").run(idle.toISOString(), absolute.toISOString());
    const at = now.toISOString();
    this.#sql("INSERT INTO sessions (token, person_id, begun_at, seen_at) VALUES (?, ?, ?, ?)").run(hashOf(token), person.id, at, at);
    return token;
  }

  /** Whose session a token is; undefined when it is none, or over. */
  of(token: string, now: Date): (Person & { unseen: boolean }) | undefined {
    const row = this.#sql(
      "SELECT p.id, p.name, s.begun_at AS begunAt, s.seen_at AS seenAt FROM sessions s JOIN people p ON p.id = s.person_id WHERE s.token = ?",
    ).get(hashOf(token)) as (Person & { begunAt: string; seenAt: string }) | undefined;
    if (!row) return undefined;
    const [sinceSeen, sinceBegun] = [now.getTime() - Date.parse(row.seenAt), now.getTime() - Date.parse(row.begunAt)];
    if (sinceSeen > SESSION.idle || sinceBegun > SESSION.absolute) return undefined;
    return { id: row.id, name: row.name, unseen: sinceSeen > SEEN_EVERY };
  }

  /** Notes that a session is in use. */
  see(token: string, now: Date): void {
    this.#sql("UPDATE sessions SET seen_at = ? WHERE token = ?").run(now.toISOString(), hashOf(token));
  }

  /** Ends a session. */
  end(token: string): void {
    this.#sql("DELETE FROM sessions WHERE token = ?").run(hashOf(token));
  }
}

/** What is kept of a password: salt and scrypt key. */
export async function secretOf(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `${salt.toString("base64url")}.${(await derive(password, salt, KEY_BYTES, COST)).toString("base64url")}`;
}

/** A secret that no password has: for names that nobody has. */
const NOBODY = `${Buffer.alloc(16).toString("base64url")}.${Buffer.alloc(KEY_BYTES).toString("base64url")}`;

async function isSecretOf(password: string, secret: string): Promise<boolean> {
  const [salt = "", key = ""] = secret.split(".");
  return timingSafeEqual(await derive(password, Buffer.from(salt, "base64url"), KEY_BYTES, COST), Buffer.from(key, "base64url"));
}

const hashOf = (token: string): string => createHash("sha256").update(token).digest("base64url");
