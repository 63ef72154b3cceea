import type { NextFunction, Request, Response } from "express";
import { sessionCookie } from "../app/session";
import type { Person } from "../store/people";
import type { Store } from "../store/store";

/** All that is to be had without a session; the program's own files are served before this. */
const OPEN = /^\/sign-in(\.data)?$/;

/**
 * Lets nobody in without a session: a page leads to the sign-in page and back, anything else is refused. Who asks is put down for
 * the pages.
 */
export function signedInOnly(store: Store) {
  return async (request: Request, response: Response, next: NextFunction): Promise<void> => {
    const now = new Date();
    const token: unknown = await sessionCookie.parse(request.headers.cookie ?? null);
    const found = typeof token === "string" ? store.people.of(token, now) : undefined;
    if (found && typeof token === "string") {
      // Being busy is no reason to turn anybody away.
      if (found.unseen) await store.patiently(() => store.people.see(token, now)).catch(() => undefined);
      response.locals.person = { id: found.id, name: found.name } satisfies Person;
      return next();
    }
    if (OPEN.test(request.path)) return next();
    if (request.method === "GET" && request.accepts(["json", "html"]) === "html" && !request.path.endsWith(".data")) {
      response.redirect(303, `/sign-in?back=${encodeURIComponent(request.originalUrl)}`);
      return;
    }
    response.status(401).type("text").send("Sign in first. Nothing was changed.");
  };
}
