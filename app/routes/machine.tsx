import { format } from "date-fns";
import { Form, Link } from "react-router";
import { PLACES } from "../../core/machine/access";
import { hasCapacitor } from "../../core/machine/capacitor";
import { familyOf, isBelted } from "../../core/machine/families/registry";
import { ISOLATOR_WORDS } from "../../core/machine/isolator";
import { KINDS } from "../../core/machine/kind";
import type { Sheet } from "../../core/machine/sheet";
import { wireName } from "../../core/machine/wire";
import { type Band, bandFor } from "../../core/procedure/bands";
import { CATALOGUE, GROUPS, type GroupId, type Test } from "../../core/procedure/catalogue";
import { schoolOf } from "../../core/procedure/schools";
import { runWords, stepKey, stepsOf, testTitle } from "../../core/procedure/step";
import { formatValue, type Unit } from "../../core/units";
import { officeContext, storeContext } from "../context";
import { Loom } from "../loom/Loom";
import { sheetIdOf } from "../params.server";
import { Budget } from "../sheets/Budget";
import { differencesOf } from "../sheets/differences";
import { TopBar } from "../ui/TopBar";
import type { Route } from "./+types/machine";

export async function loader({ context, params, request }: Route.LoaderArgs) {
  const store = context.get(storeContext);
  const id = sheetIdOf(params.id);
  const sheet = id && store.sheets.find(id);
  if (!sheet) throw new Response(`There is no sheet “${params.id}” on the shelf.`, { status: 404 });
  const other = new URL(request.url).searchParams.get("beside");
  return {
    sheet,
    others: store.sheets.names(OFFERED).filter(({ ref }) => ref !== id),
    beside: other === null ? undefined : store.sheets.find(other),
    versions: store.sheets.versions(sheet.id),
    changedAt: store.sheets.changedAt(sheet.id) ?? "",
    school: store.workshop.shop().school,
    curve: await context.get(officeContext).curve(sheet),
  };
}

/** Sheets that can be laid beside this one from its own list. */
const OFFERED = 300;

/** Where the regulator feels the volts it holds. */
const SENSES = { battery: "at the battery, by its own wire", output: "at its own output", unknown: "not given" } as const;

