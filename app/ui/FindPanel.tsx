import { Search } from "lucide-react";
import { useLayoutEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { useKeys } from "./keys";
import { Panel } from "./Panel";
import { useFound } from "./useFound";

/** What each kind of find is called. */
const KINDS = { machine: "Machine", sheet: "Sheet", job: "Job" } as const;

/** Pages that are found by their names, without the server. */
const PAGES: readonly { title: string; to: string }[] = [
  { title: "Rail: the machines of the day", to: "/" },
  { title: "Take in a machine", to: "/jobs/new" },
  { title: "Day: what hands turn to next", to: "/day" },
  { title: "Records of all jobs", to: "/records" },
  { title: "Tables in and out", to: "/records/out" },
  { title: "Learned from repairs, sound machines and meters", to: "/learned" },
  { title: "Sheets", to: "/machines" },
  { title: "Traces: volts over time, from a log", to: "/traces" },
  { title: "Rig", to: "/rig" },
  { title: "Shop: school, tools, meters, prices, backups", to: "/settings" },
];

/** Anything by a few letters: machines, jobs, sheets, pages. Enter goes to the first. */
export function FindPanel() {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const navigate = useNavigate();
  useKeys({ "/": () => setOpen(true) });
  const words = typed.trim().toLowerCase();
  const { found, unreachable } = useFound(words);

  const pages = words === "" ? [] : PAGES.filter(({ title }) => title.toLowerCase().includes(words));
  const close = (): void => {
    setOpen(false);
    setTyped("");
  };
  const first = pages[0]?.to ?? found?.[0]?.to;
  return (
    <>
      <button
        type="button"
        className="text-mute flex min-h-11 min-w-9 items-center justify-center gap-1 whitespace-nowrap"
        aria-label="Find anything"
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(true)}
      >
        <Search size={18} aria-hidden="true" /> <span className="key max-md:hidden">/</span>
      </button>
      <Panel open={open} onOpenChange={close} title="Find">
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (!first) return;
            close();
            void navigate(first);
          }}
        >
          <Letters typed={typed} onType={setTyped} />
        </form>
        <div role="status" className="text-mute mt-2">
          {words === ""
            ? "A few letters do, with a typing error too."
            : unreachable
              ? "The server cannot be reached; pages are found still."
              : found && found.length + pages.length === 0
                ? "Nothing is called so."
                : ""}
        </div>
        {/* What is picked closes the panel that lay over the page. */}
        <ul className="m-0 mt-2 list-none p-0" onClickCapture={(event) => (event.target instanceof Element && event.target.closest("a") ? close() : undefined)}>
          {pages.map(({ title, to }) => (
            <Line key={to} to={to} kind="Page" title={title} more="" />
          ))}
          {(found ?? []).map(({ kind, ref, title, more, to }) => (
            <Line key={`${kind} ${ref}`} to={to} kind={KINDS[kind]} title={title} more={more} />
          ))}
        </ul>
      </Panel>
    </>
  );
}

/** The field, in focus as soon as it is there: the dialog leaves the focus where it finds it inside. */
function Letters({ typed, onType }: { typed: string; onType: (typed: string) => void }) {
  const field = useRef<HTMLInputElement>(null);
  useLayoutEffect(() => field.current?.focus(), []);
  return (
    <label className="flex flex-col gap-1">
      Tag, name, maker, model, or what the owner said
      <input ref={field} type="search" className="field" value={typed} onChange={(event) => onType(event.target.value)} autoComplete="off" />
    </label>
  );
}

function Line({ to, kind, title, more }: { to: string; kind: string; title: string; more: string }) {
  return (
    <li className="border-hair border-t">
      <Link to={to} className="flex min-h-12 flex-wrap items-baseline gap-x-3 py-2">
        <span className="text-mute w-18 shrink-0">{kind}</span>
        <span className="min-w-0 flex-1">
          <span className="font-medium">{title}</span>
          {more.trim() ? <span className="text-mute block truncate text-[0.95rem]">{more}</span> : null}
        </span>
      </Link>
    </li>
  );
}
