import type { RepairsOf } from "./repair";

/** What stores, carries and takes the current: battery, wiring, loads, starter. */
export const SUPPLY_REPAIRS: RepairsOf<"battery" | "wiring" | "loads" | "starter"> = {
  "battery.discharged": {
    repair: [
      "Charge the battery fully off the machine.",
      "Let it rest as long as the shop's school asks.",
      "Take rest, settled and crank volts again before going on.",
    ],
    beforeOrdering: "A flat battery is usually a symptom. Charge it and prove it before you condemn it.",
    cautions: ["hydrogen", "acid"],
  },
  "battery.sulphated": {
    repair: ["Disconnect negative first.", "Fit a battery of the sheet's size and kind.", "Connect negative last, then run the charging test."],
    beforeOrdering: "Clean and tighten both posts and repeat the crank: a loose post looks the same.",
    partner: { part: "regulator", why: "A regulator that overcharges kills batteries; read charging volts with the new one in." },
    cautions: ["hydrogen", "acid", "negative-first"],
  },
  "battery.capacitor-dry": {
    repair: [
      "Let it discharge through a lamp before touching its terminals.",
      "Fit a capacitor of the sheet's size, its plus to the output wire.",
      "Run the charging test and read the ripple again; the lamps no longer flicker.",
    ],
    beforeOrdering: "Clip a good one of that size across it, engine stopped, plus to plus; run it again: if the ripple falls, the old one is dry.",
    partner: { part: "regulator", why: "Without it the unit has worked on raw pulses; read charging volts with the new one in." },
    cautions: ["capacitor"],
  },
  "battery.shorted-cell": {
    repair: ["Disconnect negative first.", "Fit a battery of the sheet's size and kind.", "Connect negative last, then run the charging test."],
    beforeOrdering: "Charge it once more: a cell that is only flat comes up, a shorted one does not.",
    partner: { part: "regulator", why: "It has been charging into a short; read charging volts with the new battery in." },
    cautions: ["hydrogen", "acid", "negative-first"],
  },
  "wiring.leg-burnt": {
    repair: [
      "Cut back to bright copper.",
      "Fit new terminals of the right size, crimped, not twisted.",
      "Grease the connector and tie the cable off its old rub.",
    ],
    beforeOrdering: "Read AC volts on both sides of the connector: the leg that is lost shows where.",
    partner: { part: "regulator", why: "A burnt pin heats the unit behind it; run the diode test." },
    cautions: ["negative-first"],
  },
  "wiring.output-resistance": {
    repair: [
      "Clean every joint from the unit's output to the battery plus.",
      "Renew the cooked connector or fuse holder.",
      "Read the drop again under charge.",
    ],
    beforeOrdering: "Walk the black probe from the battery plus toward the unit; the drop jumps at the bad joint.",
    cautions: ["negative-first", "no-sparks"],
  },
  "wiring.ground-resistance": {
    repair: [
      "Clean the unit's mounting and ground point to bare metal.",
      "Renew the ground strap if its ends are green.",
      "Read the ground again with a lamp that lights.",
    ],
    beforeOrdering: "Clip a jumper from the unit's case to battery negative and read charging volts once more.",
    cautions: ["negative-first", "no-sparks"],
  },
  "wiring.feed-open": {
    repair: [
      "Find the open fuse, relay or joint between the battery and the unit.",
      "Find out why the fuse went before fitting another.",
      "Read the feed again with the key on.",
    ],
    beforeOrdering: "Read both ends of the fuse with the key on; one side dead is the fuse, both dead is the wire before it.",
    partner: { part: "regulator", why: "A unit that ran without the battery saw high volts; run the diode test." },
    cautions: ["negative-first", "no-sparks"],
  },
  "wiring.terminals": {
    repair: ["Clean posts, lugs and strap ends to bright metal.", "Tighten them and protect them with grease.", "Take the crank and the charging volts again."],
    beforeOrdering: "Nothing to order yet: clean and tighten, then repeat the readings.",
    cautions: ["negative-first", "no-sparks"],
  },
  "loads.parasitic": {
    repair: [
      "Pull fuses one at a time with the ammeter in, until the draw drops.",
      "Follow that circuit's connectors until it drops again.",
      "Mend or remove the part and read the drain once more.",
    ],
    beforeOrdering: "Wait until clocks and modules have gone to sleep, and read again.",
    cautions: ["ammeter"],
  },
  "starter.draws-too-much": {
    repair: [
      "Clean the starter cable's ends and the starter's ground.",
      "Read the cable drop while cranking again.",
      "Take the starter off and look at brushes and bushes.",
    ],
    beforeOrdering: "Crank with a battery that is known good: if the dip stays, it is the starter.",
    cautions: ["crank", "no-sparks"],
  },
  "battery.open-joint": {
    repair: ["Disconnect negative first.", "Fit a battery of the sheet's size and kind.", "Connect negative last, then run the charging test."],
    beforeOrdering: "Clean and tighten both posts and repeat the crank: a loose post looks the same.",
    cautions: ["hydrogen", "acid", "negative-first"],
  },
  "battery.charger-on": {
    repair: [
      "Take charger or jump pack off, its plug out of the wall first.",
      "Let the battery rest as long as the shop's school asks.",
      "Take rest, settled and crank volts again before going on.",
    ],
    beforeOrdering: "Nothing is judged with a charger on: look for its clips at the battery and under the seat before anything else.",
    cautions: ["hydrogen", "no-sparks"],
  },
  "battery.undersized": {
    repair: ["Disconnect negative first.", "Fit a battery of the sheet's size and kind.", "Connect negative last, then run the charging test."],
    beforeOrdering: "Compare the label with the sheet: ampere-hours and cranking amps.",
    cautions: ["hydrogen", "acid", "negative-first"],
  },
  "wiring.cable-broken": {
    repair: [
      "Find the break by bending the cable while reading AC at its end.",
      "Solder or crimp in new wire of the same gauge and sleeve it.",
      "Tie the cable off its old rub and read the pairs at the unit again.",
    ],
    beforeOrdering: "Read AC volts on both ends of the cable: the leg that is lost shows where.",
    partner: { part: "regulator", why: "It ran on two legs; run the diode test." },
    cautions: ["negative-first"],
  },
  "wiring.fuse-open": {
    repair: ["Find out why the fuse went before fitting another.", "Fit one of the sheet's rating, never a larger.", "Read the feed and the drain again."],
    beforeOrdering: "Measure it out of its holder: a fuse can look whole and be open.",
    cautions: ["negative-first", "no-sparks"],
  },
  "loads.too-much": {
    repair: [
      "Add up what is fitted, in amps, against the output at the speed it is used at.",
      "Fit smaller lamps or switch the extra off at idle.",
      "Read charging volts with all loads again.",
    ],
    beforeOrdering: "Take the extras' fuse out and read charging volts: in band without them settles it.",
    cautions: ["battery-running"],
  },
  "starter.cable": {
    repair: ["Clean both ends of the cable and the relay's studs.", "Renew the cable when its strands are green.", "Read the cable drop while cranking again."],
    beforeOrdering: "Read the drop over each end and the relay by itself: it jumps at the bad joint.",
    cautions: ["crank", "no-sparks"],
  },
  "wiring.field-feed": {
    repair: [
      "Follow the feed from the key to the field: fuse, key contacts, plugs.",
      "Mend the bad place and grease it.",
      "Read the feed again, then the charging volts.",
    ],
    beforeOrdering: "Bridge the feed from the battery for a moment: charging then proves the rest.",
    cautions: ["negative-first"],
  },
};
