import { createServer, type Server, type Socket } from "node:net";
import type { MeterDial } from "../core/meter/read";
import { OPEN_LINE } from "../core/units";
import type { PlayedMeter, Shown } from "./played";

/**
 * A stand-in that speaks SCPI over TCP (IEEE 488.2 common commands, SCPI-99 subsystems): one command a line, several parted by
 * semicolons; a question is answered in one line, errors wait in a queue.
 */

/** More than any range: what instruments answer for an overload (IEEE 488.2). */
const OVERLOAD = "9.9E37";
const MOST_ERRORS = 20;
const MOST_LINE = 1000;

const FUNCTIONS: readonly (readonly [pattern: RegExp, dial: MeterDial, name: string])[] = [
  [/^VOLT(AGE)?(:DC)?$/, "V DC", "VOLT:DC"],
  [/^VOLT(AGE)?:AC$/, "V AC", "VOLT:AC"],
  [/^RES(ISTANCE)?$/, "Ω", "RES"],
  [/^DIOD(E)?$/, "diode", "DIOD"],
  [/^CURR(ENT)?(:DC)?$/, "A DC", "CURR:DC"],
];

/** What one connection has left to be asked for. */
interface Session {
  errors: string[];
}

const seconds = (): number => performance.now() / 1000;

/** A figure as an instrument writes it. */
function written({ value, unit }: Shown): string {
  if (value === OPEN_LINE || value === "ranging") return OVERLOAD;
  // Amps are spoken in amps.
  return (unit === "mA" ? value / 1000 : value).toExponential(6).toUpperCase();
}

/** Does one command; a question gives its answer. */
function obey(command: string, meter: PlayedMeter, kind: "bench" | "clamp", session: Session): string | undefined {
  const [head = "", ...rest] = command.trim().split(/\s+/);
  const said = head.toUpperCase().replace(/^:/, "");
  const parameter = rest.join(" ").trim();
  const now = seconds();
  const fail = (error: string): undefined => {
    if (session.errors.length < MOST_ERRORS) session.errors.push(error);
    return undefined;
  };
  const turn = (words: string): boolean => {
    const found = FUNCTIONS.find(([pattern]) => pattern.test(words));
    if (!found) return false;
    meter.turn(kind === "clamp" && found[1] === "A DC" ? "clamp" : found[1], now);
    return true;
  };
  switch (said) {
    case "*IDN?":
      return `UVREL,STAND-IN ${kind.toUpperCase()},${meter.sheet.id},1`;
    case "*RST":
      turn("VOLT:DC");
      meter.clearHold();
      return undefined;
    case "*CLS":
      session.errors = [];
      return undefined;
    case "*OPC?":
      return "1";
    case "*TST?":
    case "*ESR?":
    case "*STB?":
      return "0";
    // What an instrument does anyhow here: each figure is taken when it is asked for, and all are counted.
    case "*OPC":
    case "*WAI":
    case "INIT":
    case "INITIATE":
    case "ABOR":
    case "ABORT":
    case "CALC:AVER:STAT":
    case "CALCULATE:AVERAGE:STATE":
    case "CALC:FUNC":
    case "CALCULATE:FUNCTION":
      return undefined;
    case "SYST:ERR?":
    case "SYSTEM:ERROR?":
      return session.errors.shift() ?? '+0,"No error"';
    case "CONF?":
    case "CONFIGURE?": {
      const dial = meter.dial === "clamp" ? "A DC" : meter.dial;
      return `"${FUNCTIONS.find(([, meterDial]) => meterDial === dial)?.[2] ?? "VOLT:DC"}"`;
    }
    case "READ?":
    case "FETC?":
    case "FETCH?":
      return written(meter.show(now));
    case "CALC:AVER:MIN?":
    case "CALCULATE:AVERAGE:MINIMUM?":
      return heldAs(meter.held(now)?.least);
    case "CALC:AVER:MAX?":
    case "CALCULATE:AVERAGE:MAXIMUM?":
      return heldAs(meter.held(now)?.most);
    case "CALC:AVER:AVER?":
    case "CALCULATE:AVERAGE:AVERAGE?":
      return heldAs(meter.held(now)?.mean);
    case "CALC:AVER:CLE":
    case "CALCULATE:AVERAGE:CLEAR":
      meter.clearHold();
      return undefined;
    // What a stand-in has beyond an instrument: hands.
    case "SYST:STAN":
    case "SYSTEM:STAND": {
      const [problem] = meter.stand(parameter.replace(/^"|"$/g, ""), now);
      return problem ? fail(`-224,"Illegal parameter value; ${problem.field}: ${problem.error.replaceAll('"', "'")}"`) : undefined;
    }
    case "SYST:STEP":
    case "SYSTEM:STEP": {
      const [problem] = meter.standFor(parameter.replace(/^"|"$/g, ""), now);
      return problem ? fail(`-224,"Illegal parameter value; ${problem.error.replaceAll('"', "'")}"`) : undefined;
    }
    case "SYST:LIFT":
    case "SYSTEM:LIFT":
      meter.lift();
      return undefined;
  }
  const [, verb = "", words = "", asks] = /^(CONF(?:IGURE)?|MEAS(?:URE)?):([A-Z:]+)(\?)?$/.exec(said) ?? [];
  if (verb !== "" && turn(words)) return verb.startsWith("MEAS") && asks ? written(meter.show(now)) : undefined;
  return fail(said === "" ? '-102,"Syntax error"' : `-113,"Undefined header; ${head.slice(0, 40).replaceAll('"', "'")}"`);
}

