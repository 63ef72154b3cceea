import { redirect } from "react-router";
import { formOf } from "../forms.server";
import { safePath } from "../session";
import { THEMES } from "../theme";
import type { Route } from "./+types/theme";

const YEAR_SECONDS = 31_536_000;

/** Remembers the theme in a cookie and goes back to where the hand came from. */
export async function action({ request }: Route.ActionArgs) {
  const form = await formOf(request);
  const theme = THEMES.find((theme) => theme === form.get("theme")) ?? "system";
  return redirect(safePath(form.get("back")), { headers: { "Set-Cookie": `theme=${theme}; Path=/; Max-Age=${YEAR_SECONDS}; SameSite=Lax` } });
}

export function loader() {
  return redirect("/");
}
