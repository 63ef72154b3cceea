import { useRef, useState } from "react";
import { chargeFromRest, type Storing } from "../../core/battery/charge";
import { CHARGER, daysUntilFlat, hoursOfLoad, hoursToCharge, loadLimit } from "../../core/battery/figures";
import { roadGauge } from "../../core/budget/gauge";
import { hopOf } from "../../core/budget/hop";
import { ampsAt, breakEvenRpm, type OutputPoint } from "../../core/budget/output";
import type { Sheet } from "../../core/machine/sheet";
import { healthyState } from "../../core/machine/state";
import type { School } from "../../core/procedure/schools";
import { chartAxis, chartFrame, useChart } from "../charts/useChart";

interface BudgetProps {
  sheet: Sheet;
  school: School;
  curve: readonly OutputPoint[];
}

const CRANK_SECONDS = 3;

/** The charge budget: output against speed, where it meets the loads, what an extra costs, what a short ride puts back. */
export function Budget({ sheet, school, curve }: BudgetProps) {
  const { loadAmps, starter, battery } = healthyState(sheet);
  const { chemistry } = sheet.battery;
  const { ah } = battery;
  const [extra, setExtra] = useState(0);
  const [minutes, setMinutes] = useState(10);
  const [rpm, setRpm] = useState(Math.round((sheet.idleRpm + sheet.testRpm) / 200) * 100);
  const load = loadAmps.normal + extra;
  const meets = breakEvenRpm(curve, load);
  const hop = hopOf(curve, minutes, rpm, { crankAmps: starter.crankAmps, crankSeconds: CRANK_SECONDS, loadAmps: load, ah });
  const gauge = roadGauge(sheet, school, curve);
  return (
    <section aria-label="Charge budget">
      <h2>Charge budget, from this machine's own circuit</h2>
      <div>
        <OutputChart
          curve={curve}
          lines={[
            { name: "as ridden", amps: loadAmps.normal },
            { name: "all on", amps: loadAmps.all },
            ...(extra > 0 ? [{ name: "with the extra", amps: load }] : []),
          ]}
          meets={meets}
        />
        <dl className="m-0">
          <Row label="Loads as ridden are fed from" says={meets === undefined ? "no speed on this curve" : `${Math.round(meets / 10) * 10} rpm`} />
          <Row label="To spare at the test rpm" says={`${(ampsAt(curve, sheet.testRpm) - load).toFixed(1)} A`} />
          <Row label="Everything on is fed from" says={speedOf(breakEvenRpm(curve, loadAmps.all + extra))} />
        </dl>
      </div>
      <div className="mt-4 grid gap-y-4">
        <fieldset className="border-hair m-0 border-0 border-t p-0 pt-2">
          <legend className="text-mute p-0 pr-2">An extra, and a short ride</legend>
          <Figure label="Extra load" unit="A" value={extra} onChange={setExtra} max={60} step={0.5} />
          {chemistry === "capacitor" ? null : <Figure label="Ride" unit="minutes" value={minutes} onChange={setMinutes} max={600} step={1} />}
          <Figure label="at" unit="rpm on average" value={rpm} onChange={setRpm} max={9000} step={100} />
          <p className="m-0 mt-2">
            {chemistry === "capacitor"
              ? `At that speed ${Math.abs(hop.spareAmps).toFixed(1)} A are ${hop.spareAmps < 0 ? "missing, and no battery pays for them" : "to spare"}.`
              : hop.spareAmps <= 0
                ? `At that speed the battery pays ${(-hop.spareAmps).toFixed(1)} A; ${minutes} minutes cost it ${(-hop.backAh + hop.takenAh).toFixed(2)} Ah with the start.`
                : `The start takes ${hop.takenAh.toFixed(2)} Ah, repaid after ${hop.repayMinutes.toFixed(1)} minutes; the ride puts ${hop.backAh.toFixed(2)} Ah back.`}
          </p>
        </fieldset>
        {chemistry === "capacitor" ? null : <Stored sheet={sheet} chemistry={chemistry} />}
        <fieldset className="border-hair m-0 border-0 border-t p-0 pt-2">
          <legend className="text-mute p-0 pr-2">A voltmeter on the road</legend>
          <dl className="m-0">
            {chemistry === "capacitor" ? null : <Row label="Key on, engine off" says={rangeOf(gauge.keyOn)} />}
            <Row label="At idle, lights on" says={gauge.chargesAtIdle ? "as riding" : "may sink: it does not charge yet"} />
            <Row label="Riding, lights on" says={rangeOf(gauge.riding)} />
            <Row label="Riding, everything on" says={rangeOf(gauge.everythingOn)} />
            {gauge.turnHome === undefined ? null : <Row label="Turn home below, riding" says={`${gauge.turnHome.toFixed(1)} V: the battery pays`} />}
          </dl>
        </fieldset>
      </div>
    </section>
  );
}

