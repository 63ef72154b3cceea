import { useEffect, useRef, useState } from "react";
import { type DipCurve, type HandsFree, HandsFreeReading, type Wanted } from "../../core/meter/handsFree";
import { inUnit, type Unit } from "../../core/units";
import type { Heard } from "../context";

/** What a live meter shows the page. */
interface Live {
  /** The figure as it is shown now; undefined while nothing is heard. */
  figure: { value: number | "OL"; unit: string } | undefined;
  /** Why nothing is heard. */
  lost: string | undefined;
  says: HandsFree["says"] | undefined;
  /** What stands and is kept at a press only. */
  offer: number | undefined;
}

const UNHEARD: Live = { figure: undefined, lost: undefined, says: undefined, offer: undefined };

/** Without a figure for so long the meter has gone, ms. */
const SILENT = 1500;

/**
 * Listens to an instrument while a step is open. What stands, and is to be kept, is handed up once; where it is refused the probes have to
 * be lifted and set again.
 * @param wanted undefined: nothing is listened to
 * @param unit that the step is read in: figures of another kind are shown and no more
 * @param onStands false where what stands cannot be kept
 */
export function useLive(
  instrument: number | undefined,
  wanted: Wanted | undefined,
  stepKey: string,
  unit: Unit,
  onStands: (value: number | "OL", pull?: number, curve?: DipCurve) => boolean,
): Live {
  const [live, setLive] = useState(UNHEARD);
  const step = useRef({ wanted, unit, onStands });
  step.current = { wanted, unit, onStands };
  const reading = useRef<HandsFreeReading>(undefined);
  const dial = wanted?.dial;
  // What a step wants is taken as it was when the step came up: what is kept of it later changes nothing about how it is read.
  // biome-ignore lint/correctness/useExhaustiveDependencies: anew for each step
  useEffect(() => {
    reading.current = wanted ? new HandsFreeReading(wanted) : undefined;
  }, [stepKey, instrument, dial]);
  useEffect(() => {
    if (instrument === undefined || dial === undefined) {
      setLive(UNHEARD);
      return;
    }
    const source = new EventSource(`/instruments/${instrument}/live?dial=${encodeURIComponent(dial)}`);
    let last = Date.now();
    const lose = (why: string): void => setLive({ ...UNHEARD, lost: why });
    source.onmessage = (event: MessageEvent<string>) => {
      last = Date.now();
      const heard = JSON.parse(event.data) as Heard;
      if ("lost" in heard) return lose(heard.lost);
      const { wanted: asked, unit: readIn, onStands: stands } = step.current;
      const outcome = reading.current?.feed({ at: performance.now() / 1000, value: inUnit(heard.value, heard.unit, readIn) });
      setLive({ figure: heard, lost: undefined, says: outcome?.says, offer: outcome?.offer });
      if (outcome?.keep !== undefined && asked && !stands(outcome.keep, outcome.pull, outcome.curve))
        reading.current = new HandsFreeReading({ ...asked, probesWere: "elsewhere" });
    };
    source.onerror = () => lose("The server is not heard.");
    const watch = setInterval(() => {
      if (Date.now() - last > SILENT) lose("The meter is not heard.");
    }, SILENT / 3);
    return () => {
      clearInterval(watch);
      source.close();
    };
  }, [instrument, dial]);
  return live;
}
