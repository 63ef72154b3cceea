import { endingsOf } from "../app/jobs/endings";
import { foundOf } from "../app/jobs/facts";
import { ofMachine } from "../app/jobs/ofMachine";
import { repairedName } from "../app/jobs/repaired";
import { viewOf } from "../app/jobs/view";
import { Loom } from "../app/loom/Loom";
import { LOOSE_ZONES } from "../app/loom/layout";
import { tagsOf } from "../app/loom/tags";
import { by, capital, cautionsThatApplied, complaintsOf, foundLines, moment, skipTitle } from "../app/report/words";
import { KeptTraceFigure } from "../app/traces/KeptTraceFigure";
import type { Advice } from "../core/diagnosis/advice";
import { billOf, type Prices } from "../core/diagnosis/planning/prices";
import { marksOf, wiringBreaks } from "../core/diagnosis/words/marks";
import { partNamesOf } from "../core/machine/families/registry";
import { FAULTS, type FaultId } from "../core/machine/faults";
import { PARTS, type Part } from "../core/machine/part";
import { REPAIRS } from "../core/machine/repairs/repairs";
import { testOf } from "../core/procedure/catalogue";
import { PRECEDENCE } from "../core/procedure/cautions";
import { isBad, type JudgedReading, judgedWords } from "../core/procedure/judge";
import { beforeRepair } from "../core/procedure/runlist";
import { stepKey, stepTitle } from "../core/procedure/step";
import { formatQuantity } from "../core/units";
import type { JobFile } from "../store/jobs";
import type { KeptTrace } from "../store/traces";
import { diodeChart } from "./diodeChart";
import { drawn } from "./drawings";
import { Paper } from "./paper";

/** What a work report is made of. */
interface ReportMatter {
  shop: string;
  file: JobFile;
  /** What the readings before any repair came to; undefined where nobody has worked it out. */
  advice: Advice | undefined;
  prices: Prices;
  traces: readonly KeptTrace[];
  /** What the machine's log foresees, each a sentence. */
  foreseen: readonly string[];
}

/** The work report: the customer's page first, then every number. */
export function workReport(matter: ReportMatter): Promise<Uint8Array> {
  const { file, shop } = matter;
  const { job } = file;
  const machine = `${capital(ofMachine(job.sheet))}${job.unitTag ? `, ${job.unitTag}` : ""} “${job.nickname}”`;
  const paper = new Paper({ title: `Work report ${job.id}: ${machine}`, shop, kind: `work report ${job.id}` });
  customersPage(paper, matter, machine);
  paper.newPage();
  numbers(paper, matter);
  return paper.finish();
}

/** What was wrong, what was done, that it works now, what it cost, what to watch. */
function customersPage(paper: Paper, { file, shop, advice, prices, foreseen }: ReportMatter, machine: string): void {
  const { job, repairs } = file;
  paper.text(shop, { strong: true });
  paper.heading(1, machine);
  paper.text(`In ${moment(job.openedAt)}. ${job.closedAt ? `Out ${moment(job.closedAt)}.` : "Still on the bench."}`, { mute: true });
  paper.heading(2, "What you told us");
  const complaints = complaintsOf(job);
  paper.text(job.words ? `“${job.words}”` : complaints || "Nothing was taken down.", { size: "lead" });
  if (job.words && complaints) paper.text(capital(complaints), { mute: true });
  paper.heading(2, "What was wrong");
  const found = foundLines(file, advice);
  paper.text(found.join(" Then: ") || "Not worked out yet: open the job on the bench, then make this paper again.", { size: "lead" });
  if (job.ending) paper.text(`${endingsOf(job.sheet)[job.ending]}${job.closingNote ? `: ${job.closingNote}` : "."}`);
  paper.heading(2, "What was done");
  if (repairs.length === 0) paper.text(job.closedAt ? "Nothing had to be mended." : "Nothing yet.");
  for (const repair of repairs) paper.text(`${repairedName(job.sheet, repair.part)}: ${repair.done}${by(repair.by)}`);
  proof(paper, file);
  cost(paper, file, prices);
  paper.heading(2, "What to watch");
  const watch = watchOf(file, foreseen);
  for (const says of watch) paper.text(says);
  if (watch.length === 0) paper.text("Nothing in particular. If the complaint comes back, say when and how: cold or hot, idle or at speed, lamps on or off.");
  paper.text(PRECEDENCE, { size: "small", mute: true });
}

/** The figures that were read before and after, side by side. */
function proof(paper: Paper, file: JobFile): void {
  const { judged } = viewOf(file);
  const after = judged.filter(({ reading }) => reading.afterRepair);
  if (after.length === 0) return;
  paper.heading(2, "Before and after");
  const before = new Map(judged.filter(({ reading }) => !reading.afterRepair).map((judgedReading) => [stepKey(judgedReading.reading), judgedReading]));
  const latest = new Map(after.map((judgedReading) => [stepKey(judgedReading.reading), judgedReading]));
  paper.table(
    [
      { title: "Reading", width: 0.44 },
      { title: "Before", width: 0.14, align: "right", figures: true },
      { title: "After", width: 0.14, align: "right", figures: true },
      { title: "Now", width: 0.28 },
    ],
    [...latest].map(([key, judgedReading]) => [
      stepTitle(judgedReading.reading),
      before.has(key) ? figure(before.get(key) as JudgedReading) : "–",
      figure(judgedReading),
      judgedWords(judgedReading),
    ]),
  );
}

