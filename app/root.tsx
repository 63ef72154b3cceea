import "./app.css";
import { useLayoutEffect } from "react";
import {
  isRouteErrorResponse,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  type ShouldRevalidateFunctionArgs,
  useRouteError,
  useRouteLoaderData,
} from "react-router";
import type { Route } from "./+types/root";
import { personContext } from "./context";
import { ElsewhereWaiting } from "./jobs/Elsewhere";
import { useNonce } from "./nonce";
import { themeOf } from "./theme";
import { TopBar } from "./ui/TopBar";
import { Trouble } from "./ui/Trouble";
import { needsNews } from "./unsent";

export const links: Route.LinksFunction = () => [{ rel: "icon", href: "/favicon.svg", type: "image/svg+xml" }];

export function loader({ request, context }: Route.LoaderArgs) {
  return { theme: themeOf(request), person: context.get(personContext)?.name };
}

/** The frame needs nothing new until a form is sent; a step taken with the line down must not fail for it. */
export function shouldRevalidate(args: ShouldRevalidateFunctionArgs) {
  return args.formMethod !== undefined && needsNews(args);
}

export function Layout({ children }: { children: React.ReactNode }) {
  const data = useRouteLoaderData<typeof loader>("root");
  const nonce = useNonce();
  // After the effects of all that is drawn inside: every key and tap is heard from here on.
  useLayoutEffect(() => {
    document.documentElement.dataset.listening = "";
  }, []);
  return (
    <html lang="en" data-theme={data?.theme ?? "system"}>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export default function App() {
  return (
    <>
      <ElsewhereWaiting at="upper" />
      <Outlet />
      <ElsewhereWaiting at="lower" />
    </>
  );
}

const TROUBLES: Record<number, string> = { 401: "Your session is over", 404: "Nothing hangs here", 503: "Not just now" };

export function ErrorBoundary() {
  const error = useRouteError();
  if (isRouteErrorResponse(error)) {
    const says = typeof error.data === "string" && error.data !== "" ? error.data : "There is nothing at this address.";
    return (
      <>
        <title>{`${error.status} · Uvrel`}</title>
        <TopBar />
        <Trouble title={TROUBLES[error.status] ?? `Refused (${error.status})`} says={says} />
        {error.status === 401 ? (
          <p className="mx-auto max-w-2xl px-4">
            <a href="/sign-in">Sign in</a>
          </p>
        ) : null}
      </>
    );
  }
  return (
    <>
      <title>Trouble · Uvrel</title>
      <TopBar />
      <Trouble
        title="Something broke on our side"
        says="The page could not be drawn. Every reading that was kept is still kept. Load the page again; if it stays like this, restart Uvrel."
        detail={error instanceof Error ? error.message : undefined}
      />
    </>
  );
}
