/** A time of a day by the clock on the wall, ms. @param clock HH:MM */
export function at(day: Date, clock: string): number {
  const [hours = 0, minutes = 0] = clock.split(":").map(Number);
  return new Date(day.getFullYear(), day.getMonth(), day.getDate(), hours, minutes).getTime();
}