export default function Machine({ loaderData }: Route.ComponentProps) {
  const { sheet } = loaderData;
  const school = schoolOf(loaderData.school);
  const facts = [
    ["Family", familyOf(sheet.family).title],
    ...(familyOf(sheet.family).joins.length > 0 ? [["Winding", sheet.winding] as [string, string]] : []),
    ...(familyOf(sheet.family).belt ? [["Turned by", isBelted(sheet) ? "a belt" : "the engine itself"] as [string, string]] : []),
    ...(sheet.access ?? []).map(({ place, minutes, steps, tools }): [string, string] => [
      `To ${PLACES[place].title}`,
      [steps, tools, minutes === undefined ? "" : `${minutes} min`].filter(Boolean).join("; ") || "no more said",
    ]),
    ...(sheet.wakes ? [["Wakes late", wakesAt(sheet.wakes)] as [string, string]] : []),
    ...(sheet.isolator ? [["Two batteries", ISOLATOR_WORDS[sheet.isolator]] as [string, string]] : []),
    ...(sheet.tach ? [["Tachometer counts", `wire ${sheet.tach}`] as [string, string]] : []),
    ["System", `${sheet.systemVolts} V, ${sheet.earth} earth`],
    ["Plug out of the engine", `${sheet.statorConnector.name}, ${sheet.statorConnector.place}`],
    [familyOf(sheet.family).ownNames ? "Legs" : "Wires", sheet.legs.map((leg) => `${leg.id}: pin ${leg.pin}, ${wireName(leg.wire)}`).join("; ")],
    ["Output and ground", `${wireName(sheet.outputWire)}; ${wireName(sheet.groundWire)}${sheet.unitGround === "case" ? ", through the case" : ""}`],
    ["Senses", SENSES[sheet.sense]],
    ["Fuses", sheet.fuses.map((fuse) => `${fuse.id}, ${fuse.amps} A: ${fuse.feeds}`).join("; ")],
    [
      "Battery",
      hasCapacitor(sheet)
        ? `none: a capacitor${sheet.battery.microfarads ? ` of ${sheet.battery.microfarads.toLocaleString("en")} µF` : ""} in its place`
        : `${sheet.battery.chemistry}, ${sheet.battery.ah ? `${sheet.battery.ah} Ah` : "Ah not given"}${sheet.battery.cca ? `, ${sheet.battery.cca} A cranking` : ""}`,
    ],
    ["Idle and test rpm", `${sheet.idleRpm.toLocaleString("en")}, ${sheet.testRpm.toLocaleString("en")}`],
    ["Rated output", sheet.ratedAmps ? `${sheet.ratedAmps} A` : "not given"],
    ["Its own loads", sheet.loadAmps ? `${sheet.loadAmps.normal} A as ridden, ${sheet.loadAmps.all} A with everything on` : "not given"],
    ["Source", sheet.source ?? "not given"],
  ];
  const groups = (Object.keys(GROUPS) as GroupId[]).filter((group) => (CATALOGUE as readonly Test[]).some((test) => isListed(test, group, sheet)));
  return (
    <>
      <title>{`${sheet.maker} ${sheet.model} · Uvrel`}</title>
      <TopBar back={{ to: "/machines", label: "Sheets" }}>
        <Link to={`/machines/new?like=${sheet.id}`} className="text-petrol flex min-h-11 items-center">
          Copy
        </Link>
        <Link to={`/machines/${sheet.id}/edit`} className="btn min-h-10">
          Change
        </Link>
      </TopBar>
      <div className="bg-sheet border-hair hidden h-[270px] border-b px-2 md:block">
        <Loom sheet={sheet} marks={{}} />
      </div>
      <main className="mx-auto grid max-w-6xl gap-x-12 px-4 py-5 md:grid-cols-2 md:px-6">
        <section>
          <h1 className="m-0">
            {sheet.maker} {sheet.model}
          </h1>
          <p className="text-mute mt-1 flex items-center justify-between gap-4">
            {sheet.kind ? KINDS[sheet.kind] : "Kind not given"}, {sheet.years ?? "years not given"}
            <Link to={`/rig?sheet=${sheet.id}`} className="btn text-ink min-h-10">
              Run it on the rig
            </Link>
          </p>
          <dl className="m-0">
            {facts.map(([name, fact]) => (
              <div key={name} className="border-hair grid grid-cols-[9rem_1fr] border-t py-1.5">
                <dt className="text-mute">{name}</dt>
                <dd className="m-0">{fact}</dd>
              </div>
            ))}
          </dl>
          <Beside sheet={sheet} beside={loaderData.beside} others={loaderData.others} />
          <Versions sheet={sheet} changedAt={loaderData.changedAt} versions={loaderData.versions} />
          <Budget sheet={sheet} school={school} curve={loaderData.curve} />
        </section>
        <section>
          <h2 className="mt-0">Bands, and where each comes from</h2>
          {groups.map((group) => (
            <div key={group}>
              <h3 className="mt-3 mb-1 text-base font-semibold">{GROUPS[group]}</h3>
              {(CATALOGUE as readonly Test[])
                .filter((test) => isListed(test, group, sheet))
                .flatMap((test) =>
                  oneStepARun(test, sheet).map((step) => {
                    const band = bandFor(step, sheet, school);
                    return (
                      <div key={stepKey(step)} className="border-hair grid grid-cols-[1fr_auto] gap-x-4 border-t py-1">
                        <span>{[testTitle(test), runWords(step)].filter(Boolean).join(", ")}</span>
                        <span className="num whitespace-nowrap">{bandWords(band, test.unit)}</span>
                        <span className={`col-span-2 text-[0.95rem] ${band?.from === "sheet" ? "" : "text-mute"}`}>{band?.says ?? "no band: noted only"}</span>
                      </div>
                    );
                  }),
                )}
            </div>
          ))}
        </section>
      </main>
    </>
  );
}

/** Whether a test of a group is one that this machine shows a figure in. */
function isListed(test: Test, group: GroupId, sheet: Sheet): boolean {
  return group !== "walk" && test.group === group && test.unit !== "choice" && stepsOf(test, sheet).length > 0;
}

/** One step for each run of a test: its first point stands for all. */
function oneStepARun(test: Test, sheet: Parameters<typeof stepsOf>[1]) {
  const seen = new Set<string>();
  return stepsOf(test, sheet).filter((step) => {
    const run = `${step.rpm ?? ""} ${step.loads ?? ""}`;
    return seen.has(run) ? false : seen.add(run);
  });
}

