import { format } from "date-fns";
import type { LoggedTest } from "../app/units/log.server";
import { TrendStrip } from "../app/units/TrendStrip";
import { testOf } from "../core/procedure/catalogue";
import { stepTitle } from "../core/procedure/step";
import { formatQuantity } from "../core/units";
import { drawn } from "./drawings";
import { Paper } from "./paper";

/** What the log of one machine is made of on paper. */
interface MachineMatter {
  shop: string;
  unit: { tag: string; nickname: string; usedFor: string };
  machine: string;
  tests: readonly LoggedTest[];
}

/** Tests drawn at most, those with the most figures. */
const MOST = 24;

/** The log of one machine: what is coming, then every test over the years. */
export function machinePaper({ shop, unit, machine, tests }: MachineMatter): Promise<Uint8Array> {
  const paper = new Paper({ title: `Log of ${unit.tag} ${unit.nickname}`, shop, kind: `log of ${unit.tag}` });
  paper.text(shop, { strong: true });
  paper.heading(1, `${unit.tag} “${unit.nickname}”, ${machine}`);
  if (unit.usedFor) paper.text(unit.usedFor, { mute: true });
  const warned = tests.flatMap(({ says }) => says ?? []);
  paper.heading(2, "What is coming");
  for (const says of warned) paper.text(says, { size: "lead" });
  if (warned.length === 0) paper.text("Nothing in its log moves towards its limit.");
  for (const [k, test] of tests.slice(0, MOST).entries()) {
    const { log } = test;
    const say = (value: number): string => formatQuantity(Number(value.toPrecision(4)), testOf(log.step.test).unit);
    paper.heading(2, stepTitle(log.step));
    if (log.points.length > 1) paper.figure(drawn(<TrendStrip test={test} id={`p${k}`} />), `${stepTitle(log.step)} over the years; the figures follow.`, 62);
    paper.text(log.points.map(({ at, read, says }) => `${format(at, "d MMM yyyy")} ${say(read)} (${says})`).join("; "), { size: "small" });
  }
  return paper.finish();
}
