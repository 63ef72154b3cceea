import { LineSocket } from "./lines";

/** How long an answer is waited for, ms. */
const PATIENCE = 800;
/** How long what has arrived already may take to be read, ms. */
const ALREADY_HERE = 20;
/** What instruments give for more than they can show (IEEE 488.2: 9.9E37). */
const OVERFLOW = 9e36;

/** What an instrument answers to a question for its figure: a number, the open line for an overload. @throws Error for what is no figure */
export function figureOf(answer: string): number | "OL" {
  const value = Number(answer.trim());
  if (answer.trim() === "" || Number.isNaN(value)) throw new Error(`it answered “${answer.slice(0, 40)}” where a figure was asked for`);
  return Math.abs(value) >= OVERFLOW ? "OL" : value;
}

/** An instrument asked in SCPI (IEEE 488.2): one question at a time, each answered within its time or given up. */
export class ScpiClient {
  readonly #lines: LineSocket;
  #asked: { tell: (answer: string) => void; fail: (why: Error) => void } | undefined;
  #ended: string | undefined;

  private constructor(lines: LineSocket) {
    this.#lines = lines;
    lines.onLine = (line) => {
      // An answer that nobody waits for any more came too late for its question; it is none of the next one.
      const asked = this.#asked;
      this.#asked = undefined;
      asked?.tell(line);
    };
    lines.onEnd = (why) => {
      this.#ended = why;
      this.#asked?.fail(new Error(why));
      this.#asked = undefined;
    };
  }

  static async open(host: string, port: number): Promise<ScpiClient> {
    return new ScpiClient(await LineSocket.open(host, port));
  }

  /** @throws Error in words when there is no answer in time, or the connection has gone */
  ask(question: string): Promise<string> {
    if (this.#ended !== undefined) return Promise.reject(new Error(this.#ended));
    if (this.#asked) return Promise.reject(new Error("it is still being asked something else"));
    return new Promise((resolve, reject) => {
      let waits = true;
      const giveUp = (): void => {
        if (!waits) return;
        // From here an answer could be to anything: only a new connection is sure again.
        this.#asked = undefined;
        this.#ended = `no answer to ${question}`;
        this.#lines.close();
        reject(new Error(this.#ended));
      };
      // A program that was held up itself finds its timer due before it has looked at what arrived meanwhile: that is taken first.
      const timer = setTimeout(() => setTimeout(giveUp, ALREADY_HERE), PATIENCE);
      const end = (): void => {
        waits = false;
        clearTimeout(timer);
      };
      this.#asked = {
        tell: (answer) => {
          end();
          resolve(answer);
        },
        fail: (why) => {
          end();
          reject(why);
        },
      };
      this.#lines.send(question);
    });
  }

  tell(command: string): void {
    this.#lines.send(command);
  }

  close(): void {
    this.#lines.close();
  }
}
