import { redirect } from "react-router";
import { storeContext } from "../context";
import { written } from "../forms.server";
import { sessionCookie } from "../session";
import type { Route } from "./+types/sign-out";

/** Ends the session on the server, and takes its cookie back. */
export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const token: unknown = await sessionCookie.parse(request.headers.get("cookie"));
  if (typeof token === "string") await written(store.patiently(() => store.people.end(token)));
  return redirect("/sign-in", { headers: { "Set-Cookie": await sessionCookie.serialize("", { maxAge: 0 }) } });
}

export function loader() {
  return redirect("/");
}