const figure = ({ value, reading }: JudgedReading): string => formatQuantity(value, testOf(reading.test).unit);

/** Parts and work by the shop's own list; what is cleaned or joined costs less than its part. */
function cost(paper: Paper, file: JobFile, prices: Prices): void {
  if (file.repairs.length === 0) return;
  paper.heading(2, "What it cost");
  const { labourPerHour } = prices;
  const testing = viewOf(file).minutes;
  const lines = [
    ...file.repairs.flatMap(({ part, fault }) => {
      if (!PARTS.includes(part as Part)) return [];
      const { money, minutes } = billOf(part, prices, FAULTS.find(({ id }) => id === fault)?.id);
      return [{ what: `${partNamesOf(file.job.sheet)[part as Part]}, ${minutes} min of work among it`, money }];
    }),
    { what: `Finding it and proving it, ${testing} min`, money: (testing * labourPerHour) / 60 },
  ];
  const sum = lines.reduce((all, { money }) => all + money, 0);
  paper.table(
    [
      { title: `By the shop's list, work at ${labourPerHour} an hour`, width: 0.8 },
      { title: "", width: 0.2, align: "right", figures: true },
    ],
    [...lines.map(({ what, money }) => [what, money.toFixed(2)]), [{ text: "In all", strong: true as const }, sum.toFixed(2)]],
  );
}

/** What follows from what failed, and what the machine's log foresees. */
function watchOf({ repairs }: JobFile, foreseen: readonly string[]): string[] {
  const partners = repairs.flatMap(({ fault }) => (fault && REPAIRS[fault as FaultId]?.partner?.why) || []);
  return [...new Set([...partners, ...foreseen])];
}

/** Everything that was read, by whom and how, with the drawing it hangs on. */
function numbers(paper: Paper, { file, advice, traces }: ReportMatter): void {
  const { job, skips } = file;
  const view = viewOf(file);
  paper.heading(1, "The numbers");
  const found = foundOf(file).history.length;
  paper.figure(
    drawn(
      <Loom
        sheet={job.sheet}
        marks={advice ? marksOf(advice, found) : {}}
        broken={advice && wiringBreaks(advice)}
        tags={tagsOf(beforeRepair(view.judged), job.sheet)}
        {...(job.sheet.loose ? { zones: LOOSE_ZONES[job.sheet.loose] } : {})}
      />,
    ),
    `The charging circuit of the ${ofMachine(job.sheet)} with what was read before the repair.`,
    job.sheet.loose ? 190 : 120,
  );
  paper.facts([
    ["Battery age", job.batteryAgeYears === null ? "not known" : `${job.batteryAgeYears} years`],
    ["Meter", `${job.meter.name}, lead zero ${view.context.meter.leadOhms} Ω, ${job.meter.trueRms ? "true rms" : "average responding"}`],
    ["Air", `${job.ambientC} °C`],
    ...(job.use ? [["Counter", `${job.use.count} ${job.use.unit}`] as const] : []),
    ["School", view.context.school.title],
    ["Hands on it", `${view.minutes} min; ${view.waiting} min more on the clock`],
  ]);
  readings(
    paper,
    "Readings",
    view.judged.filter(({ reading }) => !reading.afterRepair),
  );
  readings(
    paper,
    "After the repair",
    view.judged.filter(({ reading }) => reading.afterRepair),
  );
  diodeChart(paper, job.sheet, view.judged);
  if (traces.length > 0) paper.heading(2, "Volts over time");
  for (const trace of traces) {
    paper.text(`${trace.name}${trace.afterRepair ? ", after the repair" : ""}`, { mute: true });
    paper.figure(drawn(<KeptTraceFigure trace={trace} />), `Trace ${trace.name}: volts over time.`, 90);
  }
  if (skips.length > 0) {
    paper.heading(2, "Not taken");
    for (const { step, reason } of skips) paper.text(`${skipTitle(step)}: ${reason}`);
  }
  const cautions = cautionsThatApplied(file);
  if (cautions.length > 0) paper.heading(2, "Cautions that applied");
  for (const { says, read } of cautions) paper.text(`${says}${read}`, { size: "small" });
}

function readings(paper: Paper, title: string, judged: readonly JudgedReading[]): void {
  if (judged.length === 0) return;
  paper.heading(2, title);
  paper.table(
    [
      { title: "Test", width: 0.36 },
      { title: "Reading", width: 0.13, align: "right", figures: true },
      { title: "", width: 0.17 },
      { title: "Measured against", width: 0.34 },
    ],
    judged.map((judgedReading) => [
      stepTitle(judgedReading.reading),
      figure(judgedReading),
      isBad(judgedReading.judged) ? { text: judgedWords(judgedReading), strong: true as const } : judgedWords(judgedReading),
      [judgedReading.band?.says, ...judgedReading.corrections].filter(Boolean).join("; "),
    ]),
  );
}