function bandWords(band: Band | undefined, unit: Unit): string {
  if (!band || band.kind === "words") return "";
  if (band.kind === "open") return "OL";
  const { low, high } = band;
  if (low !== undefined && high !== undefined) return `${formatValue(low, unit)}–${formatValue(high, unit)} ${unit}`;
  return low !== undefined ? `≥ ${formatValue(low, unit)} ${unit}` : high !== undefined ? `≤ ${formatValue(high, unit)} ${unit}` : "";
}

function wakesAt({ aboveRpm, afterSeconds }: NonNullable<Sheet["wakes"]>): string {
  return [aboveRpm === undefined ? "" : `above ${aboveRpm.toLocaleString("en")} rpm`, afterSeconds === undefined ? "" : `after ${afterSeconds} s`]
    .filter(Boolean)
    .join(", then ");
}

/** What this sheet said before, change by change: jobs keep what they began with. */
function Versions({ sheet, changedAt, versions }: { sheet: Sheet; changedAt: string; versions: readonly { sheet: Sheet; stoodFrom: string }[] }) {
  if (versions.length === 0) return null;
  const after = [{ sheet, stoodFrom: changedAt }, ...versions];
  return (
    <details className="mt-4">
      <summary className="text-petrol min-h-9 cursor-pointer">
        Changed {versions.length} {versions.length === 1 ? "time" : "times"}: what it said before
      </summary>
      <ol className="m-0 list-none p-0">
        {versions.map((before, k) => {
          const then = after[k] as (typeof after)[number];
          return (
            <li key={`${before.stoodFrom} ${then.stoodFrom}`} className="border-hair border-t py-1.5">
              <p className="m-0" suppressHydrationWarning>
                {format(then.stoodFrom, "d MMM yyyy, HH:mm")}
              </p>
              <ul className="m-0 list-none p-0 text-[0.95rem]">
                {differencesOf(before.sheet, then.sheet).map(({ field, stands, typed }) => (
                  <li key={field}>
                    <span className="text-mute">{field}:</span> {stands} → {typed}
                  </li>
                ))}
              </ul>
            </li>
          );
        })}
      </ol>
    </details>
  );
}

/** Where this sheet differs from another, figure by figure. */
function Beside({ sheet, beside, others }: { sheet: Sheet; beside: Sheet | undefined; others: readonly { ref: string; name: string }[] }) {
  if (others.length === 0) return null;
  const differences = beside ? differencesOf(sheet, beside).filter(({ field }) => !["id", "maker", "model"].includes(field)) : [];
  return (
    <details className="mt-4" open={beside !== undefined}>
      <summary className="text-petrol min-h-9 cursor-pointer">Lay another sheet beside it</summary>
      <Form method="get" className="mt-1 flex flex-wrap items-end gap-3" preventScrollReset>
        <div className="flex min-w-0 flex-1 flex-col">
          <label htmlFor="beside" className="text-mute">
            Sheet
          </label>
          <select id="beside" name="beside" className="field" defaultValue={beside?.id ?? ""}>
            {others.map(({ ref, name }) => (
              <option key={ref} value={ref}>
                {name}
              </option>
            ))}
          </select>
        </div>
        <button type="submit" className="btn">
          Compare
        </button>
      </Form>
      {beside ? (
        <table className="mt-3 w-full border-collapse text-[0.95rem]">
          <caption className="text-mute pb-1 text-left">
            {differences.length === 0
              ? "They differ in nothing but their names."
              : `They differ in ${differences.length} ${differences.length === 1 ? "figure" : "figures"}.`}
          </caption>
          <thead>
            <tr className="text-left">
              <th scope="col" className="font-medium">
                Figure
              </th>
              <th scope="col" className="font-medium">
                {sheet.model}
              </th>
              <th scope="col" className="font-medium">
                {beside.model}
              </th>
            </tr>
          </thead>
          <tbody>
            {differences.map(({ field, stands, typed }) => (
              <tr key={field} className="border-hair border-t">
                <th scope="row" className="text-mute py-1 pr-3 text-left font-normal">
                  {field}
                </th>
                <td className="py-1 pr-3">{stands}</td>
                <td className="py-1">{typed}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </details>
  );
}
