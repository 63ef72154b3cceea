/** A log on its way from one page to the next; files cannot go by address. */
let handed: File | undefined;

/** Lays a log ready for the page that is gone to. */
export function handOver(log: File): void {
  handed = log;
}

/** The log that was laid ready, once; undefined where none was. */
export function takeOver(): File | undefined {
  const log = handed;
  handed = undefined;
  return log;
}