/** What its battery stores: how long it stands, what a charger makes of it. */
function Stored({ sheet, chemistry }: Pick<BudgetProps, "sheet"> & { chemistry: Storing }) {
  const { loadAmps, battery } = healthyState(sheet);
  const { ah } = battery;
  const [drain, setDrain] = useState(20);
  const [keyAmps, setKeyAmps] = useState(Math.round(loadAmps.off * 10) / 10);
  const [chargerAmps, setChargerAmps] = useState(Math.round(ah) / 10);
  const [rest, setRest] = useState(12.6 * (sheet.systemVolts / 12));
  const [celsius, setCelsius] = useState(20);
  const charge = chargeFromRest(rest, chemistry, sheet.systemVolts, 12, celsius);
  const days = daysUntilFlat(drain, ah);
  const left = hoursOfLoad(keyAmps, ah, charge);
  const bears = CHARGER[chemistry];
  const [slow, fast] = [bears.slow * ah, bears.fast * ah];
  const full = hoursToCharge(chemistry, ah, charge ?? 0, chargerAmps);
  return (
    <>
      <fieldset className="border-hair m-0 border-0 border-t p-0 pt-2">
        <legend className="text-mute p-0 pr-2">Standing</legend>
        <Figure label="Drain, key out" unit="mA" value={drain} onChange={setDrain} max={5000} step={1} />
        <Figure label="Key or lights left on" unit="A" value={keyAmps} onChange={setKeyAmps} max={100} step={0.1} />
        <p className="m-0 mt-2">
          {Number.isFinite(left.toNoStart)
            ? `With that left on it no longer starts after ${spanOf(left.toNoStart)}, and is flat after ${spanOf(left.toFlat)}.`
            : "Nothing is left on."}
        </p>
        <p className="m-0 mt-2">
          {Number.isFinite(days)
            ? `A full ${Math.round(ah)} Ah battery still starts it for ${days < 10 ? days.toFixed(1) : Math.round(days)} days.`
            : "It stands as long as the battery itself lasts."}
        </p>
      </fieldset>
      <fieldset className="border-hair m-0 border-0 border-t p-0 pt-2">
        <legend className="text-mute p-0 pr-2">Battery</legend>
        <Figure label="Rest volts, rested overnight" unit="V" value={rest} onChange={setRest} max={20} step={0.01} />
        <Figure label="Battery temperature" unit="°C" value={celsius} onChange={setCelsius} min={-40} max={60} step={1} />
        <p className="m-0 mt-2">
          {charge === undefined ? "No battery of this kind rests at those volts." : `About ${Math.round(charge * 100)} % charged.`}{" "}
          {chemistry === "lithium-iron" ? "" : `Under load at ${celsius} °C it must hold ${loadLimit(celsius, sheet.systemVolts).toFixed(2)} V.`}
        </p>
        <Figure label="Charger" unit="A" value={chargerAmps} onChange={setChargerAmps} max={100} step={0.1} />
        <p className="m-0 mt-2">
          {charge === undefined || !Number.isFinite(full)
            ? "How long it takes cannot be said."
            : charge >= FULL
              ? "It is full: nothing to charge."
              : `Full after about ${spanOf(full)}; it may be judged once it has rested.`}{" "}
          {`This battery bears ${slow.toFixed(1)} A, ${fast.toFixed(1)} A for an hour at most, and ${(bears.volts * (sheet.systemVolts / 12)).toFixed(1)} V.`}
          {chargerAmps > fast ? " That charger is too large for it." : ""} The label goes first
          {chemistry === "lithium-iron" ? ", and only the maker's charger." : "."}
        </p>
      </fieldset>
    </>
  );
}

