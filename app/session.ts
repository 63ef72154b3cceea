import { createCookie } from "react-router";
import { SESSION } from "../store/people";

/** The cookie that carries a session's token: out of scripts' reach, and sent by no page of another site. */
export const sessionCookie = createCookie("uvrel-session", { httpOnly: true, sameSite: "strict", path: "/", maxAge: SESSION.absolute / 1000 });

/** A path of this server to go to, or the rail: what an address says may lead nowhere else. */
export function safePath(path: FormDataEntryValue | string | null): string {
  return typeof path === "string" && /^\/(?![/\\])[^\s\p{Cc}]*$/u.test(path) ? path : "/";
}
