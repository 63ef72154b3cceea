import { data, Form, redirect, useNavigation } from "react-router";
import { MOST_NAME, PASSWORD } from "../../store/people";
import { personContext, storeContext, visitContext } from "../context";
import { formOf, written } from "../forms.server";
import { safePath, sessionCookie } from "../session";
import { triesLeft } from "../tries.server";
import { errorProps, Field } from "../ui/forms";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/sign-in";

export function loader({ context, request }: Route.LoaderArgs) {
  const back = safePath(new URL(request.url).searchParams.get("back"));
  // On the machine itself nobody is asked, and who is in need not come in again.
  if (!context.get(visitContext).asked || context.get(personContext)) throw redirect(back);
  const { people, workshop } = context.get(storeContext);
  return { back, shop: workshop.shop().name, nobodyYet: people.list().length === 0 };
}

export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const { asked, address, secure } = context.get(visitContext);
  if (!asked) throw redirect("/");
  const form = await formOf(request);
  const name = String(form.get("name") ?? "").trim();
  const password = String(form.get("password") ?? "");
  const refuse = (errors: Record<string, string>, status = 422) => data({ errors, name }, { status });
  if (name === "" || name.length > MOST_NAME) return refuse({ name: "Type your name, as it was added." });
  if (password === "" || password.length > PASSWORD.most) return refuse({ password: "Type your password." });
  const tries = await triesLeft(name, address);
  if (tries.waitMinutes > 0) return refuse({ password: `Too many tries. Wait ${tries.waitMinutes} min, then try again.` }, 429);
  const person = await store.people.check(name, password);
  if (!person) return refuse({ password: "That name and password do not go together." });
  await tries.forget();
  const token = await written(store.patiently(() => store.people.begin(person, new Date())));
  return redirect(safePath(form.get("back")), { headers: { "Set-Cookie": await sessionCookie.serialize(token, { secure }) } });
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function SignIn({ loaderData, actionData }: Route.ComponentProps) {
  const { back, shop, nobodyYet } = loaderData;
  const errors: Record<string, string> = actionData?.errors ?? {};
  const busy = useNavigation().state !== "idle";
  return (
    <>
      <title>Sign in · Uvrel</title>
      <main className="mx-auto flex max-w-sm flex-col gap-4 px-4 py-10">
        <h1 className="m-0">{shop}</h1>
        {nobodyYet ? (
          <p className="rule-left m-0">
            Nobody can sign in yet. On the machine that runs Uvrel, add people with <span className="num">uvrel person add NAME</span>.
          </p>
        ) : (
          <p className="text-mute m-0">What you read, mend and close here carries your name.</p>
        )}
        <NotSent />
        <Form method="post" className="flex flex-col gap-4">
          <input type="hidden" name="back" value={back} />
          <Field label="Name" id="name" error={errors.name}>
            <input name="name" autoComplete="username" className="field" {...errorProps("name", errors.name)} />
          </Field>
          <Field label="Password" id="password" error={errors.password}>
            <input name="password" type="password" autoComplete="current-password" className="field" {...errorProps("password", errors.password)} />
          </Field>
          <button type="submit" className="btn btn-main self-start" disabled={busy}>
            Sign in
          </button>
        </Form>
      </main>
    </>
  );
}
