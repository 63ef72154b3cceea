import type { Sheet } from "../../core/machine/sheet";
import type { JudgedReading } from "../../core/procedure/judge";
import { batteryMethods } from "../../core/procedure/methods";

/** The ways in which a battery was proved, side by side, and whether they agree. */
export function BatteryMethods({ sheet, judged }: { sheet: Sheet; judged: readonly JudgedReading[] }) {
  const proved = batteryMethods(judged, sheet);
  if (!proved) return null;
  return (
    <section className="mt-5">
      <h2 className="m-0">The battery, proved {proved.methods.length} ways</h2>
      <ul className="m-0 list-none p-0">
        {proved.methods.map(({ id, title, shows, good }) => (
          <li key={id} className="border-hair flex flex-wrap justify-between gap-x-4 border-t py-1">
            <span>{title}</span>
            <span>
              <span className="num">{shows}</span>, {good ? "good" : <strong className="text-copper">not good</strong>}
            </span>
          </li>
        ))}
      </ul>
      <p className="rule-left mt-1 mb-0">
        {proved.agree
          ? "They agree."
          : "They do not agree: a surface charge, a poor clamp, a figure of another standard or a low charge lies between them. Charge it fully, let it rest, and take them again."}
      </p>
    </section>
  );
}
