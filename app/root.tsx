import "./app.css";
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
import { ElsewhereWaiting } from "./jobs/Elsewhere";
import { useNonce } from "./nonce";
import { themeOf } from "./theme";
import { TopBar } from "./ui/TopBar";
import { Trouble } from "./ui/Trouble";
import { needsNews } from "./unsent";

export const links: Route.LinksFunction = () => [{ rel: "icon", href: "/favicon.svg", type: "image/svg+xml" }];

export function loader({ request }: Route.LoaderArgs) {
  return { theme: themeOf(request) };
}

/** The frame needs nothing new until a form is sent; a step taken with the line down must not fail for it. */
export function shouldRevalidate(args: ShouldRevalidateFunctionArgs) {
  return args.formMethod !== undefined && needsNews(args);
}

export function Layout({ children }: { children: React.ReactNode }) {
  const data = useRouteLoaderData<typeof loader>("root");
  const nonce = useNonce();
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
      <ElsewhereWaiting />
      <Outlet />
    </>
  );
}

export function ErrorBoundary() {
  const error = useRouteError();
  if (isRouteErrorResponse(error)) {
    const says = typeof error.data === "string" && error.data !== "" ? error.data : "There is nothing at this address.";
    return (
      <>
        <title>{`${error.status} · Uvrel`}</title>
        <TopBar />
        <Trouble title={error.status === 404 ? "Nothing hangs here" : `Refused (${error.status})`} says={says} />
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
