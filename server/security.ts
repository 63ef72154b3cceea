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

/** True when the browser says that the request comes from the origin it goes to. */
export function isSameOrigin(headers: { origin?: string | undefined; host?: string | undefined; "sec-fetch-site"?: unknown }): boolean {
  const site = headers["sec-fetch-site"];
  if (site !== undefined) return site === "same-origin";
  if (!headers.origin || !headers.host) return false;
  return URL.canParse(headers.origin) && new URL(headers.origin).host === headers.host;
}

const LOOPBACK_NAMES = new Set(["localhost", "127.0.0.1", "[::1]"]);

/** Bound to loopback, only loopback names are answered: a foreign page cannot point its own name at this machine. */
export function knownHostOnly(boundTo: string) {
  const loopback = LOOPBACK_NAMES.has(boundTo) || boundTo === "::1";
  return (request: Request, response: Response, next: NextFunction): void => {
    const name = (request.headers.host ?? "").replace(/:\d+$/, "");
    if (!loopback || LOOPBACK_NAMES.has(name)) return next();
    response.status(421).type("text").send("This Uvrel answers on this machine only. Set HOST to open it to the workshop's network.");
  };
}
