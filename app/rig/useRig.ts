import { proxy, type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { Sheet } from "../../core/machine/sheet";
import type { Meter } from "../../core/meter/meter";
import type { Change } from "../../core/rig/changed";
import type { RigSetup } from "../../core/rig/setup";
import type { RigFrame, RigWorker } from "../../workers/rig";

/** Updates a second that the rig aims at: above thirty, since a timer always comes a little late. */
const UPDATES = 40;

interface Rig {
  /** Why the machine stopped: the worker failed. */
  failed: string | undefined;
  renew: () => void;
  changed: (progress: (done: number, of: number) => void) => Promise<Change[]>;
  netlist: () => Promise<string>;
}

/**
 * The rig's machine in its own thread: takes each set-up over, asks for a frame some thirty times a second, and hands it to
 * `show` (which draws without going through React, so that the page stays free).
 */
export function useRig(sheet: Sheet, meter: Meter, setup: RigSetup, withSound: boolean, show: (frame: RigFrame) => void): Rig {
  const remote = useRef<Remote<RigWorker>>(undefined);
  const [failed, setFailed] = useState<string>();
  const latest = useRef({ setup, withSound, show });
  latest.current = { setup, withSound, show };
  const opened = useRef(false);

  useEffect(() => {
    const worker = new Worker(new URL("../../workers/rig.ts", import.meta.url), { type: "module" });
    const rig = wrap<RigWorker>(worker);
    remote.current = rig;
    let gone = false;
    worker.addEventListener("error", (event) => setFailed(event.message || "what it runs on could not be fetched"));
    const stop = (error: unknown): void => setFailed(error instanceof Error ? error.message : String(error));
    const loop = async (): Promise<void> => {
      await rig.open(sheet, meter);
      await rig.set(latest.current.setup, true);
      opened.current = true;
      let last = performance.now();
      while (!gone) {
        const now = performance.now();
        const frame = await rig.frame(Math.min(0.1, (now - last) / 1000), latest.current.withSound);
        last = now;
        if (frame && !gone) latest.current.show(frame);
        await new Promise((resolve) => setTimeout(resolve, Math.max(0, 1000 / UPDATES - (performance.now() - now))));
      }
    };
    loop().catch(stop);
    return () => {
      gone = true;
      opened.current = false;
      worker.terminate();
    };
  }, [sheet, meter]);

  useEffect(() => {
    if (opened.current) remote.current?.set(setup, false).catch((error: unknown) => setFailed(error instanceof Error ? error.message : String(error)));
  }, [setup]);

  return {
    failed,
    renew: () => void remote.current?.set(latest.current.setup, true),
    changed: async (progress) => (await remote.current?.changed(proxy(progress))) ?? [],
    netlist: async () => (await remote.current?.netlist()) ?? "",
  };
}
