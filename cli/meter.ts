import { connect } from "node:net";
import type { Command } from "commander";
import { parseFaults } from "../core/machine/parse";
import type { FieldProblem } from "../core/machine/sheet";
import { ASSUMED_METER } from "../core/meter/meter";
import { faultFromText } from "../core/rig/setup";
import { PlayedMeter } from "../meters/played";
import { serveLines, serveScpi } from "../meters/scpi";
import { type FindSheet, gathered, type Refuse, SHEET_MISSING } from "./command";

interface Options {
  sheet?: string;
  fault: string[];
  port: string;
  host: string;
  kind: string;
  rate: string;
  set?: string;
  step?: string;
}

const KINDS = ["bench", "clamp", "logger"] as const;
/** How long a stand-in that is set is waited for, ms. */
const PATIENCE = 3000;

/** Adds `uvrel meter`: a stand-in that plays a machine under a meter and speaks SCPI over TCP, or what changes one that runs. */
export function addMeter(program: Command, sheetOf: FindSheet, refuse: Refuse): void {
  program
    .command("meter")
    .description("Start a stand-in meter that plays a machine, or change what one that runs stands at")
    .option("--sheet <sheet>", "id of a sheet, or path of a sheet as JSON")
    .option("--fault <fault>", "a fault, as regulator.no-output; may be given again", gathered, [])
    .option("--port <port>", "TCP port", "5025")
    .option("--host <host>", "address to listen on, or of the one that runs", "127.0.0.1")
    .option("--kind <kind>", `${KINDS.join(", ")}`, "bench")
    .option("--rate <samples>", "samples a second of a logger", "1000")
    .option("--set <words>", "set one that runs: rpm=5000 loads=all red=battery+ black=battery-")
    .option("--step <step>", "set one that runs as a test asks: stator.acVolts~1-2~5000")
    .action(async (options: Options) => {
      const port = Number(options.port);
      if (!Number.isInteger(port) || port < 0 || port > 65_535) return refuse([{ field: "port", error: "must be a whole number from 0 to 65535" }]);
      if (options.set !== undefined || options.step !== undefined) {
        const problem = await change(options.host, port, options.set === undefined ? `SYST:STEP "${options.step}"` : `SYST:STAN "${options.set}"`);
        return problem ? refuse([problem]) : undefined;
      }
      const kind = KINDS.find((kind) => kind === options.kind);
      if (!kind) return refuse([{ field: "kind", error: `“${options.kind}” must be one of ${KINDS.join(", ")}` }]);
      const rate = Number(options.rate);
      if (!(rate >= 1 && rate <= 1000)) return refuse([{ field: "rate", error: "must be a number from 1 to 1000" }]);
      if (options.sheet === undefined) return refuse([SHEET_MISSING]);
      const found = sheetOf(options.sheet);
      if (!found.ok) return refuse(found.problems);
      const faults = parseFaults(options.fault.map(faultFromText), found.sheet);
      if (!faults.ok) return refuse(faults.problems);
      const meter = new PlayedMeter(found.sheet, faults.faults, ASSUMED_METER);
      if (kind === "clamp") meter.turn("clamp", 0);
      const server = kind === "logger" ? serveLines(meter, rate) : serveScpi(meter, kind);
      server.on("error", (error: NodeJS.ErrnoException) =>
        refuse([{ field: "port", error: error.code === "EADDRINUSE" ? `${port} is in use on ${options.host}` : error.message }]),
      );
      endWith(Number(process.env.UVREL_PARENT));
      server.listen(port, options.host, () => {
        const at = server.address();
        process.stdout.write(
          `${kind} on ${options.host}:${at && typeof at === "object" ? at.port : port}, playing ${found.sheet.maker} ${found.sheet.model}\n`,
        );
      });
    });
}

/** How often whoever started this is looked for, ms. */
const LOOKS_EVERY = 2000;

/** Ends once the process that started this one has gone: a demo that is killed leaves no stand-in behind. */
function endWith(parent: number): void {
  if (!Number.isInteger(parent) || parent <= 0) return;
  setInterval(() => {
    try {
      process.kill(parent, 0);
    } catch {
      process.exit(0);
    }
  }, LOOKS_EVERY).unref();
}

/** Sends one command to a stand-in that runs, and hears whether it was taken. */
function change(host: string, port: number, command: string): Promise<FieldProblem | undefined> {
  return new Promise((resolve) => {
    const socket = connect({ host, port });
    const end = (problem?: FieldProblem): void => {
      socket.destroy();
      resolve(problem);
    };
    let heard = "";
    socket.setTimeout(PATIENCE, () => end({ field: "port", error: `nothing answers on ${host}:${port}` }));
    socket.on("error", () => end({ field: "port", error: `nothing answers on ${host}:${port}` }));
    socket.on("connect", () => socket.write(`*CLS\n${command}\nSYST:ERR?\n`));
    socket.on("data", (text) => {
      heard += String(text);
      if (!heard.includes("\n")) return;
      const [, says = heard] = /^[-+]?\d+,"(.*)"/.exec(heard.trim()) ?? [];
      end(heard.startsWith("+0") ? undefined : { field: "set", error: says });
    });
  });
}
