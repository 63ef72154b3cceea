import { redirect } from "react-router";
import { THEMES } from "../theme";
import type { Route } from "./+types/theme";

const YEAR_SECONDS = 31_536_000;

/** Remembers the theme in a cookie and goes back to where the hand came from. */
export async function action({ request }: Route.ActionArgs) {
  const form = await request.formData();
  const theme = THEMES.find((one) => one === form.get("theme")) ?? "system";
  const back = String(form.get("back") ?? "/");
  const safe = /^\/(?![/\\])/.test(back) ? back : "/";
  return redirect(safe, { headers: { "Set-Cookie": `theme=${theme}; Path=/; Max-Age=${YEAR_SECONDS}; SameSite=Lax` } });
}

export function loader() {
  return redirect("/");
}