/** From here a battery counts as full. */
const FULL = 0.97;
/** Limits in words: "13.8 to 14.9 V", "11.8 V and up". */
function rangeOf({ low, high }: { low?: number; high?: number }): string {
  if (low !== undefined && high !== undefined) return `${low.toFixed(1)} to ${high.toFixed(1)} V`;
  return low !== undefined ? `${low.toFixed(1)} V and up` : high !== undefined ? `${high.toFixed(1)} V at most` : "no limit known";
}

/** Hours in words: "40 min", "7 h", "3 days". */
function spanOf(hours: number): string {
  if (hours < 1.5) return `${Math.round(hours * 60)} min`;
  return hours < 72 ? `${Math.round(hours)} h` : `${Math.round(hours / 24)} days`;
}

const speedOf = (rpm: number | undefined): string => (rpm === undefined ? "no speed on this curve" : `${Math.round(rpm / 10) * 10} rpm`);

function Row({ label, says }: { label: string; says: string }) {
  return (
    <div className="border-hair grid grid-cols-[1fr_auto] gap-4 border-t py-1.5">
      <dt className="text-mute">{label}</dt>
      <dd className="num m-0">{says}</dd>
    </div>
  );
}

interface FigureProps {
  label: string;
  unit: string;
  value: number;
  onChange: (value: number) => void;
  min?: number;
  max: number;
  step: number;
}

/** A figure to play with; what is out of reach or no number changes nothing, and the field says so. */
function Figure({ label, unit, value, onChange, min = 0, max, step }: FigureProps) {
  return (
    <label className="grid min-h-10 grid-cols-[1fr_6rem_5.5rem] items-center gap-2">
      <span>{label}</span>
      <input
        type="number"
        className="border-hair bg-sheet num min-h-9 border px-2"
        defaultValue={value}
        {...{ min, max, step }}
        onChange={({ target }) => {
          const next = target.valueAsNumber;
          const good = next >= min && next <= max;
          target.setCustomValidity(good ? "" : `Must be ${min} to ${max} ${unit}.`);
          target.ariaInvalid = good ? null : "true";
          if (good) onChange(next);
          else target.reportValidity();
        }}
      />
      <span className="text-mute">{unit}</span>
    </label>
  );
}

function OutputChart({ curve, lines, meets }: { curve: readonly OutputPoint[]; lines: readonly { name: string; amps: number }[]; meets: number | undefined }) {
  const box = useRef<HTMLDivElement>(null);
  useChart(
    box,
    (inks) => {
      const axis = chartAxis(inks);
      return {
        ...chartFrame(inks),
        grid: { left: 44, right: 96, top: 20, bottom: 28 },
        tooltip: {
          trigger: "axis",
          backgroundColor: inks.sheet,
          borderColor: inks.ink,
          textStyle: { color: inks.ink },
          valueFormatter: (value: unknown) => `${Number(value).toFixed(1)} A`,
        },
        xAxis: {
          type: "value",
          min: curve[0]?.rpm ?? 0,
          max: curve.at(-1)?.rpm ?? 1,
          ...axis,
          axisLabel: { color: inks.mute, formatter: "{value} rpm", showMaxLabel: false },
        },
        yAxis: { type: "value", min: 0, ...axis, axisLabel: { color: inks.mute, formatter: "{value} A" } },
        series: [
          {
            name: "most it can make",
            type: "line",
            symbolSize: 6,
            lineStyle: { color: inks.ink, width: 2.4 },
            itemStyle: { color: inks.ink },
            data: curve.map(({ rpm, amps }) => [rpm, amps]),
            markLine: {
              silent: true,
              symbol: "none",
              lineStyle: { color: inks.lines[1], type: "dashed", width: 1.6 },
              label: { formatter: "{b}", color: inks.ink, position: "end" },
              data: [
                ...lines.map(({ name, amps }) => ({ name, yAxis: amps })),
                ...(meets === undefined ? [] : [{ name: "", xAxis: meets, lineStyle: { color: inks.lines[2], type: "dotted" } }]),
              ],
            },
          },
        ],
      };
    },
    [JSON.stringify([curve, lines, meets])],
  );
  const said = `Output against speed: ${curve.map(({ rpm, amps }) => `${amps.toFixed(1)} A at ${rpm} rpm`).join(", ")}. Loads: ${lines.map(({ name, amps }) => `${amps} A ${name}`).join(", ")}.`;
  return <div ref={box} role="img" aria-label={said} className="h-64 w-full" />;
}
