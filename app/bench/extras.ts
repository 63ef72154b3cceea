import { RATING_IDS, type Rating } from "../../core/battery/ratings";
import { type Step, TOUCHED, type Touched } from "../../core/procedure/step";

/** The small print of a reading: the real rpm, hours of rest, amps of a load, whether it was hot, whether the battery had been charged, what the probe touched, what standard a tester speaks, how far the figure swung, a word on it, whether the second meter showed it. */
export interface SmallPrint {
  rpm?: number;
  restHours?: number;
  hot?: boolean;
  charged?: boolean;
  amps?: number;
  touched?: Touched;
  rating?: Rating;
  swing?: number;
  note?: string;
  secondMeter?: boolean;
}

/** Reads the small print back, or says which field is wrong and what is allowed. */
export function extrasOf(form: FormData, step: Step): SmallPrint | string {
  const extras: SmallPrint = {};
  if (typeof step.rpm === "number" && form.has("rpm")) {
    const rpm = Number(String(form.get("rpm")).replace(/[\s,]/g, ""));
    if (!Number.isInteger(rpm) || rpm < 100 || rpm > 20_000) return "Rpm must be a whole number from 100 to 20,000.";
    extras.rpm = rpm;
  }
  if (form.has("restHours")) {
    const hours = Number(String(form.get("restHours")).replace(",", "."));
    if (!Number.isFinite(hours) || hours < 0 || hours > 10_000) return "Hours of rest must be a number from 0 to 10,000.";
    extras.restHours = hours;
  }
  if (form.has("amps")) {
    const amps = Number(String(form.get("amps")).replace(",", "."));
    if (!Number.isFinite(amps) || amps < 1 || amps > 2000) return "The load must be a number of amps from 1 to 2,000.";
    extras.amps = amps;
  }
  if (form.get("swing")) {
    const swing = Number(String(form.get("swing")).replace(",", "."));
    if (!Number.isFinite(swing) || swing < 0 || swing > 100) return "How far it swings must be a number from 0 to 100, highest minus lowest.";
    if (swing > 0) extras.swing = swing;
  }
  if (form.has("hot")) extras.hot = true;
  if (form.has("charged")) extras.charged = true;
  if (form.has("secondMeter")) extras.secondMeter = true;
  const touched = TOUCHED.find((what) => what === form.get("touched"));
  if (touched) extras.touched = touched;
  const rating = RATING_IDS.find((standard) => standard === form.get("rating"));
  if (rating && rating !== "sae") extras.rating = rating;
  return extras;
}
