import jstat from "jstat";

/**
 * Whether a figure that is read again and again has changed, when, and where it goes: steady, a slope that begins at some reading, or a
 * shift of its level, weighed against each other by their marginal likelihoods.
 */

/** One figure at a time. */
export interface Observation {
  /** When, in years from any beginning. */
  years: number;
  value: number;
}

/** How a figure goes on. */
type Course = "steady" | "slope" | "shift";

/** One way in which the figure could have gone, fitted. */
interface Fit {
  course: Course;
  /** The reading from which the slope runs, or with which the new level begins. */
  from: number;
  /** Odds of this way among all. */
  odds: number;
  /** Means of level and change, and their covariance without the noise's variance. */
  mean: readonly [number, number];
  covariance: readonly [number, number, number];
  /** Degrees of freedom and scale of the noise's variance: b/a. */
  dof: number;
  variance: number;
}

/** What a row of readings says of its course. */
export interface Change {
  observations: readonly Observation[];
  fits: readonly Fit[];
  odds: Record<Course, number>;
}

/** Before anything is read: most figures stay, some wander off, few jump. */
const PRIOR: Record<Course, number> = { steady: 0.72, slope: 0.2, shift: 0.08 };

/** Shape of the inverse gamma over the noise's variance: the test's usual scatter counts like six readings. */
const NOISE_SHAPE = 3;

/** How far level, a year's slope and a shift may reach, in scatters of the test. */
const REACH = { level: 1000, slope: 4, shift: 8 } as const;

/** Fewer readings than this show no course. */
export const FEWEST = 3;

/**
 * Weighs the courses of a figure by Bayesian linear regression with a normal inverse gamma prior (Bishop, Pattern Recognition and Machine
 * Learning, 3.3; Denison et al., Bayesian Methods for Nonlinear Classification and Regression, ch. 2); every place at which a slope or
 * a new level could begin is a model of its own.
 * @param observations in the order of their time, at least three
 * @param scatter standard deviation of one reading about its true figure, as such tests have it, in the figure's unit
 */
export function weighChange(observations: readonly Observation[], scatter: number): Change {
  const count = observations.length;
  if (count < FEWEST) throw new RangeError(`A course takes ${FEWEST} readings, not ${count}.`);
  const bends = count - 2;
  const shifts = count - 2;
  const found: Fit[] = [fitted(observations, scatter, "steady", 0, PRIOR.steady)];
  for (let from = 0; from < bends; from++) found.push(fitted(observations, scatter, "slope", from, PRIOR.slope / bends));
  // A new level takes two readings to be told from a misread.
  for (let from = 1; from <= shifts; from++) found.push(fitted(observations, scatter, "shift", from, PRIOR.shift / shifts));
  const best = Math.max(...found.map(({ odds }) => odds));
  const weights = found.map(({ odds }) => Math.exp(odds - best));
  const sum = weights.reduce((all, weight) => all + weight, 0);
  const fits = found.map((fit, k) => ({ ...fit, odds: (weights[k] as number) / sum }));
  const oddsOf = (course: Course): number => fits.reduce((all, fit) => all + (fit.course === course ? fit.odds : 0), 0);
  return { observations, fits, odds: { steady: oddsOf("steady"), slope: oddsOf("slope"), shift: oddsOf("shift") } };
}

/** The second regressor of a course: years since the slope began, or whether the new level holds. */
function regressor(course: Course, observations: readonly Observation[], from: number, years: number): number {
  const begins = (observations[from] as Observation).years;
  if (course === "slope") return Math.max(0, years - begins);
  return course === "shift" && years >= begins ? 1 : 0;
}

/** One course fitted; its `odds` are the logarithm of prior times marginal likelihood, up to a constant all share. */
function fitted(observations: readonly Observation[], scatter: number, course: Course, from: number, prior: number): Fit {
  const [shape, rate] = [NOISE_SHAPE, (NOISE_SHAPE - 1) * scatter * scatter];
  const centre = observations.reduce((sum, { value }) => sum + value, 0) / observations.length;
  const precision: [number, number] = [REACH.level ** -2, (course === "slope" ? REACH.slope : REACH.shift) ** -2];
  let [p00, p01, p11, q0, q1, squares] = [precision[0], 0, precision[1], 0, 0, 0];
  for (const { years, value } of observations) {
    const [x, y] = [regressor(course, observations, from, years), value - centre];
    p00 += 1;
    p01 += x;
    p11 += x * x;
    q0 += y;
    q1 += x * y;
    squares += y * y;
  }
  const determinant = p00 * p11 - p01 * p01;
  const [v00, v01, v11] = [p11 / determinant, -p01 / determinant, p00 / determinant];
  const [m0, m1] = [v00 * q0 + v01 * q1, v01 * q0 + v11 * q1];
  const shapeAfter = shape + observations.length / 2;
  const rateAfter = Math.max(1e-300, rate + 0.5 * (squares - (m0 * q0 + m1 * q1)));
  const evidence =
    0.5 * Math.log((precision[0] * precision[1]) / determinant) +
    shape * Math.log(rate) -
    shapeAfter * Math.log(rateAfter) +
    jstat.gammaln(shapeAfter) -
    jstat.gammaln(shape);
  return {
    course,
    from,
    odds: Math.log(prior) + evidence,
    mean: [centre + m0, m1],
    covariance: [v00, v01, v11],
    dof: 2 * shapeAfter,
    variance: rateAfter / shapeAfter,
  };
}

/** The true figure at a time: its mean and spread under each course, averaged. @param years on the observations' scale */
export function levelAt(change: Change, years: number): { mean: number; deviation: number } {
  let [mean, square] = [0, 0];
  for (const fit of change.fits) {
    const at = predicted(fit, change.observations, years);
    // A Student's t has dof/(dof − 2) of its scale's square as variance.
    mean += fit.odds * at.mean;
    square += fit.odds * (at.mean ** 2 + (at.scale ** 2 * fit.dof) / (fit.dof - 2));
  }
  return { mean, deviation: Math.sqrt(Math.max(0, square - mean ** 2)) };
}

/**
 * Odds that the true figure lies below a limit at a time: a mixture of Student's t distributions, one a course.
 * @param limit in the figure's unit
 */
export function oddsBelow(change: Change, limit: number, years: number): number {
  return change.fits.reduce((sum, fit) => {
    const { mean, scale } = predicted(fit, change.observations, years);
    return sum + fit.odds * jstat.studentt.cdf((limit - mean) / scale, fit.dof);
  }, 0);
}

/** The likeliest slope, in units a year, and the likeliest place of a change. */
export function likeliest(change: Change, course: Exclude<Course, "steady">): { by: number; from: Observation } {
  const best = change.fits.filter((fit) => fit.course === course).reduce((most, fit) => (fit.odds > most.odds ? fit : most));
  return { by: best.mean[1], from: change.observations[best.from] as Observation };
}

function predicted(fit: Fit, observations: readonly Observation[], years: number): { mean: number; scale: number } {
  const x = regressor(fit.course, observations, fit.from, years);
  const [v00, v01, v11] = fit.covariance;
  return { mean: fit.mean[0] + fit.mean[1] * x, scale: Math.sqrt(fit.variance * Math.max(1e-12, v00 + 2 * x * v01 + x * x * v11)) };
}
