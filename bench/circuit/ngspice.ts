import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";

/** One run of stock ngspice: its saved vectors with their times, and its own analysis time in seconds. */
export interface NgspiceRun {
  seconds: number;
  vectors: Map<string, Float64Array>;
}

/** Runs a netlist file in batch mode and reads its raw file. @throws when ngspice gives up */
export function runNgspice(file: string, folder: string): NgspiceRun {
  const raw = `${folder}/out.raw`;
  const done = spawnSync("ngspice", ["-b", "-r", raw, file], { cwd: folder, encoding: "utf8", maxBuffer: 1e8 });
  const log = `${done.stdout}\n${done.stderr}`;
  const time =
    /(?:Transient analysis time|Total analysis time \(seconds\)) = ([\d.]+)/.exec(log)?.[1] ?? /Total elapsed time \(seconds\) = ([\d.]+)/.exec(log)?.[1];
  if (/Timestep too small|simulation\(s\) aborted/i.test(log) || !time) throw new Error(`ngspice gave up on ${file}:\n${log.slice(0, 1500)}`);
  return { seconds: Number(time), vectors: readRaw(readFileSync(raw)) };
}

/** Reads ngspice's binary raw file of one real plot. */
export function readRaw(bytes: Buffer): Map<string, Float64Array> {
  const start = bytes.indexOf("Binary:\n") + 8;
  const head = bytes.subarray(0, start).toString();
  const count = (what: string): number => Number(new RegExp(`No\\. ${what}: (\\d+)`).exec(head)?.[1]);
  const columns = count("Variables");
  const rows = count("Points");
  const names = [...head.matchAll(/^\t\d+\t(\S+)\t/gm)].map((match) => match[1] as string);
  const values = new Float64Array(bytes.buffer.slice(bytes.byteOffset + start, bytes.byteOffset + start + 8 * columns * rows));
  return new Map(names.map((name, k) => [name, Float64Array.from({ length: rows }, (_, i) => values[i * columns + k] as number)]));
}

/** Mean, rms and deviation of a vector over uneven times, by the trapezoidal rule. */
export function weigh(times: Float64Array, values: Float64Array): { mean: number; rms: number; deviation: number } {
  let span = 0;
  let sum = 0;
  let square = 0;
  for (let i = 1; i < times.length; i++) {
    const width = (times[i] as number) - (times[i - 1] as number);
    const [a, b] = [values[i - 1] as number, values[i] as number];
    span += width;
    sum += (width * (a + b)) / 2;
    square += (width * (a * a + b * b)) / 2;
  }
  const mean = sum / span;
  return { mean, rms: Math.sqrt(square / span), deviation: Math.sqrt(Math.max(0, square / span - mean * mean)) };
}
