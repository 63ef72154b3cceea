import { useState } from "react";
import type { Sheet } from "../../core/machine/sheet";
import { faultText, type RigSetup } from "../../core/rig/setup";
import type { Instrument } from "../../store/instruments";
import { InstrumentSelect } from "../live/InstrumentSelect";

/** The set-up as a stand-in is told it: everything, so that nothing of what it stood at before is left. */
function standWords(setup: RigSetup): string {
  const lists = (["unplug", "pulled"] as const).flatMap((name) => (setup[name].length > 0 ? [`${name}=${setup[name].join(",")}`] : [`${name}=none`]));
  const faults = setup.faults.length > 0 ? setup.faults.map((fault) => `fault=${faultText(fault)}`) : ["fault=none"];
  const plain = (["engine", "key", "rpm", "loads", "field", "red", "black", "ambientC", "charge"] as const).map((name) => `${name}=${setup[name]}`);
  return [...plain, ...lists, ...faults].join(" ");
}

/** Puts the rig's machine, as it stands, under a stand-in meter: the bench then reads it live. */
export function ToStandIn({ instruments, setup, sheet }: { instruments: readonly Instrument[]; setup: RigSetup; sheet: Sheet }) {
  const [says, setSays] = useState("");
  const [first] = instruments;
  const [chosen, setChosen] = useState(first?.id);
  if (!first) return null;
  const put = async (): Promise<void> => {
    const body = new FormData();
    body.set("stand", standWords(setup));
    body.set("sheet", sheet.id);
    setSays("…");
    const response = await fetch(`/instruments/${chosen}/live`, { method: "POST", body }).catch(() => undefined);
    setSays(response?.ok ? "It stands under that meter now." : response ? await response.text() : "The server cannot be reached.");
  };
  return (
    <div className="flex flex-wrap items-center gap-x-4">
      <button type="button" className="text-petrol min-h-11" onClick={() => void put()}>
        Put it under
      </button>
      <InstrumentSelect instruments={instruments} value={chosen} onChange={setChosen} label="Stand-in" />
      <span role="status">{says}</span>
    </div>
  );
}
