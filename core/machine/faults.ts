import type { Part } from "./part";

/** A fault: one way in which a part fails. */
interface Fault {
  id: string;
  part: Part;
  title: string;
}

const row = <Id extends string>(id: Id, part: Part, title: string): Fault & { id: Id } => ({ id, part, title });

/** The vocabulary of every verdict; the ids are part of the case file's contract. What each asks of the repair stands in `repairs/`. */
export const FAULTS = [
  row("battery.discharged", "battery", "Flat, not yet proved"),
  row("battery.sulphated", "battery", "Worn out: it rests well and falls under load"),
  row("battery.shorted-cell", "battery", "A cell is shorted: rest volts are about 2 V down and stay there"),
  row("rotor.weak", "rotor", "Magnets weak: every leg low alike with good ohms"),
  row("stator.winding-open", "stator", "A winding is open"),
  row("stator.turns-shorted", "stator", "Turns shorted in a winding"),
  row("stator.winding-grounded", "stator", "A winding touches the engine case"),
  row("stator.leads-parted", "stator", "Every winding is cut off: star point or leads parted inside"),
  row("stator.burnt", "stator", "The stator is burnt: turns shorted in every winding"),
  row("regulator.diode-open", "regulator", "A diode is open"),
  row("regulator.diode-shorted", "regulator", "A diode or a shunt switch is shorted"),
  row("regulator.diode-leaky", "regulator", "A diode leaks backwards and drains the battery"),
  row("regulator.no-output", "regulator", "Makes no DC of the AC it gets"),
  row("regulator.set-high", "regulator", "It lets the volts climb past the ceiling"),
  row("regulator.half-open", "regulator", "One half of the unit is dead: none of its diodes passes"),
  row("regulator.leg-open", "regulator", "One leg of the unit is dead: neither of its diodes passes"),
  row("regulator.output-open", "regulator", "The unit's output is broken inside: nothing reaches its output pin"),
  row("regulator.wrong-unit", "regulator", "A unit of another kind is fitted: series where shunt belongs, or the reverse"),
  row("regulator.other-system", "regulator", "A unit for another system's volts is fitted"),
  row("wiring.leg-burnt", "wiring", "The cable or connector between winding and regulator is broken"),
  row("wiring.output-resistance", "wiring", "Volts are lost between the unit and the battery plus"),
  row("wiring.ground-resistance", "wiring", "The unit's ground path is poor"),
  row("wiring.feed-open", "wiring", "The battery does not reach the unit's output pin"),
  row("wiring.terminals", "wiring", "A terminal or ground strap is loose or corroded"),
  row("loads.parasitic", "loads", "Something draws current with the key out"),
  row("starter.draws-too-much", "starter", "The starter or its cable pulls the battery down"),
  row("battery.open-joint", "battery", "A joint between cells is open: it rests well and dies under any load"),
  row("battery.undersized", "battery", "Too small for this machine"),
  row("battery.capacitor-dry", "battery", "Dried out: nothing smooths what the unit gives"),
  row("battery.charger-on", "battery", "A charger or jump pack is still on: every figure at the battery is its own"),
  row("rotor.magnet-shed", "rotor", "A magnet has come off"),
  row("rotor.turns-free", "rotor", "No magnet passes the coils: the flywheel turns free, or its magnets are gone"),
  row("rotor.key-sheared", "rotor", "The key is sheared: the flywheel slips on its taper"),
  row("stator.windings-bridged", "stator", "Two windings touch each other"),
  row("stator.joint-resists", "stator", "A solder point or crimp of the winding has resistance"),
  row("stator.joint-opens-hot", "stator", "A joint in the winding opens when it is hot"),
  row("stator.wrong-fit", "stator", "The stator is not the one for this machine"),
  row("stator.diode-open", "stator", "The diode built into the DC lead is open"),
  row("stator.diode-shorted", "stator", "The diode built into the DC lead is shorted: the battery drains through the winding"),
  row("regulator.set-low", "regulator", "It holds the volts too low"),
  row("regulator.never-regulates", "regulator", "It no longer regulates at all"),
  row("regulator.sense-open", "regulator", "Its sense wire is open, so it sees no volts and never holds back"),
  row("regulator.ground-open", "regulator", "Its ground is broken inside"),
  row("regulator.fails-hot", "regulator", "It stops charging when it is hot"),
  row("wiring.cable-broken", "wiring", "A wire of the cable between the winding's plug and the unit is broken"),
  row("wiring.fuse-open", "wiring", "A fuse is open"),
  row("loads.too-much", "loads", "What is fitted takes more than it can make"),
  row("starter.cable", "starter", "The starter's cable loses too much"),
  row("rotor.field-open", "rotor", "The rotor's winding is open"),
  row("rotor.field-shorted", "rotor", "Turns shorted in the rotor's winding"),
  row("rotor.field-grounded", "rotor", "The rotor's winding touches its shaft"),
  row("rotor.brushes-worn", "rotor", "Brushes worn or stuck in their holders, or what they run on is dirty"),
  row("rotor.armature-shorted", "rotor", "The armature has shorted turns"),
  row("stator.field-open", "stator", "The field winding is open"),
  row("stator.field-shorted", "stator", "Turns shorted in the field winding"),
  row("stator.field-grounded", "stator", "The field winding touches the housing"),
  row("stator.polarity-reversed", "stator", "The poles are magnetised the wrong way: it builds up backwards until it is polarised"),
  row("regulator.cutout-open", "regulator", "The cut-out never closes"),
  row("regulator.cutout-welded", "regulator", "The cut-out is welded shut: the battery drains through the generator"),
  row("wiring.field-feed", "wiring", "The field's feed from the key is poor or broken"),
  row("drive.belt-slack", "drive", "The belt slips under load"),
  row("drive.belt-missing", "drive", "The belt is off or broken"),
] as const;

export type FaultId = (typeof FAULTS)[number]["id"];

/** True for what is put right without buying or mending anything: a flat battery, a charger that is still on. */
export const needsNoPart = (id: FaultId): boolean => id === "battery.discharged" || id === "battery.charger-on";

/** The fault of that id. */
export function faultOf(id: FaultId): Fault {
  return FAULTS.find((fault) => fault.id === id) as Fault;
}
