import { useCallback, useEffect, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { absurdities } from "../../core/machine/absurd";
import { hasCapacitor } from "../../core/machine/capacitor";
import { conditionOf } from "../../core/machine/condition";
import { familyOf } from "../../core/machine/families/registry";
import { faultOf } from "../../core/machine/faults";
import { type Point, pointName, pointsAlong } from "../../core/machine/points";
import type { FieldProblem, Sheet } from "../../core/machine/sheet";
import type { Connector, Loads } from "../../core/machine/standing";
import type { Meter } from "../../core/meter/meter";
import { fromParams, RIG_DIALS, type RigSetup, toParams } from "../../core/rig/setup";
import { formatValue } from "../../core/units";
import type { Instrument } from "../../store/instruments";
import type { RigFrame } from "../../workers/rig";
import { Loom } from "../loom/Loom";
import { useKeys } from "../ui/keys";
import { TopBar } from "../ui/TopBar";
import { Eyelets } from "./Eyelets";
import { FaultPanel } from "./FaultPanel";
import { MeterFace } from "./MeterFace";
import { fillReadout, Scope, type Tracks } from "./Scope";
import { Switches } from "./Switches";
import { saveNetlist, saveWaves } from "./save";
import { Throttle } from "./Throttle";
import { ToStandIn } from "./ToStandIn";
import { useRig } from "./useRig";
import { WhatChanged } from "./WhatChanged";

interface RigScreenProps {
  sheet: Sheet;
  sheets: readonly { id: string; name: string }[];
  /** Meters of which some may be stand-ins. */
  instruments: readonly Instrument[];
  meter: Meter;
}

/** Quiet time after which a changed set-up goes into the address, ms. */
const ADDRESS_AFTER = 400;
const LOADS: readonly Loads[] = ["off", "normal", "all"];

/** The rig: a machine with any fault, running; its loom to part and probe, its meter, its scope. */
export function RigScreen({ sheet, sheets, meter, instruments }: RigScreenProps) {
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const [{ setup, problems }, setState] = useState<{ setup: RigSetup; problems: FieldProblem[] }>(() => fromParams(params, sheet));
  const [inHand, setInHand] = useState<"red" | "black">("red");
  const [withSound, setWithSound] = useState(false);
  const [held, setHeld] = useState(false);
  const [cursors, setCursors] = useState<[number, number]>([0.25, 0.75]);
  const [notes, setNotes] = useState("");
  const figure = useRef<HTMLParagraphElement>(null);
  const soundFigure = useRef<HTMLParagraphElement>(null);
  const loom = useRef<HTMLDivElement>(null);
  const readout = useRef<HTMLTableSectionElement>(null);
  const drawScope = useRef<(tracks: Tracks) => void>(undefined);
  const tracks = useRef<Tracks>(undefined);
  const updates = useRef(0);

  const change = useCallback((over: Partial<RigSetup>): void => setState((now) => ({ setup: { ...now.setup, ...over }, problems: [] })), []);

  const showTracks = (): void => {
    if (!tracks.current) return;
    drawScope.current?.(tracks.current);
    fillReadout(readout.current, tracks.current, cursors);
  };
  const show = ({ ailing, sound }: RigFrame): void => {
    updates.current++;
    if (figure.current) {
      figure.current.textContent = shownValue(ailing.display.value, setup);
      const small = loom.current?.querySelector("[data-display]");
      if (small) small.textContent = figure.current.textContent;
      figure.current.dataset.updates = String(updates.current);
    }
    if (soundFigure.current && sound) soundFigure.current.textContent = `sound machine: ${shownValue(sound.display.value, setup)}`;
    const said = [...ailing.display.notes, ...ailing.melted.map((id) => `${id.replace("fuse:", "fuse ")} has melted`)].join("; ");
    if (said !== notes) setNotes(said);
    if (held) return;
    tracks.current = { step: ailing.step, ailing: ailing.channels, sound: sound?.channels };
    showTracks();
  };
  const rig = useRig(sheet, meter, setup, withSound, show);

  // A cursor moved over a picture that holds still draws it once more.
  useEffect(showTracks, [cursors]);

  useEffect(() => {
    const timer = setTimeout(() => {
      const next = `?${toParams(setup, sheet)}`;
      if (next !== window.location.search) void navigate(next, { replace: true, preventScrollReset: true });
    }, ADDRESS_AFTER);
    return () => clearTimeout(timer);
  }, [setup, sheet, navigate]);

  const put = (probe: "red" | "black", point: Point): void => {
    change({ [probe]: point });
    setInHand(probe === "red" ? "black" : "red");
  };
  const part = (connector: Connector): void =>
    change({ unplug: setup.unplug.includes(connector) ? setup.unplug.filter((plug) => plug !== connector) : [...setup.unplug, connector] });
  const engine = (to: RigSetup["engine"]): void => change({ engine: to, ...(to === "off" ? {} : { key: "on" as const }) });
  useKeys({
    e: () => engine(setup.engine === "running" ? "off" : "running"),
    k: () => change({ key: setup.key === "on" ? "out" : "on", ...(setup.key === "on" ? { engine: "off" as const } : {}) }),
    l: () => change({ loads: LOADS[(LOADS.indexOf(setup.loads) + 1) % LOADS.length] as Loads }),
    d: () => change({ dial: RIG_DIALS[(RIG_DIALS.indexOf(setup.dial) + 1) % RIG_DIALS.length] as RigSetup["dial"] }),
    s: () => change({ red: setup.black, black: setup.red }),
    t: () => document.querySelector<HTMLElement>("[role=slider]")?.focus(),
    p: () => setHeld(!held),
    c: () => setWithSound(!withSound),
  });

  const points = pointsAlong(sheet).filter((point) => !point.startsWith("fuse:") || point.startsWith(`fuse:${sheet.fuses[0]?.id}:`));
  const running = setup.engine === "running";
  const marks = Object.fromEntries(setup.faults.map(({ fault }) => [faultOf(fault).part, "condemned" as const]));
  const odd = absurdities(sheet, conditionOf(setup.faults, { ambientC: setup.ambientC, charge: setup.charge }));
  return (
    <div className="flex min-h-dvh flex-col">
      <title>{`Rig, ${sheet.maker} ${sheet.model} · Uvrel`}</title>
      <TopBar />
      <main className="flex flex-1 flex-col">
        <h1 className="sr-only">
          Rig: {sheet.maker} {sheet.model}
        </h1>
        <div className="bg-sheet px-4 pt-2 md:px-5">
          <select
            aria-label="Machine"
            className="border-hair bg-sheet min-h-10 w-full border px-2 md:w-72"
            value={sheet.id}
            onChange={(event) => void navigate(`/rig?sheet=${event.target.value}`)}
          >
            {sheets.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </div>
        <section aria-label="Loom" className="bg-sheet border-hair overflow-x-auto border-b md:px-2">
          <div ref={loom} className="h-[240px] min-w-[980px] md:-mt-6 md:h-[262px]">
            <Loom
              sheet={sheet}
              marks={marks}
              broken={setup.faults.filter(({ fault }) => faultOf(fault).part === "wiring")}
              stand={{ unplugged: setup.unplug, probes: { red: setup.red, black: setup.black }, dial: setup.dial }}
              over={(layout) => <Eyelets {...{ sheet, layout, points, put, inHand }} red={setup.red} black={setup.black} />}
            />
          </div>
        </section>
        {rig.failed ? (
          <p role="alert" className="rule-left m-3">
            The rig stopped: {rig.failed}. The set-up is kept in the address; reload the page to go on.
          </p>
        ) : null}
        {problems.length > 0 ? (
          <div role="alert" className="rule-left m-3">
            <p className="m-0">Parts of this address could not be set up:</p>
            <ul className="m-0">
              {problems.map(({ field, error }) => (
                <li key={field + error}>
                  {field}: {error}
                </li>
              ))}
            </ul>
          </div>
        ) : null}
        <div className="grid flex-1 gap-x-8 gap-y-6 px-4 py-4 md:grid-cols-[19rem_1fr_19rem] md:px-5">
          <div className="order-2 md:order-1">
            <div className="grid grid-cols-[auto_1fr] gap-5">
              <Throttle rpm={setup.rpm} onChange={(rpm) => change({ rpm })} disabled={!running} idle={sheet.idleRpm} />
              <Switches sheet={sheet} setup={setup} onChange={change} onEngine={engine} onPart={part} />
            </div>
          </div>
          <div className="order-3 flex min-w-0 flex-col gap-4 md:order-2">
            <Scope
              sheet={sheet}
              channels={setup.channels}
              onChannels={(channels) => change({ channels })}
              draw={drawScope}
              held={held}
              onHold={() => setHeld(!held)}
              cursors={cursors}
              onCursors={setCursors}
              readout={readout}
            />
            <div className="flex flex-wrap items-center gap-x-6">
              <label className="flex min-h-11 items-center gap-2">
                <input type="checkbox" className="size-5" checked={withSound} onChange={(event) => setWithSound(event.target.checked)} />
                Beside a sound machine<span className="key">c</span>
              </label>
              <button type="button" className="text-petrol min-h-11" onClick={() => tracks.current && saveWaves(tracks.current, setup.channels, sheet)}>
                Save the waveforms
              </button>
              {/* SPICE has no element for a coil whose EMF follows a field. */}
              {familyOf(sheet.family).field ? null : (
                <button type="button" className="text-petrol min-h-11" onClick={() => void rig.netlist().then((text) => saveNetlist(text, sheet))}>
                  Save the netlist
                </button>
              )}
            </div>
            <ToStandIn instruments={instruments} setup={setup} sheet={sheet} />
            <WhatChanged key={JSON.stringify([setup.faults, setup.ambientC, setup.charge])} faults={setup.faults.length} compare={rig.changed} />
          </div>
          <div className="contents md:order-3 md:flex md:flex-col md:gap-4">
            <div className="order-1 flex flex-col gap-3">
              <MeterFace
                dial={setup.dial}
                onDial={(dial) => change({ dial })}
                inHand={inHand}
                onHand={setInHand}
                red={pointName(setup.red, sheet)}
                black={pointName(setup.black, sheet)}
                figure={figure}
                sound={soundFigure}
                withSound={withSound}
              />
              <p aria-live="polite" className={notes ? "rule-left m-0" : "m-0"}>
                {notes}
                {/melted/.test(notes) ? (
                  <button type="button" className="btn ml-3 min-h-9" onClick={rig.renew}>
                    Fit new fuses
                  </button>
                ) : null}
              </p>
            </div>
            <div className="order-4 flex flex-col gap-4">
              <FaultPanel sheet={sheet} faults={setup.faults} onChange={(faults) => change({ faults })} />
              <World sheet={sheet} setup={setup} onChange={change} />
              {odd.length > 0 ? <p className="rule-left m-0">Hard to believe, simulated all the same: {odd.join("; ")}.</p> : null}
            </div>
          </div>
        </div>
      </main>
    </div>
  );
}

/** What the meter's display shows for a value on the dial it stands on. */
function shownValue(value: number | "OL", { dial }: RigSetup): string {
  if (typeof value !== "number") return value;
  if (dial === "diode") return value.toFixed(3);
  const unit = ({ "V DC": "V", "V AC": "V AC", Ω: "Ω", "A DC": "mA", clamp: "A" } as const)[dial];
  return formatValue(value, unit);
}

/** The world around the machine: how full the battery, how cold the day. */
function World({ sheet, setup, onChange }: { sheet: Sheet; setup: RigSetup; onChange: (over: Partial<RigSetup>) => void }) {
  const rows = [
    { name: "charge", label: "Battery charge", min: 0, max: 1, step: 0.05, text: `${Math.round(100 * setup.charge)} %` },
    { name: "ambientC", label: "Air", min: -30, max: 50, step: 1, text: `${setup.ambientC} °C` },
  ] as const;
  return (
    <section aria-label="Surroundings" className="grid gap-1">
      {(hasCapacitor(sheet) ? rows.slice(1) : rows).map(({ name, label, min, max, step, text }) => (
        <label key={name} className="text-mute grid min-h-10 grid-cols-[6.5rem_1fr_4rem] items-center gap-2">
          {label}
          <input
            type="range"
            className="min-w-0"
            {...{ min, max, step }}
            value={setup[name]}
            onChange={(event) => onChange({ [name]: Number(event.target.value) })}
          />
          <span className="num text-ink text-right">{text}</span>
        </label>
      ))}
    </section>
  );
}
