import { describe, expect, jest, test } from "@jest/globals";
import type { Request, Response } from "express";
import { isSameOrigin, knownHostOnly, sameOriginOnly, securityHeaders, withinBounds } from "./security";

/** A request and an answer with just what the guards look at. */
function pass(
  guard: (request: Request, response: Response, next: () => void) => void,
  request: { method?: string; headers?: Record<string, string>; originalUrl?: string },
) {
  const headers: Record<string, string> = {};
  const next = jest.fn();
  const response = {
    locals: {} as Record<string, unknown>,
    code: 200,
    body: "",
    setHeader: (name: string, value: string) => {
      headers[name] = value;
    },
    status(code: number) {
      this.code = code;
      return this;
    },
    type() {
      return this;
    },
    send(body: string) {
      this.body = body;
      return this;
    },
  };
  guard({ method: "GET", headers: {}, ...request } as unknown as Request, response as unknown as Response, next);
  return { headers, next, response };
}

describe("an action comes from our own pages", () => {
  test.each<[string, Record<string, string>, boolean]>([
    ["the browser says same-origin", { "sec-fetch-site": "same-origin", host: "127.0.0.1:4280" }, true],
    ["the browser says cross-site", { "sec-fetch-site": "cross-site", origin: "http://127.0.0.1:4280", host: "127.0.0.1:4280" }, false],
    ["another port of this machine", { "sec-fetch-site": "same-site", host: "localhost:4280" }, false],
    ["the origin is the host", { origin: "http://localhost:4280", host: "localhost:4280" }, true],
    ["the origin is another scheme's", { origin: "https://localhost:4280", host: "localhost:4280" }, false],
    ["a TLS proxy stands in front", { origin: "https://workshop.lan", host: "workshop.lan", "x-forwarded-proto": "https" }, true],
    ["the origin is elsewhere", { origin: "http://elsewhere.example", host: "localhost:4280" }, false],
    ["the origin is null", { origin: "null", host: "localhost:4280" }, false],
    ["nobody says anything", { host: "localhost:4280" }, false],
  ])("%s", (_what, headers, yes) => {
    expect(isSameOrigin(headers)).toBe(yes);
    const { next, response } = pass(sameOriginOnly, { method: "POST", headers });
    expect(next).toHaveBeenCalledTimes(yes ? 1 : 0);
    if (!yes) expect(response.code).toBe(403);
    if (!yes) expect(response.body).toMatch(/Nothing was changed/);
  });

  test("looking is free", () => {
    expect(pass(sameOriginOnly, { method: "GET" }).next).toHaveBeenCalled();
  });
});

describe("the host", () => {
  test.each([
    ["127.0.0.1", "127.0.0.1:4280", true],
    ["127.0.0.1", "localhost:4280", true],
    ["127.0.0.1", "rebound.example:4280", false],
    ["::1", "[::1]:4280", true],
    ["127.0.0.1", "LOCALHOST:4280", true],
    ["127.0.0.2", "127.0.0.2:4280", true],
    ["127.0.0.1", "192.168.7.4:4280", false],
    ["127.0.0.1", "", false],
    ["127.0.0.1", "127.0.0.1:99999", false],
    ["0.0.0.0", "192.168.7.4:4280", true],
    ["0.0.0.0", "[fd00::7]:4280", true],
    ["0.0.0.0", "Workshop.lan:4280", true],
    ["0.0.0.0", "rebound.example:4280", false],
    ["0.0.0.0", "127.0.0.1.rebound.example", false],
  ])("bound to %s, asked as %s: %s", (bound, host, yes) => {
    const { next, response } = pass(knownHostOnly(bound, "workshop.lan, bay.lan"), { headers: { host } });
    expect(next).toHaveBeenCalledTimes(yes ? 1 : 0);
    expect(response.code).toBe(yes ? 200 : 421);
  });
});

describe("the headers", () => {
  test("in production scripts need this answer's nonce, which is never the same", () => {
    const answer = pass(securityHeaders(true), {});
    const two = pass(securityHeaders(true), {});
    const policy = answer.headers["Content-Security-Policy"] ?? "";
    expect(policy).toContain(`script-src 'self' 'nonce-${String(answer.response.locals.nonce)}'`);
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("connect-src 'self';");
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
    expect(answer.response.locals.nonce).not.toBe(two.response.locals.nonce);
    expect(answer.headers["X-Content-Type-Options"]).toBe("nosniff");
  });
});

describe("what is sent stays within bounds", () => {
  const form = { "content-type": "application/x-www-form-urlencoded", "content-length": "20" };
  test.each<[string, { method?: string; headers?: Record<string, string>; originalUrl?: string }, number]>([
    ["a page is asked for", { originalUrl: "/jobs/1" }, 200],
    ["a form", { method: "POST", originalUrl: "/intake", headers: form }, 200],
    ["JSON", { method: "POST", originalUrl: "/jobs/1/entries", headers: { ...form, "content-type": "application/json; charset=utf-8" } }, 200],
    ["an upload in parts", { method: "POST", originalUrl: "/import", headers: { ...form, "content-type": "multipart/form-data; boundary=x" } }, 200],
    ["an empty body", { method: "POST", originalUrl: "/theme", headers: { "content-length": "0" } }, 200],
    ["a body of no stated length", { method: "POST", originalUrl: "/intake", headers: { ...form, "transfer-encoding": "chunked" } }, 411],
    ["a body too large", { method: "POST", originalUrl: "/import", headers: { ...form, "content-length": "99999999" } }, 413],
    ["a table as large as a page takes", { method: "POST", originalUrl: "/records/out", headers: { ...form, "content-length": "5999999" } }, 200],
    ["the same by a page's own way", { method: "POST", originalUrl: "/records/out.data?index", headers: { ...form, "content-length": "5999999" } }, 200],
    ["a table that is for the command line", { method: "POST", originalUrl: "/records/out", headers: { ...form, "content-length": "6000001" } }, 413],
    ["anything else of a table's size", { method: "POST", originalUrl: "/records", headers: { ...form, "content-length": "5999999" } }, 413],
    ["a length that is none", { method: "POST", originalUrl: "/import", headers: { "content-type": "text/plain", "content-length": "7" } }, 415],
    ["OPTIONS *", { method: "OPTIONS", originalUrl: "*" }, 400],
    ["a whole address", { originalUrl: "http://elsewhere.example/" }, 400],
    ["an address that cannot be read", { originalUrl: "//[" }, 400],
  ])("%s", (_what, request, code) => {
    const { next, response } = pass(withinBounds, request);
    expect(response.code).toBe(code);
    expect(next).toHaveBeenCalledTimes(code === 200 ? 1 : 0);
    if (code !== 200) expect(response.body).toMatch(/Nothing was changed\.$/);
  });
});
