import { chartSheetsOf } from "../../core/diagnosis/population/builds";
import { chartedPopulation } from "../../core/diagnosis/population/charted";
import { type Atlas, drawChart, tasksOf } from "../../core/diagnosis/population/charts";
import type { Population } from "../../core/diagnosis/population/population";
import type { Sheet } from "../../core/machine/sheet";
import { DEMO_SHEETS } from "../../demo/sheets";

const atlases = new Map<string, Atlas>();
const populations = new Map<string, Population>();

export function sheetOf(id: string): Sheet {
  const sheet = DEMO_SHEETS.find((sheet) => sheet.id === id);
  if (!sheet) throw new Error(`no demo sheet ${id}`);
  return sheet;
}

/** A sheet without a figure has one name for several circuits. */
const keyOf = ({ id, family, winding, loose }: Sheet): string => [id, family, winding, loose].join();

/** A machine's charts, drawn once a test file. */
export function atlasOf(sheet: Sheet): Atlas {
  const atlas = atlases.get(keyOf(sheet)) ?? Object.fromEntries(tasksOf(sheet).map((task) => [task.key, drawChart(sheet, task)]));
  atlases.set(keyOf(sheet), atlas);
  return atlas;
}

/** A machine's population at 20 °C, made once a test file. */
export function populationOf(sheet: Sheet): Population {
  const key = `${sheet.id} ${sheet.loose ?? ""}`;
  const population = populations.get(key) ?? chartedPopulation(sheet, chartSheetsOf(sheet).map(atlasOf), 20);
  populations.set(key, population);
  return population;
}
