import type { Test } from "../test";
import { OFF } from "./setups";

/** Milliamps with the meter between the earthed cable and its post. */
const IN_SERIES = {
  group: "drain",
  unit: "mA",
  dial: "A DC",
  red: "cable-",
  black: "battery-",
  possible: [-100000, 100000],
  plausible: [0, 5000],
  openAllowed: false,
  needs: "battery",
} as const;

/** What flows with the key out. */
export const DRAIN = [
  {
    ...IN_SERIES,
    id: "drain.current",
    title: "Drain, key out",
    tells: "What the machine takes while it stands.",
    points: "none",
    setUp: { ...OFF, unplug: ["negative"], do: "Key out and removed. Take the negative cable off, meter in between; highest range and jack first." },
    minutes: 3,
    cautions: ["ammeter", "negative-first"],
    hint: "Keep all ground leads together on the cable side. Step the range down once it is quiet.",
  },
  {
    ...IN_SERIES,
    id: "drain.unitUnplugged",
    title: "Drain, unit unplugged",
    tells: "A draw that vanishes now is a leaky diode.",
    points: "none",
    setUp: { engine: "off", key: "out", unplug: ["negative", "unit", "output"], do: "Leave the meter in series and unplug the regulator/rectifier." },
    minutes: 1,
    cautions: ["ammeter"],
    onlyWhenAsked: true,
  },
  {
    ...IN_SERIES,
    id: "drain.fusePulled",
    title: "Drain, fuse {fuse} pulled",
    tells: "The fuse that stops the draw feeds the part that draws.",
    points: "fuse",
    setUp: { ...OFF, unplug: ["negative"], do: "Leave the meter in series and pull the fuse." },
    minutes: 0.5,
    cautions: ["ammeter"],
    onlyWhenAsked: true,
  },
  {
    ...IN_SERIES,
    id: "drain.connectorParted",
    title: "Drain, {place} parted",
    tells: "Behind the fuse that stops the draw, the connector that stops it leads to what draws.",
    points: "named",
    setUp: { ...OFF, unplug: ["negative"], do: "Leave the meter in series and part the connector." },
    minutes: 0.5,
    cautions: ["ammeter"],
    onlyWhenAsked: true,
  },
] as const satisfies readonly Test[];
