import { DEFECTS } from "./defects";
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

/** Why a machine cannot have a fault; undefined when it can. */
export function unfitReason(fault: FaultId, sheet: Sheet): string | undefined {
  const { lacks, title } = familyOf(sheet.family);
  if (sheet.loose && !failsLoose(fault, sheet.loose)) return "only a part of the machine is here, and that cannot fail so";
  const nowhere = DEFECTS[fault].at !== undefined && placesOf(fault, sheet).length === 0;
  if (nowhere || lacks.includes(fault)) return `a machine of the family “${title}” has nothing that fails so`;
  return DEFECTS[fault].unfit?.(sheet);
}
