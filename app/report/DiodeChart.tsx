import type { Sheet } from "../../core/machine/sheet";
import { isBad, type JudgedReading, judgedWords } from "../../core/procedure/judge";
import { diodeEnds, diodesOf } from "../../core/procedure/step";
import { formatValue } from "../../core/units";

/** The diode chart as it was filled in: red probe down the side, black along the top; the latest reading of each direction. */
export function DiodeChart({ sheet, judged }: { sheet: Sheet; judged: readonly JudgedReading[] }) {
  const read = judged.filter(({ reading }) => reading.test === "regulator.diode");
  if (read.length === 0) return null;
  const ends = [...diodesOf(sheet), "B->B+", "B+>B-"].map(diodeEnds);
  const names = [...sheet.legs.map(({ id }) => id), "B+", "B-"].filter((name) => ends.some(({ red, black }) => red === name || black === name));
  const cell = (red: string, black: string): JudgedReading | undefined => read.findLast(({ reading }) => reading.at === `${red}>${black}`);
  const probe = (name: string): string => name.replace("-", "−");
  return (
    <section className="mt-5">
      <h2 className="m-0">Diode chart</h2>
      <table className="mt-2 border-collapse">
        <caption className="text-mute pb-1 text-left text-[0.95rem]">Red probe down the side, black along the top; volts on the diode dial.</caption>
        <thead>
          <tr>
            <td className="border-hair border" />
            {names.map((name) => (
              <th key={name} scope="col" className="border-hair num w-20 border px-3 py-1">
                {probe(name)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {names.map((red) => (
            <tr key={red}>
              <th scope="row" className="border-hair num border px-3 py-1">
                {probe(red)}
              </th>
              {names.map((black) => (
                <Cell key={black} judgedReading={cell(red, black)} same={red === black} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Cell({ judgedReading, same }: { judgedReading: JudgedReading | undefined; same: boolean }) {
  if (same) return <td className="border-hair bg-hair/40 border" />;
  if (!judgedReading) return <td className="border-hair text-mute border px-3 py-1 text-center">–</td>;
  return (
    <td className="border-hair border px-3 py-1">
      <span className="num">{formatValue(judgedReading.value, "V")}</span>
      {isBad(judgedReading.judged) ? <strong className="text-copper block text-[0.9rem]">{judgedWords(judgedReading)}</strong> : null}
    </td>
  );
}
