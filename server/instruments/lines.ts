import { connect, type Socket } from "node:net";

/** More without a line's end is no answer of an instrument. */
const MOST_LINE = 4096;
/** How long a peer may take to answer a call, ms. */
const CALLED = 1500;

/** A connection that speaks in lines: what arrives in pieces is put together, what is no line is dropped, and its end is told once. */
export class LineSocket {
  readonly #socket: Socket;
  #waiting = "";
  /** What is arriving has been dropped so far, and is dropped to its end. */
  #isTooLong = false;
  #ended = false;
  onLine: (line: string) => void = () => undefined;
  onEnd: (why: string) => void = () => undefined;

  private constructor(socket: Socket) {
    this.#socket = socket;
    socket.setNoDelay(true);
    socket.setEncoding("utf8");
    socket.on("data", (text) => this.#take(String(text)));
    socket.on("error", (error: NodeJS.ErrnoException) => this.#end(error.code === "ECONNRESET" ? "it closed the connection" : error.message));
    socket.on("close", () => this.#end("it closed the connection"));
  }

  /** @throws Error in words when nothing answers */
  static open(host: string, port: number): Promise<LineSocket> {
    return new Promise((resolve, reject) => {
      const socket = connect({ host, port });
      const fail = (why: string): void => {
        socket.destroy();
        reject(new Error(why));
      };
      socket.setTimeout(CALLED, () => fail(`nothing answers on ${host}:${port}`));
      socket.once("error", (error: NodeJS.ErrnoException) => fail(error.code === "ECONNREFUSED" ? `nothing answers on ${host}:${port}` : error.message));
      socket.once("connect", () => {
        socket.removeAllListeners("error");
        socket.setTimeout(0);
        resolve(new LineSocket(socket));
      });
    });
  }

  send(line: string): void {
    if (!this.#ended) this.#socket.write(`${line}\n`);
  }

  close(): void {
    this.onEnd = () => undefined;
    this.#socket.destroy();
  }

  #take(text: string): void {
    const lines = (this.#waiting + text).split("\n");
    this.#waiting = lines.pop() ?? "";
    // The end of a line that was too long is no line of its own, in whatever pieces it came.
    if (this.#isTooLong && lines.length > 0) {
      lines.shift();
      this.#isTooLong = false;
    }
    this.#isTooLong ||= this.#waiting.length > MOST_LINE;
    if (this.#isTooLong) this.#waiting = "";
    for (const line of lines) if (line.length <= MOST_LINE) this.onLine(line.replace(/\r$/, ""));
  }

  #end(why: string): void {
    if (this.#ended) return;
    this.#ended = true;
    this.onEnd(why);
  }
}
