import type { Step } from "../../core/procedure/step";

/** The small print of a reading: the real rpm, hours of rest, whether it was hot, whether the battery had been charged. */
export interface SmallPrint {
  rpm?: number;
  restHours?: number;
  hot?: boolean;
  charged?: boolean;
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
  if (form.has("hot")) extras.hot = true;
  if (form.has("charged")) extras.charged = true;
  return extras;
}
