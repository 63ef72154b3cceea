/** A slow swing of the volts about their level: a regulator that hunts. */
interface Swing {
  /** Radians a bin. */
  turn: number;
  sine: number;
  cosine: number;
}

/** How often it goes to and fro, 1/s; in which steps that is tried, and then in which around the best. */
const HERTZ = { least: 0.3, most: 1.8, step: 0.03, fine: 0.005 } as const;
/** From so far to either side it is one, V on 12 V, and it leaves no more than this share of what moves. */
const PLAIN = { volts: 0.1, left: 0.35 } as const;

/**
 * The swing of a stretch: the sine, of those that a hunting regulator may have, that fits best (least squares on level, sine and
 * cosine); undefined where none explains most of what moves.
 * @param level middles of bins, V @param from first bin, and `to` the one after the last
 */
export function swingIn(level: Float64Array, from: number, to: number, width: number, scale: number): Swing | undefined {
  const count = to - from;
  if (count < 8) return undefined;
  let mean = 0;
  for (let k = from; k < to; k++) mean += (level[k] as number) / count;
  const moved = level.slice(from, to).map((volts) => volts - mean);
  const moves = moved.reduce((sum, volts) => sum + volts * volts, 0);
  const best = (least: number, most: number, step: number) => {
    const tried = Array.from({ length: Math.round((most - least) / step) + 1 }, (_, k) => sineIn(moved, from, 2 * Math.PI * (least + k * step) * width));
    return tried.reduce((first, other) => (other.explained > first.explained ? other : first));
  };
  const about = best(HERTZ.least, HERTZ.most, HERTZ.step).swing.turn / (2 * Math.PI * width);
  const { swing, explained } = best(about - HERTZ.step, about + HERTZ.step, HERTZ.fine);
  return explained > (1 - PLAIN.left) * moves && Math.hypot(swing.sine, swing.cosine) >= PLAIN.volts * scale ? swing : undefined;
}

/** The sine of some turn a bin that fits best, and how much of the squares it explains. @param moved what moves about its mean, from bin `from` on */
function sineIn(moved: Float64Array, from: number, turn: number): { swing: Swing; explained: number } {
  const count = moved.length;
  let [s, c, ss, cc, sc, sy, cy] = [0, 0, 0, 0, 0, 0, 0];
  for (let k = 0; k < count; k++) {
    const [sine, cosine, y] = [Math.sin(turn * (from + k)), Math.cos(turn * (from + k)), moved[k] as number];
    s += sine;
    c += cosine;
    ss += sine * sine;
    cc += cosine * cosine;
    sc += sine * cosine;
    sy += sine * y;
    cy += cosine * y;
  }
  // The level's own row is taken out first: its share of each other row.
  const [aa, bb, ab] = [ss - (s * s) / count, cc - (c * c) / count, sc - (s * c) / count];
  const det = Math.max(1e-9, aa * bb - ab * ab);
  const [sine, cosine] = [(bb * sy - ab * cy) / det, (aa * cy - ab * sy) / det];
  return { swing: { turn, sine, cosine }, explained: sine * sy + cosine * cy };
}

/** What a swing adds to the level at a bin, V. */
export function swingAt({ turn, sine, cosine }: Swing, bin: number): number {
  return sine * Math.sin(turn * bin) + cosine * Math.cos(turn * bin);
}
