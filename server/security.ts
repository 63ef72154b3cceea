import { randomBytes } from "node:crypto";
import type { NextFunction, Request, Response } from "express";

/** Headers of every answer; the script policy allows nothing but our own files and this answer's nonce. */
export function securityHeaders(production: boolean) {
  return (_request: Request, response: Response, next: NextFunction): void => {
    const nonce = randomBytes(16).toString("base64");
    response.locals.nonce = production ? nonce : "";
    const scripts = production ? `'self' 'nonce-${nonce}'` : "'self' 'unsafe-inline'";
    response.setHeader(
      "Content-Security-Policy",
      [
        "default-src 'none'",
        `script-src ${scripts}`,
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data:",
        "font-src 'self'",
        `connect-src 'self'${production ? "" : " ws:"}`,
        "worker-src 'self'",
        "manifest-src 'self'",
        "form-action 'self'",
        "frame-ancestors 'none'",
        "base-uri 'none'",
      ].join("; "),
    );
    response.setHeader("X-Content-Type-Options", "nosniff");
    response.setHeader("Referrer-Policy", "same-origin");
    response.setHeader("Cross-Origin-Opener-Policy", "same-origin");
    response.setHeader("Cross-Origin-Resource-Policy", "same-origin");
    response.setHeader("Permissions-Policy", "camera=(), microphone=(), geolocation=()");
    next();
  };
}

const SAFE_METHODS = new Set(["GET", "HEAD", "OPTIONS"]);

/** Refuses an action that did not come from a page of this very origin. */
export function sameOriginOnly(request: Request, response: Response, next: NextFunction): void {
  if (SAFE_METHODS.has(request.method) || isSameOrigin(request.headers)) return next();
  response.status(403).type("text").send("This action did not come from a page of this Uvrel. Nothing was changed; reload the page and try again.");
}

/** True when the browser says that the request comes from the origin it goes to, scheme included. */
export function isSameOrigin(headers: {
  origin?: string | undefined;
  host?: string | undefined;
  "sec-fetch-site"?: unknown;
  /** What a TLS proxy in front says it was asked by. */
  "x-forwarded-proto"?: unknown;
}): boolean {
  const site = headers["sec-fetch-site"];
  if (site !== undefined) return site === "same-origin";
  if (!headers.origin || !headers.host) return false;
  const scheme = headers["x-forwarded-proto"] === "https" ? "https" : "http";
  return headers.origin.toLowerCase() === `${scheme}://${headers.host}`.toLowerCase();
}

/** The names of this very machine: the whole of 127/8, and IPv6's own. */
const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/;
/** An address in figures: no foreign page can point a name of its own at it. */
const ADDRESS = /^(\d{1,3}(\.\d{1,3}){3}|\[[0-9a-f:.]+\])$/;

/** True when a server bound there is reached from this machine alone. */
export const isLoopback = (boundTo: string): boolean => LOOPBACK.test(boundTo.toLowerCase()) || boundTo === "::1";

/**
 * Only known names are answered, so that a foreign page cannot point its own name at this machine (DNS rebinding): bound to loopback
 * those of this machine, beyond it addresses in figures and the names that the workshop has set.
 * @param names further names, as in `UVREL_HOSTS`, commas between them
 */
export function knownHostOnly(boundTo: string, names = "") {
  const set = new Set(
    names
      .split(",")
      .map((name) => name.trim().toLowerCase())
      .filter(Boolean),
  );
  const loopback = isLoopback(boundTo);
  return (request: Request, response: Response, next: NextFunction): void => {
    const host = request.headers.host ?? "";
    const name = host.replace(/:\d+$/, "").toLowerCase();
    // A port beyond all ports makes no address of any name.
    if (URL.canParse(`http://${host}`) && (LOOPBACK.test(name) || set.has(name) || (!loopback && ADDRESS.test(name)))) return next();
    const help = loopback
      ? "This Uvrel answers on this machine only. Set HOST to open it to the workshop's network."
      : "This Uvrel does not go by that name. Ask for it by its address in figures, or add the name to UVREL_HOSTS.";
    response.status(421).type("text").send(help);
  };
}

/** The largest body that is taken, bytes: a case file of 2 MB and what a form wraps round it. */
const MOST_BODY = 2_500_000;
/** Tables that are brought in may be larger; nothing else is sent there. */
const TABLES_AT = "/records/out";
const MOST_TABLE = 6_000_000;
const BODY_TYPES = /^(application\/json|application\/x-www-form-urlencoded|multipart\/form-data)\b/i;

/**
 * Refuses, before anything reads it, a body that is too large, of unknown length or of a kind that no page of ours sends; and an
 * address that is none of this server's.
 */
export function withinBounds(request: Request, response: Response, next: NextFunction): void {
  const refuse = (status: number, says: string): void => void response.status(status).type("text").send(`${says} Nothing was changed.`);
  if (!request.originalUrl.startsWith("/")) return refuse(400, "Uvrel is asked for by a path such as /jobs/1.");
  if (!URL.canParse(request.originalUrl, "http://uvrel.invalid")) return refuse(400, "That is no address.");
  if (SAFE_METHODS.has(request.method)) return next();
  const { "content-length": length, "transfer-encoding": encoding, "content-type": type } = request.headers;
  if (encoding !== undefined || length === undefined) return refuse(411, "What is sent here has to say how long it is.");
  const most = request.originalUrl.replace(/[?.].*$/, "") === TABLES_AT ? MOST_TABLE : MOST_BODY;
  if (Number(length) > most) return refuse(413, `What is sent here may be ${most / 1e6} MB at most.`);
  if (Number(length) > 0 && !BODY_TYPES.test(type ?? "")) return refuse(415, "A form or JSON is taken here.");
  next();
}
