import type { Sheet } from "../machine/sheet";
import { formatQuantity } from "../units";
import type { TestId } from "./catalogue";
import { testOf } from "./catalogue";
import { isBad, type JudgedReading, ratedShare } from "./judge";
import { stepTitle } from "./step";

/** What one way of proving a battery says of it. */
interface Method {
  id: string;
  title: string;
  /** The figure as it was read, and what it comes to of the label's where that is known. */
  shows: string;
  good: boolean;
}

/** The ways in which a battery is proved under load; rest volts say how full it is and prove nothing. */
const METHODS: readonly TestId[] = ["battery.crank", "battery.load", "battery.conductance", "battery.crankingAmps", "battery.innerOhms"];

/** The latest reading of each way of proving the battery, side by side, and whether they agree; undefined while there is only one. */
export function batteryMethods(judged: readonly JudgedReading[], sheet: Sheet): { methods: Method[]; agree: boolean } | undefined {
  const methods = METHODS.flatMap((test): Method[] => {
    const judgedReading = judged.findLast(({ reading, judged: how }) => reading.test === test && how !== "info");
    if (!judgedReading) return [];
    const share = ratedShare({ ...judgedReading.reading, value: judgedReading.value }, sheet);
    const figure = formatQuantity(judgedReading.value, testOf(test).unit);
    return [
      {
        id: test,
        title: stepTitle(judgedReading.reading),
        shows: share === undefined ? figure : `${figure}, ${Math.round(share)} % of the label's`,
        good: !isBad(judgedReading.judged),
      },
    ];
  });
  const [first, second] = methods;
  return first && second ? { methods, agree: methods.every(({ good }) => good === first.good) } : undefined;
}
