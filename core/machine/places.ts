import { failsWithCapacitor, hasCapacitor } from "./capacitor";
import { DEFECTS, type SetFault } from "./defects";
import { endsOf, HALVES, leadsOf } from "./families/family";
import { familyOf } from "./families/registry";
import type { FaultId } from "./faults";
import { failsLoose } from "./loose";
import type { Sheet } from "./sheet";

/** Where a fault can sit on a machine, by the name its `at` takes; empty for faults that have no place. */
export function placesOf(fault: FaultId, sheet: Sheet): string[] {
  const leads = leadsOf(sheet);
  const family = familyOf(sheet.family);
  const ends = family.ways(leads).map(endsOf);
  switch (DEFECTS[fault].at) {
    case "leg":
      return leads;
    case "unitLeg":
      return leads.filter((lead) => ends.filter((end) => end.lead === lead).length === HALVES.length);
    case "winding":
      return windingsOf(sheet).filter((lead) => !family.turning?.(leads).includes(lead));
    case "pair":
      return family.neighbours(leads);
    case "innerDiode":
      return family.innerDiodes(leads);
    case "diode":
      return family.ways(leads);
    case "half":
      return HALVES.filter((half) => ends.filter((end) => end.half === half).length > 1);
    case "fuse":
      return sheet.fuses.map((fuse) => fuse.id);
    default:
      return [];
  }
}

/** The windings of a machine by the wires they begin at. */
export function windingsOf(sheet: Sheet): string[] {
  return familyOf(sheet.family)
    .coils({ sheet, winding: "wye" })
    .map(({ lead }) => lead);
}

/**
 * A fault as a meter finds it: a touch of a winding whose both ends lead out is said of the wire it lies nearest, and measured from
 * there, whichever end the winding is called by; everything else is where it was set. @param sheet with its winding filled in
 */
export function fromNearestWire(set: SetFault, sheet: Sheet): SetFault {
  if (!DEFECTS[set.fault].along || set.along === undefined || set.along <= 0.5) return set;
  const winding = sheet.winding === "delta" ? "delta" : "wye";
  const end = familyOf(sheet.family)
    .coils({ sheet, winding })
    .find(({ lead }) => lead === set.at)?.to;
  const other = leadsOf(sheet).find((lead) => end === `leg:${lead}`);
  return other === undefined ? set : { ...set, at: other, along: 1 - set.along };
}

/** Why a machine cannot have a fault; undefined when it can. */
export function unfitReason(fault: FaultId, sheet: Sheet): string | undefined {
  const { lacks, title } = familyOf(sheet.family);
  if (sheet.loose && !failsLoose(fault, sheet.loose)) return "only a part of the machine is here, and that cannot fail so";
  if (hasCapacitor(sheet) ? !failsWithCapacitor(fault) : fault === "battery.capacitor-dry")
    return hasCapacitor(sheet) ? "a capacitor stands in its battery's place" : "it has a battery, not a capacitor";
  const nowhere = DEFECTS[fault].at !== undefined && placesOf(fault, sheet).length === 0;
  if (nowhere || lacks.includes(fault)) return `a machine of the family “${title}” has nothing that fails so`;
  return DEFECTS[fault].unfit?.(sheet);
}
