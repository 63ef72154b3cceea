import type { HandsTo, Heard } from "../../app/context";
import type { LiveDial } from "../../core/meter/settle";
import type { Instrument } from "../../store/instruments";
import { LineSocket } from "./lines";
import { figureOf, ScpiClient } from "./scpi";

type Listener = (heard: Heard) => void;

/** How often an instrument is asked, ms, and how long after it has gone it is called again. */
const ASKS_EVERY = 50;
const CALLS_AGAIN = 700;
/** A logger that says nothing for so long has gone, ms. */
const SILENT = 1500;

const CONFIGURES: Record<LiveDial, string> = {
  "V DC": "CONF:VOLT:DC",
  "V AC": "CONF:VOLT:AC",
  Ω: "CONF:RES",
  diode: "CONF:DIOD",
  "A DC": "CONF:CURR:DC",
};
/** Units of what an instrument shows on a dial; it speaks of amps in amps. */
const UNITS: Record<LiveDial, string> = { "V DC": "V", "V AC": "V AC", Ω: "Ω", diode: "V", "A DC": "mA" };
const TO_UNIT: Record<LiveDial, number> = { "V DC": 1, "V AC": 1, Ω: 1, diode: 1, "A DC": 1000 };

const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** Listens to an instrument until told to stop: it is called, asked or heard, and called again by itself when it has gone. */
export function listenTo(instrument: Instrument, dial: LiveDial, listener: Listener): () => void {
  let stopped = false;
  let hangUp = (): void => undefined;
  const call = instrument.language === "scpi" ? askOverAndOver : hearLines;
  void (async () => {
    while (!stopped) {
      try {
        await call(instrument, dial, listener, {
          get stopped() {
            return stopped;
          },
          onHangUp: (how) => {
            hangUp = how;
          },
        });
      } catch (error) {
        if (stopped) return;
        listener({ lost: `${instrument.name}: ${wordsOf(error)}` });
        await sleep(CALLS_AGAIN);
      }
    }
  })();
  return () => {
    stopped = true;
    hangUp();
  };
}

/** How long a stand-in's probes are off between one place and the next, ms. */
const LIFTED = 500;

/**
 * Lifts the probes of a stand-in and sets them where a test wants them, or has its machine stand as a rig's does; an instrument in real
 * hands is left alone. @throws Error in words
 */
export async function moveHands({ host, port, language, name }: Instrument, to: HandsTo): Promise<void> {
  if (language !== "scpi") return;
  const client = await ScpiClient.open(host, port);
  try {
    const [maker, , plays] = (await client.ask("*IDN?")).split(",");
    if (maker !== "UVREL") return;
    if ("stand" in to && plays !== to.sheet) throw new Error(`${name} plays ${plays}: start it with “uvrel meter --sheet ${to.sheet}”`);
    client.tell("SYST:LIFT");
    await sleep(LIFTED);
    client.tell("*CLS");
    client.tell("step" in to ? `SYST:STEP "${to.step}"` : `SYST:STAN "${to.stand}"`);
    const error = await client.ask("SYST:ERR?");
    if (!/^\+?0\b/.test(error)) throw new Error(`${name}: ${error.slice(0, 120)}`);
  } finally {
    client.close();
  }
}

interface Line {
  readonly stopped: boolean;
  onHangUp: (how: () => void) => void;
}

async function askOverAndOver({ host, port }: Instrument, dial: LiveDial, listener: Listener, line: Line): Promise<void> {
  const client = await ScpiClient.open(host, port);
  line.onHangUp(() => client.close());
  try {
    client.tell(CONFIGURES[dial]);
    const error = await client.ask("SYST:ERR?");
    if (!/^\+?0\b/.test(error)) throw new Error(`it does not take ${CONFIGURES[dial]}: ${error.slice(0, 80)}`);
    while (!line.stopped) {
      const value = figureOf(await client.ask("READ?"));
      listener({ value: value === "OL" ? value : value * TO_UNIT[dial], unit: UNITS[dial] });
      await sleep(ASKS_EVERY);
    }
  } finally {
    client.close();
  }
}

/** A logger's lines: time, figure, unit. A thousand a second are heard twenty times. */
async function hearLines({ host, port }: Instrument, dial: LiveDial, listener: Listener, line: Line): Promise<void> {
  const lines = await LineSocket.open(host, port);
  await new Promise<void>((resolve, reject) => {
    let told = 0;
    let heard = Date.now();
    const watch = setInterval(() => {
      if (Date.now() - heard > SILENT) end(new Error("it says nothing any more"));
    }, SILENT / 3);
    const end = (why?: Error): void => {
      clearInterval(watch);
      lines.close();
      if (why) reject(why);
      else resolve();
    };
    line.onHangUp(() => end());
    lines.onEnd = (why) => end(new Error(why));
    lines.onLine = (text) => {
      heard = Date.now();
      const [, figure = "", unit = UNITS[dial]] = text.split(/[,;\t]/).map((part) => part.trim());
      const value = Number(figure);
      if (figure === "" || !Number.isFinite(value) || heard - told < ASKS_EVERY) return;
      told = heard;
      listener({ value: Math.abs(value) >= 9e36 ? "OL" : value, unit });
    };
  });
}
