import { ArrowLeft } from "lucide-react";
import type { ReactNode } from "react";
import { Form, Link, NavLink, useLocation, useRouteLoaderData } from "react-router";
import { THEMES, type Theme } from "../theme";
import { FindPanel } from "./FindPanel";
import { KeyList } from "./KeyList";

/** The screens; those that are seldom gone to stand there where there is room, and are found by name on a phone. */
const PLACES: readonly { to: string; label: string; end: boolean; wide?: true }[] = [
  { to: "/", label: "Rail", end: true },
  { to: "/day", label: "Day", end: false },
  { to: "/records", label: "Records", end: false },
  { to: "/machines", label: "Sheets", end: false },
  { to: "/traces", label: "Traces", end: false, wide: true },
  { to: "/rig", label: "Rig", end: false },
  { to: "/settings", label: "Shop", end: false },
];

interface TopBarProps {
  /** What is being worked on, drawn as a repair tag. */
  tag?: string | undefined;
  /** The owner's words, where there is room. */
  words?: string | undefined;
  /** Figures at the right end. */
  children?: ReactNode;
  back?: { to: string; label: string } | undefined;
}

/** The thin bar on top of every screen. */
export function TopBar({ tag, words, children, back }: TopBarProps) {
  return (
    <header className="no-print border-hair flex min-h-12 items-center gap-x-5 border-b px-3 md:px-5">
      {back ? (
        <Link to={back.to} className="-ml-1 flex min-h-11 min-w-9 items-center gap-1 text-petrol no-underline">
          <ArrowLeft size={18} aria-hidden="true" />
          <span className={tag ? "sr-only md:not-sr-only" : ""}>{back.label}</span>
        </Link>
      ) : (
        <span className="hidden text-xl font-semibold sm:inline">Uvrel</span>
      )}
      {tag ? <Tag text={tag} /> : null}
      {words ? <p className="text-mute m-0 hidden min-w-0 flex-1 truncate lg:block">{words}</p> : null}
      <div className="ml-auto flex items-center gap-4">
        {children}
        {tag ? null : (
          <nav aria-label="Screens" className={back ? "hidden gap-1 sm:flex" : "flex gap-1"}>
            {PLACES.map(({ to, label, end, wide }) => (
              <NavLink
                key={to}
                to={to}
                end={end}
                className={({ isActive }) =>
                  `${wide ? "hidden sm:flex" : "flex"} min-h-11 items-center px-2 no-underline ${isActive ? "border-ink border-b-2 font-semibold" : "text-mute"}`
                }
              >
                {label}
              </NavLink>
            ))}
          </nav>
        )}
        <div className={tag ? "hidden md:flex md:items-center md:gap-4" : "flex items-center gap-3"}>
          <SignedIn />
          <ThemeSwitch />
          <FindPanel />
          <KeyList />
        </div>
      </div>
    </header>
  );
}

/** A repair tag: a punched hole, then the name. */
function Tag({ text }: { text: string }) {
  return (
    <p className="border-ink bg-sheet m-0 flex min-w-0 items-center gap-2 rounded-l-full border py-0.5 pr-3 pl-2">
      <span className="border-ink size-2 shrink-0 rounded-full border" />
      <span className="truncate">{text}</span>
    </p>
  );
}

const NEXT_THEME: Record<Theme, Theme> = { system: "light", light: "dark", dark: "system" };
const THEME_WORDS: Record<Theme, string> = { system: "Light: as device", light: "Light: day", dark: "Light: night" };

/** Who works here, where people sign in, and the way out. */
function SignedIn() {
  const person = useRouteLoaderData<{ person?: string }>("root")?.person;
  if (!person) return null;
  return (
    <Form method="post" action="/sign-out" className="hidden items-center gap-3 sm:flex">
      <span className="max-w-32 truncate">{person}</span>
      <button type="submit" className="text-mute min-h-11">
        Sign out
      </button>
    </Form>
  );
}

function ThemeSwitch() {
  const theme = useRouteLoaderData<{ theme: Theme }>("root")?.theme ?? THEMES[0];
  const { pathname, search } = useLocation();
  return (
    <Form method="post" action="/theme" preventScrollReset className="hidden sm:block">
      <input type="hidden" name="back" value={pathname + search} />
      <button type="submit" name="theme" value={NEXT_THEME[theme]} className="text-mute min-h-11">
        {THEME_WORDS[theme]}
      </button>
    </Form>
  );
}
