import type { SetUp } from "../test";

/** How the machine stands in the set-ups that many tests share. */
export const OFF: SetUp = { engine: "off", key: "out", unplug: [], do: "Engine off, key out." };
export const UNPLUGGED: SetUp = {
  engine: "off",
  key: "out",
  unplug: ["stator"],
  do: "Engine off, key out. Unplug {connector}; stay on the part side.",
};
export const UNIT_OUT: SetUp = {
  engine: "off",
  key: "out",
  unplug: ["stator", "output"],
  do: "Engine off, key out. Unplug the unit from stator and harness; stay on the unit's own pins.",
};
export const RUNNING: SetUp = { engine: "running", key: "on", unplug: [], do: "Engine warm and running, everything plugged in." };
export const RUNNING_UNPLUGGED: SetUp = {
  engine: "running",
  key: "on",
  unplug: ["stator"],
  do: "Unplug {connector}, then start the engine; stay on the part side.",
};
