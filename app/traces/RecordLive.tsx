import { format } from "date-fns";
import { useEffect, useRef, useState } from "react";
import type { Instrument } from "../../store/instruments";
import type { Heard } from "../context";
import { InstrumentSelect } from "../live/InstrumentSelect";

interface RecordLiveProps {
  instruments: readonly Instrument[];
  /** Handed what was recorded, as a log like any other. */
  onLog: (log: File) => void;
}

/** Fewer samples than this are no trace. */
const LEAST = 20;

/** Records the volts of a live meter into a log: start, do what is to be seen, stop. */
export function RecordLive({ instruments, onLog }: RecordLiveProps) {
  const [first] = instruments;
  const [chosen, setChosen] = useState(first?.id);
  const [recording, setRecording] = useState(false);
  const [shown, setShown] = useState<{ count: number; volts: number | undefined; lost: string | undefined }>({ count: 0, volts: undefined, lost: undefined });
  const rows = useRef<string[]>([]);
  useEffect(() => {
    if (!recording || chosen === undefined) return;
    rows.current = ["seconds,volts"];
    const began = performance.now();
    const source = new EventSource(`/instruments/${chosen}/live?dial=${encodeURIComponent("V DC")}`);
    source.onmessage = (event: MessageEvent<string>) => {
      const heard = JSON.parse(event.data) as Heard;
      if ("lost" in heard) return setShown((was) => ({ ...was, lost: heard.lost }));
      const volts = typeof heard.value === "number" && heard.unit === "V" ? heard.value : undefined;
      rows.current.push(`${((performance.now() - began) / 1000).toFixed(3)},${volts ?? ""}`);
      setShown({ count: rows.current.length - 1, volts, lost: undefined });
    };
    source.onerror = () => setShown((was) => ({ ...was, lost: "The server is not heard." }));
    return () => source.close();
  }, [recording, chosen]);
  if (!first) return null;
  const stop = (): void => {
    setRecording(false);
    if (rows.current.length > LEAST) onLog(new File([rows.current.join("\n")], `live ${format(Date.now(), "d MMM HH-mm-ss")}.csv`, { type: "text/csv" }));
    else setShown((was) => ({ ...was, lost: "Too little was heard to be a trace." }));
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
      <InstrumentSelect label="or from a live meter" shown instruments={instruments} value={chosen} disabled={recording} onChange={setChosen} />
      <button type="button" className="btn min-h-10" onClick={() => (recording ? stop() : setRecording(true))}>
        {recording ? "Stop and read it" : "Record"}
      </button>
      <span role="status">
        {shown.lost ?? (recording ? `${shown.count} samples${shown.volts === undefined ? "" : `, now ${shown.volts.toFixed(2)} V`}` : "")}
      </span>
    </div>
  );
}
