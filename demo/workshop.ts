import { foresee } from "../app/units/log.server";
import { testOf } from "../core/procedure/catalogue";
import { USUAL_TOOLS } from "../core/procedure/tools";
import type { Unit } from "../store/shop";
import type { Store } from "../store/store";
import { DEMO_JOBS, type DemoJob } from "./jobs";
import { demoReadings } from "./readings";
import { demoPast, demoServices } from "./services";
import { DEMO_SHEETS } from "./sheets";

/** The machines of the Skellin Isles council workshop. */
const UNITS: readonly Unit[] = [
  { tag: "SK-102", nickname: "Postie", sheetId: "corvane-ferrel-650", usedFor: "post round, west island" },
  { tag: "SK-109", nickname: "Kestrel", sheetId: "corvane-ferrel-650", usedFor: "post round, the mole" },
  { tag: "SK-114", nickname: "Skua", sheetId: "ostrel-burro-520", usedFor: "beach rescue" },
  { tag: "SK-121", nickname: "Dunlin", sheetId: "ostrel-burro-520", usedFor: "beach rescue" },
  { tag: "SK-133", nickname: "Wagtail", sheetId: "corvane-linnet-125", usedFor: "district nurse" },
  { tag: "SK-206", nickname: "Ptarmigan", sheetId: "brannoch-corrie-600", usedFor: "hill patrol" },
  { tag: "SK-207", nickname: "Mountain Hare", sheetId: "brannoch-corrie-600", usedFor: "hill patrol" },
  { tag: "SK-211", nickname: "Snow Bunting", sheetId: "brannoch-fell-850", usedFor: "ridge patrol" },
  { tag: "SK-118", nickname: "Old Tern", sheetId: "corvane-tern-400", usedFor: "heritage days" },
  { tag: "SK-141", nickname: "Dabchick", sheetId: "corvane-dabchick-50", usedFor: "harbour office errands" },
  { tag: "SK-125", nickname: "Sanderling", sheetId: "ostrel-sanderling-250", usedFor: "coast path, no battery" },
  { tag: "SK-213", nickname: "Dotterel", sheetId: "brannoch-tor-440", usedFor: "hill patrol, spare" },
  { tag: "SK-401", nickname: "Sexton", sheetId: "mossgate-cloister-18", usedFor: "churchyards" },
  { tag: "SK-404", nickname: "Silly Mid-Off", sheetId: "mossgate-pavilion-12", usedFor: "cricket ground" },
  { tag: "SK-302", nickname: "Guillemot", sheetId: "tidewright-sound-40", usedFor: "harbour tender" },
  { tag: "SK-117", nickname: "Blackbird", sheetId: "corvane-merle-250", usedFor: "heritage parade" },
  { tag: "SK-310", nickname: "Fulmar", sheetId: "tidewright-farway-29", usedFor: "relief pilot launch" },
  { tag: "SK-305", nickname: "Gannet", sheetId: "tidewright-reach-90", usedFor: "pilot launch" },
];

const SHOP_METER = { name: "Meter 2", leadOhms: 0.15, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };
const SPARE_METER = { name: "Meter 5, glovebox", leadOhms: 0.3, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 };

/** Minutes between two readings of a demo job. */
const PACE_MINUTES = 2;

/**
 * Fills an empty database with the demo workshop: shop, meters, sheets, machines and jobs, in one transaction.
 * @param now the moment the demo's times count back from
 */
/** Stand-ins for meters that speak; the demo starts them on these ports. */
const STAND_INS = [
  { name: "Stand-in bench meter", language: "scpi", port: 5025, jack: null },
  { name: "Stand-in clamp", language: "scpi", port: 5026, jack: "clamp" },
  { name: "Stand-in logger", language: "lines", port: 5027, jack: "volts" },
] as const;

export function seedDemo(store: Store, now: Date): void {
  store.action(() => {
    const meterId = store.workshop.shop().meterId;
    store.workshop.changeMeter({ id: meterId, ...SHOP_METER });
    store.workshop.addMeter(SPARE_METER);
    store.workshop.changeShop({ name: "Skellin Isles council workshop", school: "harbour", meterId, tools: USUAL_TOOLS });
    for (const sheet of DEMO_SHEETS) store.sheets.add(sheet, now.toISOString());
    for (const unit of UNITS) store.workshop.addUnit(unit);
    for (const instrument of STAND_INS) store.instruments.add({ ...instrument, host: "127.0.0.1", leadOhms: null, ohmsResolution: null, secondMeter: false });
    // By the day they came in: the log of a machine is a story.
    for (const job of [...demoServices(now), ...demoPast(), ...DEMO_JOBS].sort((a, b) => b.openedHoursAgo - a.openedHoursAgo)) addJob(store, job, now);
    for (const { tag } of UNITS) foresee(store, tag, now);
  });
}

function addJob(store: Store, job: DemoJob, now: Date): void {
  const unit = store.workshop.unit(job.unit);
  const sheet = unit && store.sheets.find(unit.sheetId);
  if (!unit || !sheet) throw new Error(`demo job for ${job.unit}: no such machine`);
  const opened = new Date(now.getTime() - job.openedHoursAgo * 3_600_000);
  const at = (minutes: number) => new Date(opened.getTime() + minutes * 60_000).toISOString();
  const id = store.jobs.open(
    {
      unitTag: unit.tag,
      nickname: unit.nickname,
      sheet,
      school: job.school,
      meter: SHOP_METER,
      ambientC: job.ambientC,
      batteryAgeYears: job.batteryAgeYears,
      complaint: job.complaint,
      words: job.words,
      use: job.use,
    },
    at(0),
  );
  const readings = demoReadings(job, sheet, SHOP_METER);
  readings.forEach((reading, i) => {
    store.jobs.readings.keep(id, {
      ...reading,
      id: `demo-${job.unit}-${job.openedHoursAgo}-${String(i + 1).padStart(2, "0")}`,
      ...(testOf(reading.test).leadZero ? { raw: true, leadOhms: SHOP_METER.leadOhms } : {}),
      takenAt: at(PACE_MINUTES * (i + 1)),
    });
  });
  const end = PACE_MINUTES * (readings.length + 1);
  if (job.stated) store.records.state(id, job.stated.part, job.stated.odds, at(end));
  if (job.repairedBefore) store.jobs.repair(id, job.repairedBefore, at(end));
  if (job.repair) store.jobs.repair(id, job.repair, at(end));
  if (!job.ending) return;
  store.jobs.close(id, job.ending.ending, job.ending.note, at(end + PACE_MINUTES));
  store.records.took(id, end, end);
}
