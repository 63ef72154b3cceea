import type { PhaseName } from "../../core/trace/phases";

/** What the phases of a trace are called. */
export const PHASE_NAMES: Record<PhaseName, string> = {
  rest: "at rest",
  "key-on": "key on",
  crank: "crank",
  idle: "idle",
  run: "revved",
  loads: "loads on",
  off: "stopped",
  gap: "no readings",
};
