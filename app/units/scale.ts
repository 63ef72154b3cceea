import type { LoggedTest } from "./log.server";

/** Lowest and highest of what a drawing must show: figures and limits, with a little room. */
export function extentOf({ log }: Pick<LoggedTest, "log">): { bottom: number; top: number } {
  const shown = [...log.points.map(({ value }) => value), log.low, log.high].filter((value) => value !== undefined);
  const [least, most] = [Math.min(...shown), Math.max(...shown)];
  // What never moves is drawn in the middle, not along an edge.
  const room = Math.max((most - least) * 0.15, log.scatter * 2);
  return { bottom: least - room, top: most + room };
}