const heldAs = (value: number | undefined): string => (value === undefined ? OVERLOAD : value.toExponential(6).toUpperCase());

/** Serves a played meter to whoever connects. */
export function serveScpi(meter: PlayedMeter, kind: "bench" | "clamp"): Server {
  return createServer((socket: Socket) => {
    const session: Session = { errors: [] };
    let waiting = "";
    socket.setNoDelay(true);
    socket.setEncoding("utf8");
    socket.on("error", () => socket.destroy());
    socket.on("data", (text: string) => {
      waiting += text;
      if (waiting.length > MOST_LINE && !waiting.includes("\n")) {
        session.errors.push('-363,"Input buffer overrun"');
        waiting = "";
        return;
      }
      const lines = waiting.split("\n");
      waiting = lines.pop() ?? "";
      for (const line of lines) {
        const answers = line
          .split(";")
          .filter((command) => command.trim() !== "")
          .map((command) => obey(command, meter, kind, session))
          .filter((answer) => answer !== undefined);
        if (answers.length > 0) socket.write(`${answers.join(";")}\n`);
      }
    });
  });
}

/** Serves a played meter as a logger does: one line a sample, time, figure and unit, so many a second. */
export function serveLines(meter: PlayedMeter, perSecond: number): Server {
  return createServer((socket: Socket) => {
    const began = seconds();
    let sent = 0;
    socket.setNoDelay(true);
    socket.setEncoding("utf8");
    const logging = setInterval(
      () => {
        // As many as are due: a timer is never as quick as a logger.
        const due = Math.floor((seconds() - began) * perSecond);
        const lines: string[] = [];
        for (; sent < due; sent++) {
          const shown = meter.show(seconds());
          if (typeof shown.value === "number") lines.push(`${(sent / perSecond).toFixed(3)},${shown.value},${shown.unit}`);
        }
        if (lines.length > 0) socket.write(`${lines.join("\n")}\n`);
      },
      Math.max(5, 1000 / perSecond),
    );
    let waiting = "";
    socket.on("data", (text: string) => {
      waiting += text;
      const lines = waiting.split("\n");
      waiting = lines.pop()?.slice(-MOST_LINE) ?? "";
      for (const line of lines) obey(line, meter, "bench", { errors: [] });
    });
    socket.on("error", () => socket.destroy());
    socket.on("close", () => clearInterval(logging));
  });
}
