import type { Advice } from "../../core/diagnosis/advice";
import type { Shown } from "../../core/diagnosis/posterior/suspects";
import { oddsWords, setName } from "../../core/diagnosis/words/words";
import { testOf } from "../../core/procedure/catalogue";
import { type Reading, stepTitle, turningVolts } from "../../core/procedure/step";
import { formatQuantity, isOpen } from "../../core/units";

/** For each of the likeliest sets, what it would show for every reading taken, against what was read; what does not fit is marked. */
export function SuspectsPanel({ advice, weighed }: { advice: Advice; weighed: readonly Reading[] }) {
  if (weighed.length === 0 || advice.suspects.length === 0)
    return <p className="text-mute m-0">Nothing has been read yet: each suspect's readings stand here once something has.</p>;
  return (
    <div className="flex flex-col gap-5">
      {advice.suspects.map(({ set, odds, shows }) => {
        const misfits = shows.filter(({ misfit }) => misfit).length;
        return (
          <section key={set}>
            <h3 className="m-0 text-lg">
              {setName(set, advice)} <span className="text-mute text-[0.95rem] font-normal">({oddsWords(odds)})</span>
            </h3>
            <p className="text-mute m-0 mb-1 text-[0.95rem]">
              {misfits === 0 ? "Every reading fits." : `${misfits} of ${shows.length} ${misfits === 1 ? "does" : "do"} not fit.`}
            </p>
            <table className="w-full border-collapse text-[0.95rem]">
              <thead>
                <tr className="text-mute text-left">
                  <th className="pr-3 font-normal">Reading</th>
                  <th className="pr-3 text-right font-normal">read</th>
                  <th className="text-right font-normal">it would show</th>
                </tr>
              </thead>
              <tbody>
                {shows.map((shown) => {
                  const reading = weighed[shown.reading];
                  return reading ? <SuspectRow key={shown.reading} shown={shown} reading={reading} /> : null;
                })}
              </tbody>
            </table>
          </section>
        );
      })}
    </div>
  );
}

function SuspectRow({ shown, reading }: { shown: Shown; reading: Reading }) {
  const { unit } = testOf(reading.test);
  const read = typeof reading.value === "number" ? turningVolts(reading.value, reading) : reading.value;
  const would = typeof shown.expected === "number" ? figureWords(shown, unit) : isOpen(shown.expected) ? "OL" : shown.expected;
  return (
    <tr className={`border-hair border-t align-baseline ${shown.misfit ? "text-copper" : ""}`}>
      <td className="py-1 pr-3">
        {stepTitle(reading)}
        {shown.misfit ? <span className="font-semibold"> does not fit</span> : null}
      </td>
      <td className="num py-1 pr-3 text-right whitespace-nowrap">{formatQuantity(read, unit)}</td>
      <td className="num py-1 text-right whitespace-nowrap">{would}</td>
    </tr>
  );
}

function figureWords({ expected, range }: Shown, unit: Parameters<typeof formatQuantity>[1]): string {
  const round = (value: number): number => Number(value.toPrecision(3));
  if (!range) return formatQuantity(round(expected as number), unit);
  return `${round(range[0])} to ${formatQuantity(round(range[1]), unit)}`;
}
