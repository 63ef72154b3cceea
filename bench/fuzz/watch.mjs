// Loaded into the server that is fuzzed: tells, when asked, what its main thread has used so far. Nothing of the program is touched.
import { readFileSync } from "node:fs";

/** Time that the main thread has run on a processor, ms: on a busy machine waiting for one is nobody's fault. */
const ranMs = () => Number(readFileSync(`/proc/self/task/${process.pid}/schedstat`, "utf8").split(" ")[0]) / 1e6;

process.on("message", () => {
  const { heapUsed, external, arrayBuffers } = process.memoryUsage();
  process.send?.({ ranMs: ranMs(), megabytes: (heapUsed + external + arrayBuffers) / 1e6 });
});
// Being listened to keeps no server running.
process.channel?.unref();
