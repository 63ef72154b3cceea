import type { FaultId } from "./faults";
import type { Part } from "./part";

/** What follows from a fault for its repair. */
interface Repair {
  /** What to do, each a sentence that starts with its verb. */
  repair: readonly string[];
  /** What to look at before money is spent. */
  beforeOrdering: string;
  /** The part that often goes with it, and why. */
  partner?: { part: Part; why: string };
  /** Money and minutes, where it takes less than changing its part. */
  bill?: { money: number; minutes: number };
  /** Ids of cautions that stand beside the repair. */
  cautions: readonly string[];
}

export const REPAIRS: Record<FaultId, Repair> = {
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
  "battery.shorted-cell": {
    repair: ["Disconnect negative first.", "Fit a battery of the sheet's size and kind.", "Connect negative last, then run the charging test."],
    beforeOrdering: "Charge it once more: a cell that is only flat comes up, a shorted one does not.",
    partner: { part: "regulator", why: "It has been charging into a short; read charging volts with the new battery in." },
    cautions: ["hydrogen", "acid", "negative-first"],
  },
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
    repair: [
      "Drain what the cover holds and take it off.",
      "Fit the stator with new fixings and a new gasket.",
      "Route its lead clear of the rotor and the exhaust.",
    ],
    beforeOrdering: "Measure again on the winding side of any joint in the lead: a broken lead looks the same and is cheaper.",
    partner: { part: "regulator", why: "The two remaining legs carried the load; run the diode test before you trust the unit." },
    cautions: ["hot-engine"],
  },
  "stator.turns-shorted": {
    repair: [
      "Drain what the cover holds and take it off.",
      "Fit the stator with new fixings and a new gasket.",
      "Route its lead clear of the rotor and the exhaust.",
    ],
    beforeOrdering: "Take the lead zero again and repeat the low pair: a bad clip adds, it never subtracts.",
    partner: { part: "regulator", why: "Shorted turns run hot and so does the unit behind them; run the diode test." },
    cautions: ["hot-engine"],
  },
  "stator.winding-grounded": {
    repair: [
      "Drain what the cover holds and take it off.",
      "Fit the stator with new fixings and a new gasket.",
      "Route its lead clear of the rotor and the exhaust.",
    ],
    beforeOrdering: "Wiggle the lead where it leaves the cover. If the figure jumps, the lead is rubbed through and the winding is good.",
    partner: { part: "regulator", why: "A grounded leg pushes its current through one diode; run the diode test." },
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
  "rotor.key-sheared": {
    repair: ["Pull the flywheel with the maker's puller.", "Look at key, keyway and taper; lap the taper.", "Fit a new key and tighten to the sheet's torque."],
    beforeOrdering: "Mark crank and flywheel and rev once: marks that part settle it.",
    cautions: ["moving-parts"],
  },
  "stator.windings-bridged": {
    repair: [
      "Drain what the cover holds and take it off.",
      "Fit the stator with new fixings and a new gasket.",
      "Route its lead clear of the rotor and the exhaust.",
    ],
    beforeOrdering: "Measure again with the lead bent another way: a bridge in the lead moves.",
    partner: { part: "regulator", why: "The bridged legs ran hot; run the diode test." },
    cautions: ["hot-engine"],
  },
  "stator.joint-opens-hot": {
    repair: [
      "Drain what the cover holds and take it off.",
      "Fit the stator with new fixings and a new gasket.",
      "Route its lead clear of the rotor and the exhaust.",
    ],
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
    beforeOrdering: "Press on the brush and read again: a figure that falls is the brush, not the winding.",
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
  "wiring.field-feed": {
    repair: [
      "Follow the feed from the key to the field: fuse, key contacts, plugs.",
      "Mend the bad place and grease it.",
      "Read the feed again, then the charging volts.",
    ],
    beforeOrdering: "Bridge the feed from the battery for a moment: charging then proves the rest.",
    cautions: ["negative-first"],
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
