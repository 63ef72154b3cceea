import type { Step } from "../../core/procedure/step";

/** Reads the small print back, or says which field is wrong and what is allowed. */
export function extrasOf(form: FormData, step: Step): { rpm?: number; restHours?: number; hot?: boolean } | string {
  const extras: { rpm?: number; restHours?: number; hot?: boolean } = {};
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
  return extras;
}
