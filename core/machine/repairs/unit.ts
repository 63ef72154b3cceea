import type { RepairsOf } from "./repair";

/** The regulator with its rectifier. */
export const UNIT_REPAIRS: RepairsOf<"regulator"> = {
  "regulator.diode-open": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, grease the connectors, run the charging test.",
    ],
    beforeOrdering: "Swap the probes' tips and read the diode again on clean pin metal.",
    partner: { part: "stator", why: "One leg was idle and the others overloaded; compare the pairs while it is apart." },
    cautions: ["negative-first"],
  },
  "regulator.diode-shorted": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, grease the connectors, run the charging test.",
    ],
    beforeOrdering: "Make sure that the stator is unplugged: with it plugged in every leg shows the fault.",
    partner: { part: "stator", why: "A shorted diode loads one winding without pause; read pair ohms and legs to case." },
    cautions: ["negative-first"],
  },
  "regulator.diode-leaky": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, grease the connectors, read the drain again.",
    ],
    beforeOrdering: "Plug the unit back in and see the drain return; that settles it.",
    cautions: ["negative-first"],
  },
  "regulator.no-output": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, grease the connectors, run the charging test.",
    ],
    beforeOrdering: "Put a known-good unit in, out, and in again if one is on the shelf.",
    partner: { part: "stator", why: "Repeat AC volts with the engine hot: a winding that opens hot looks like a dead unit." },
    cautions: ["negative-first", "hot-engine"],
  },
  "regulator.set-high": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, run the charging test, look at the battery's fluid.",
    ],
    beforeOrdering: "Check the unit's ground and sense wire first: a lifted ground makes a good unit overcharge.",
    partner: { part: "battery", why: "A battery that was boiled has lost capacity; prove it again." },
    cautions: ["hydrogen", "acid", "negative-first"],
  },
  "regulator.half-open": {
    repair: [
      "Disconnect negative first.",
      "Fit a regulator/rectifier for this model on clean bare metal.",
      "Grease its plugs, connect negative last, then run the charging test.",
    ],
    beforeOrdering: "Read one diode of the dead half again with the probe on another spot of the common pin: one bad contact looks the same.",
    partner: { part: "stator", why: "Half a rectifier loads the legs one way only; read the pairs." },
    cautions: ["negative-first"],
  },
  "regulator.leg-open": {
    repair: [
      "Disconnect negative first.",
      "Fit a regulator/rectifier for this model on clean bare metal.",
      "Grease its plugs, connect negative last, then run the charging test.",
    ],
    beforeOrdering: "Look into that leg's pin: a pin pushed back in the unit's plug looks the same.",
    cautions: ["negative-first"],
  },
  "regulator.output-open": {
    repair: [
      "Disconnect negative first.",
      "Fit a regulator/rectifier for this model on clean bare metal.",
      "Grease its plugs, connect negative last, then run the charging test.",
    ],
    beforeOrdering: "Probe the pin itself, not the terminal in the plug: a pushed-back terminal looks the same.",
    cautions: ["negative-first"],
  },
  "regulator.other-system": {
    repair: [
      "Disconnect negative first.",
      "Fit a regulator/rectifier for this model on clean bare metal.",
      "Grease its plugs, connect negative last, then run the charging test.",
    ],
    beforeOrdering: "Compare the number on the unit with the parts list, and ask who changed it.",
    partner: { part: "battery", why: "It was held at volts that are not its own; prove it again." },
    cautions: ["negative-first"],
  },
  "regulator.wrong-unit": {
    repair: [
      "Disconnect negative first.",
      "Fit a regulator/rectifier for this model on clean bare metal.",
      "Grease its plugs, connect negative last, then run the charging test.",
    ],
    beforeOrdering: "Compare the number on the unit with the parts list, and ask who changed it.",
    partner: { part: "stator", why: "A stator and a unit that do not belong together wear each other out; read the pairs." },
    cautions: ["negative-first"],
  },
  "regulator.set-low": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, grease the connectors, run the charging test.",
    ],
    beforeOrdering: "Read the drop from the unit to the battery plus first: the wire can lose the same volts.",
    cautions: ["negative-first"],
  },
  "regulator.never-regulates": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, grease the connectors, run the charging test.",
    ],
    beforeOrdering: "Check the unit's ground and sense wire first: a lifted ground makes a good unit overcharge.",
    partner: { part: "battery", why: "A battery that was boiled has lost capacity; prove it again." },
    cautions: ["hydrogen", "acid", "negative-first"],
  },
  "regulator.sense-open": {
    repair: ["Find the break in the sense wire and mend it.", "Clean both ends of it to bright metal.", "Run the charging test with all loads."],
    beforeOrdering: "Read volts on the sense pin with the key on: it must show the battery.",
    cautions: ["negative-first"],
  },
  "regulator.ground-open": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, grease the connectors, run the charging test.",
    ],
    beforeOrdering: "Clip a jumper from the unit's case to battery negative and read charging volts once more.",
    cautions: ["negative-first"],
  },
  "regulator.fails-hot": {
    repair: [
      "Unplug the unit and take it off.",
      "Clean the mounting face and the ground point to bare metal.",
      "Fit the unit, grease the connectors, run the charging test.",
    ],
    beforeOrdering: "Warm the cold unit with a hot-air gun and watch the charging volts fall.",
    cautions: ["negative-first", "hot-engine"],
  },
  "regulator.cutout-open": {
    repair: [
      "Clean the cut-out's contacts.",
      "Set its closing volts by the sheet, or fit a regulator.",
      "Polarise the generator, then read the charging volts.",
    ],
    beforeOrdering: "Read the volts on both sides of it while it runs: good before it and nothing behind it is the cut-out.",
    bill: { money: 0, minutes: 30 },
    cautions: ["negative-first", "polarise"],
  },
  "regulator.cutout-welded": {
    repair: [
      "Disconnect negative first.",
      "Part the contacts and dress them, or fit a regulator.",
      "Fit the fuse it melted, polarise the generator, then read the charging volts.",
    ],
    beforeOrdering: "Take A off the regulator and read the drain again: gone settles it.",
    partner: { part: "battery", why: "It has drained through the armature; charge it and prove it." },
    bill: { money: 0, minutes: 30 },
    cautions: ["negative-first", "polarise"],
  },
};
