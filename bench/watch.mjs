// Loaded into a server that is measured: tells, when asked, what its main thread has used so far, and how late its loop came since it
// was asked last. Nothing of the program is touched.
import { readFileSync } from "node:fs";
import { monitorEventLoopDelay } from "node:perf_hooks";

const delay = monitorEventLoopDelay({ resolution: 10 });
delay.enable();

/** Time that the main thread has run on a processor, ms: on a busy machine waiting for one is nobody's fault. */
const ranMs = () => Number(readFileSync(`/proc/self/task/${process.pid}/schedstat`, "utf8").split(" ")[0]) / 1e6;

process.on("message", () => {
  const { heapUsed, external, arrayBuffers } = process.memoryUsage();
  const late = { p99: delay.percentile(99) / 1e6, most: delay.max / 1e6 };
  delay.reset();
  process.send?.({ ranMs: ranMs(), megabytes: (heapUsed + external + arrayBuffers) / 1e6, resident: process.memoryUsage.rss() / 1e6, late });
});
// Being listened to keeps no server running.
process.channel?.unref();
