import { PARTS, type Part } from "../../core/machine/part";
import type { Reading } from "../../core/procedure/step";
import type { Repair } from "../../store/rows";

/** The parts that so many repairs have mended; a repair of no part (cleaned, charged) adds none. */
export function mendedBy(repairs: readonly Pick<Repair, "part">[], count = repairs.length): Part[] {
  const parts = repairs.slice(0, count).map(({ part }) => part);
  return PARTS.filter((part) => parts.includes(part));
}

/** Readings with what had been mended when each was taken. After a repair of no part the battery at least was charged. */
export function withMended<R extends Reading & { repairs?: number | undefined }>(readings: readonly R[], repairs: readonly Pick<Repair, "part">[]): R[] {
  return readings.map((reading) => {
    if (!reading.afterRepair) return reading;
    const mended = mendedBy(repairs, reading.repairs ?? 1);
    return { ...reading, mended, ...(mended.length === 0 ? { charged: true } : {}) };
  });
}

/** True for a reading of the machine as it stands now: taken since the last repair, or before any where there was none. */
export function isOfNow({ afterRepair, mended = [] }: Reading, repairs: readonly Pick<Repair, "part">[]): boolean {
  return repairs.length === 0 ? !afterRepair : afterRepair === true && mended.join() === mendedBy(repairs).join();
}
