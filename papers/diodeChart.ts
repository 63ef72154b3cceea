import type { Sheet } from "../core/machine/sheet";
import { isBad, type JudgedReading, judgedWords } from "../core/procedure/judge";
import { diodeEnds, diodesOf } from "../core/procedure/step";
import { formatValue } from "../core/units";
import type { Paper } from "./paper";

/** The diode chart as it was filled in: red probe down the side, black along the top. Nothing where no diode was read. */
export function diodeChart(paper: Paper, sheet: Sheet, judged: readonly JudgedReading[]): void {
  const read = judged.filter(({ reading }) => reading.test === "regulator.diode");
  if (read.length === 0) return;
  const ends = [...diodesOf(sheet), "B->B+", "B+>B-"].map(diodeEnds);
  const names = [...sheet.legs.map(({ id }) => id), "B+", "B-"].filter((name) => ends.some(({ red, black }) => red === name || black === name));
  paper.heading(2, "Diode chart");
  paper.text("Red probe down the side, black along the top; volts on the diode dial.", { mute: true });
  paper.table(
    [{ title: "red \\ black", width: 0.16 }, ...names.map((name) => ({ title: name.replace("-", "−"), width: 0.84 / names.length, figures: true as const }))],
    names.map((red) => [
      { text: red.replace("-", "−"), strong: true as const },
      ...names.map((black) => {
        if (red === black) return "";
        const judgedReading = read.findLast(({ reading }) => reading.at === `${red}>${black}`);
        return judgedReading ? `${formatValue(judgedReading.value, "V")}${isBad(judgedReading.judged) ? ` ${judgedWords(judgedReading)}` : ""}` : "–";
      }),
    ]),
  );
}
