import type { RepairsOf } from "./repair";

const NEW_STATOR: readonly string[] = [
  "Drain what the cover holds and take it off.",
  "Fit the stator with new fixings and a new gasket.",
  "Route its lead clear of the rotor and the exhaust.",
];

/** What makes the current: magnets or field, windings, belt. */
export const GENERATOR_REPAIRS: RepairsOf<"rotor" | "stator" | "drive"> = {
  "rotor.weak": {
    repair: [
      "Pull the flywheel with the maker's puller.",
      "Look for a shed or cracked magnet and clean out the bits.",
      "Fit a rotor for this model and mark the key.",
    ],
    beforeOrdering: "Check the rpm with a second instrument and read AC volts again: half the rpm looks like half the magnets.",
    cautions: ["moving-parts"],
  },
  "stator.winding-open": {
    repair: NEW_STATOR,
    beforeOrdering: "Measure again on the winding side of any joint in the lead: a broken lead looks the same and is cheaper.",
    partner: { part: "regulator", why: "The two remaining legs carried the load; run the diode test before you trust the unit." },
    cautions: ["hot-engine"],
  },
  "stator.turns-shorted": {
    repair: NEW_STATOR,
    beforeOrdering: "Take the lead zero again and repeat the low pair: a bad clip adds, it never subtracts.",
    partner: { part: "regulator", why: "Shorted turns run hot and so does the unit behind them; run the diode test." },
    cautions: ["hot-engine"],
  },
  "stator.winding-grounded": {
    repair: NEW_STATOR,
    beforeOrdering: "Wiggle the lead where it leaves the cover. If the figure jumps, the lead is rubbed through and the winding is good.",
    partner: { part: "regulator", why: "A grounded leg pushes its current through one diode; run the diode test." },
    cautions: ["hot-engine"],
  },
  "stator.leads-parted": {
    repair: NEW_STATOR,
    beforeOrdering:
      "Measure again on the winding side of any joint in the lead, with sound tips: a plug that is off, or tips that do not reach, look the same.",
    cautions: ["hot-engine"],
  },
  "stator.burnt": {
    repair: [
      "Drain what the cover holds and take it off.",
      "Fit the stator with new fixings and a new gasket.",
      "Find out what cooked it: oil that did not reach it, a unit that shorts its legs all the time, a load that is too big.",
    ],
    beforeOrdering: "Look at it before you order: black windings and a burnt smell settle it.",
    partner: { part: "regulator", why: "What burnt the windings may sit in the unit; run the diode test before the new stator meets it." },
    cautions: ["hot-engine"],
  },
  "stator.diode-open": {
    repair: [
      "Cut the diode out of the lead.",
      "Fit one of the same rating, its band towards the battery, and sleeve it.",
      "Read the lead's volts, then the charging volts.",
    ],
    beforeOrdering: "Read the lead on the winding's side of the diode: AC there and nothing behind it is the diode, nothing on either side is the coil.",
    bill: { money: 12, minutes: 30 },
    cautions: ["hot-engine"],
  },
  "stator.diode-shorted": {
    repair: [
      "Cut the diode out of the lead.",
      "Fit one of the same rating, its band towards the battery, and sleeve it.",
      "Fit the fuse that it melted, then read the charging volts.",
    ],
    beforeOrdering: "Part the lead first: with the battery on it the coil's own ohms look like a short.",
    partner: { part: "battery", why: "It discharged through the coil; charge it and prove it." },
    bill: { money: 12, minutes: 30 },
    cautions: ["hot-engine", "negative-first"],
  },
  "rotor.magnet-shed": {
    repair: [
      "Pull the flywheel with the maker's puller.",
      "Look for a shed or cracked magnet and clean out the bits.",
      "Fit a rotor for this model and mark the key.",
    ],
    beforeOrdering: "Hold a steel tool to each magnet in turn: the bare place does not pull.",
    partner: { part: "stator", why: "A loose magnet grinds along the windings; look at them while the rotor is off." },
    cautions: ["moving-parts"],
  },
  "rotor.turns-free": {
    repair: [
      "Take the cover off and look whether the flywheel turns with the crank, all magnets in it.",
      "Fit the flywheel, or its key, and lap the taper; clear loose pieces from the coils.",
      "Tighten to the sheet's torque and read AC on every pair.",
    ],
    beforeOrdering: "Read AC once more on the part's own side, dial on AC: a meter on DC and a probe on the wrong side show nothing either.",
    cautions: ["moving-parts"],
  },
  "rotor.key-sheared": {
    repair: ["Pull the flywheel with the maker's puller.", "Look at key, keyway and taper; lap the taper.", "Fit a new key and tighten to the sheet's torque."],
    beforeOrdering: "Mark crank and flywheel and rev once: marks that part settle it.",
    cautions: ["moving-parts"],
  },
  "stator.windings-bridged": {
    repair: NEW_STATOR,
    beforeOrdering: "Measure again with the lead bent another way: a bridge in the lead moves.",
    partner: { part: "regulator", why: "The bridged legs ran hot; run the diode test." },
    cautions: ["hot-engine"],
  },
  "stator.joint-resists": {
    repair: [
      "Find the joint: pull at solder points and crimps of its lead, reading ohms meanwhile.",
      "Solder or crimp it anew where it lies in the lead; where it lies under the cover, fit a stator:",
      ...NEW_STATOR,
    ],
    beforeOrdering:
      "Measure again on bare, clean metal with sharp tips: a film on a pin or a tip that rides on it reads the same, and a joint in the lead can be soldered.",
    partner: { part: "regulator", why: "The other legs carried its share; run the diode test." },
    cautions: ["hot-engine"],
  },
  "stator.joint-opens-hot": {
    repair: NEW_STATOR,
    beforeOrdering: "Read the pairs cold and again at full heat: only a joint changes that much.",
    partner: { part: "regulator", why: "The unit saw the load come and go; run the diode test." },
    cautions: ["hot-engine"],
  },
  "stator.wrong-fit": {
    repair: [
      "Compare the part number and the count of poles with the sheet.",
      "Fit the stator the sheet names.",
      "Run the charging test at idle and at the sheet's rpm.",
    ],
    beforeOrdering: "Ask what was fitted last, and where it came from.",
    cautions: ["hot-engine"],
  },
  "rotor.field-open": {
    repair: [
      "Take the rotor out.",
      "Fit a rotor or have this one rewound; renew the brushes with it.",
      "Read ohms from ring to ring, then the charging volts.",
    ],
    beforeOrdering: "Read again on the rings themselves with the brushes lifted: worn brushes look the same and cost little.",
    partner: { part: "regulator", why: "Read the field's feed and the full-field volts before you trust the regulator." },
    cautions: ["negative-first", "moving-parts"],
  },
  "rotor.field-shorted": {
    repair: ["Take the rotor out.", "Fit a rotor or have this one rewound.", "Read ohms from ring to ring, then the charging volts."],
    beforeOrdering: "Take the lead zero again and read the rings: a bad clip adds ohms, it never takes any away.",
    partner: { part: "regulator", why: "A low field takes more current than the regulator is made for; prove it with the new rotor in." },
    cautions: ["negative-first", "moving-parts"],
  },
  "rotor.field-grounded": {
    repair: ["Take the rotor out.", "Fit a rotor or have this one rewound.", "Read each ring to the shaft: nothing may pass."],
    beforeOrdering: "Blow brush dust off the rings and the holder and read again: a bridge of carbon looks the same.",
    partner: { part: "battery", why: "It has been overcharged; prove it again." },
    cautions: ["negative-first", "moving-parts"],
  },
  "rotor.brushes-worn": {
    repair: [
      "Fit new brushes and bed them in.",
      "Clean rings or commutator; undercut its mica where it stands proud.",
      "Read the field or the armature again, then the charging volts.",
    ],
    beforeOrdering:
      "Press on the brush and read again: a figure that falls is the brush, not the winding; one that will not slide only wants its holder cleaned.",
    bill: { money: 20, minutes: 45 },
    cautions: ["negative-first", "moving-parts"],
  },
  "rotor.armature-shorted": {
    repair: [
      "Take the generator apart.",
      "Fit an armature or have this one rewound; fit new brushes.",
      "Let it turn as a motor, polarise it, then read the charging volts.",
    ],
    beforeOrdering: "Clean between the commutator's bars: copper and carbon there short its turns.",
    partner: { part: "regulator", why: "Its contacts have carried too much; look at them." },
    cautions: ["negative-first", "moving-parts"],
  },
  "stator.field-open": {
    repair: ["Take the generator apart.", "Fit a field winding, or mend its lead where it broke.", "Polarise it, then read the charging volts."],
    beforeOrdering: "Read on the winding side of the field's terminal: most breaks are in its lead.",
    cautions: ["negative-first", "polarise"],
  },
  "stator.field-shorted": {
    repair: ["Take the generator apart.", "Fit a field winding.", "Polarise it, then read the charging volts."],
    beforeOrdering: "Take the lead zero again and read the field by itself.",
    partner: { part: "regulator", why: "A low field burns the regulator's contacts; look at them." },
    cautions: ["negative-first", "polarise"],
  },
  "stator.field-grounded": {
    repair: ["Take the generator apart.", "Insulate the field's lead or fit a field winding.", "Polarise it, then read the charging volts."],
    beforeOrdering: "Look at the field's terminal first: a washer left out grounds it.",
    partner: { part: "battery", why: "It has been overcharged; prove it again." },
    cautions: ["negative-first", "polarise"],
  },
  "stator.polarity-reversed": {
    repair: [
      "Make sure which post of the battery is earthed.",
      "Polarise the generator by the maker's procedure, before the engine is started.",
      "Start it and read the charging volts.",
    ],
    beforeOrdering: "Nothing need be bought: the iron of the poles is magnetised the wrong way.",
    bill: { money: 0, minutes: 10 },
    cautions: ["polarise", "negative-first"],
  },
  "drive.belt-slack": {
    repair: ["Set the belt's tension by the sheet.", "Renew a belt that is glazed, cracked or oily.", "Read charging volts with all loads."],
    beforeOrdering: "Look at the pulleys: a worn groove lets a new belt slip as well.",
    cautions: ["moving-parts"],
  },
  "drive.belt-missing": {
    repair: ["Find out why it came off.", "Fit a belt and set its tension.", "Read charging volts with all loads."],
    beforeOrdering: "Turn the generator by hand: one that is seized throws the next belt too.",
    cautions: ["moving-parts"],
  },
};
