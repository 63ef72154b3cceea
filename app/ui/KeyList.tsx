import { useState } from "react";
import { useNavigate } from "react-router";
import { KEYS, useKeys } from "./keys";
import { Panel } from "./Panel";

/** The list of keys, and the keys that go from screen to screen. */
export function KeyList() {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  useKeys({
    "?": () => setOpen(true),
    "g r": () => navigate("/"),
    "g n": () => navigate("/jobs/new"),
    "g d": () => navigate("/day"),
    "g c": () => navigate("/records"),
    "g m": () => navigate("/machines"),
    "g t": () => navigate("/rig"),
    "g l": () => navigate("/traces"),
    "g s": () => navigate("/settings"),
  });
  return (
    <>
      <button
        type="button"
        className="text-mute hidden min-h-11 whitespace-nowrap md:inline-block"
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(true)}
      >
        Keys <span className="key">?</span>
      </button>
      <Panel open={open} onOpenChange={setOpen} title="Keys">
        <dl className="m-0 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1.5">
          {KEYS.map(([key, does]) => (
            <div key={key} className="contents">
              <dt className="num">{key}</dt>
              <dd className="m-0">{does}</dd>
            </div>
          ))}
        </dl>
      </Panel>
    </>
  );
}
