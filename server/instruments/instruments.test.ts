import { createServer, type Server, type Socket } from "node:net";
import { afterEach, describe, expect, test } from "@jest/globals";
import type { Heard } from "../../app/context";
import type { Instrument } from "../../store/instruments";
import { listenTo, moveHands } from "./hub";
import { LineSocket } from "./lines";
import { figureOf, ScpiClient } from "./scpi";

let servers: Server[] = [];
let sockets: Socket[] = [];
afterEach(async () => {
  for (const socket of sockets) socket.destroy();
  await Promise.all(servers.map((server) => new Promise((resolve) => server.close(resolve))));
  [servers, sockets] = [[], []];
});

/** A peer that does with a connection what a test wants. @returns its port */
function peer(serve: (socket: Socket) => void, port = 0): Promise<number> {
  const server = createServer((socket) => {
    sockets.push(socket);
    socket.on("error", () => undefined);
    serve(socket);
  });
  servers.push(server);
  return new Promise((resolve) => server.listen(port, "127.0.0.1", () => resolve((server.address() as { port: number }).port)));
}

/** Answers questions by what they ask for. */
const answering = (answers: (question: string) => string | undefined) => (socket: Socket) => {
  socket.on("data", (text) => {
    for (const line of String(text).split("\n").filter(Boolean)) {
      const answer = line.includes("?") ? answers(line) : undefined;
      if (answer !== undefined) socket.write(`${answer}\n`);
    }
  });
};
const meter = (port: number, language: "scpi" | "lines" = "scpi"): Instrument => ({
  id: 1,
  name: "Meter",
  language,
  host: "127.0.0.1",
  port,
  jack: null,
  leadOhms: null,
  ohmsResolution: null,
  secondMeter: false,
});

/** Listens until something of a kind was heard. */
function heard(instrument: Instrument, is: (heard: Heard) => boolean, dial: Parameters<typeof listenTo>[1] = "V DC"): Promise<Heard> {
  return new Promise((resolve) => {
    const stop = listenTo(instrument, dial, (heard) => {
      if (!is(heard)) return;
      stop();
      resolve(heard);
    });
  });
}
const isFigure = (heard: Heard): boolean => "value" in heard;
const isLost = (heard: Heard): boolean => "lost" in heard;

describe("lines over a connection", () => {
  test.each([
    ["one after another", ["1.0", "5\r\n2.5\n", "x".repeat(10_000), "12.5", "\n\n7\n"]],
    ["at once", [`1.05\r\n2.5\n${"x".repeat(10_000)}12.5\n\n7\n`]],
  ])("that arrive %s are put together; carriage returns go; what is too long is dropped to its end", async (_, pieces) => {
    const port = await peer((socket) => {
      pieces.forEach((piece, k) => {
        setTimeout(() => socket.write(piece), 20 * k);
      });
    });
    const lines = await LineSocket.open("127.0.0.1", port);
    const got: string[] = [];
    await new Promise<void>((resolve) => {
      lines.onLine = (line) => {
        got.push(line);
        if (line === "7") resolve();
      };
    });
    lines.close();
    expect(got).toEqual(["1.05", "2.5", "", "7"]);
  });

  test("nothing that answers is said in words", async () => {
    const port = await peer(() => undefined);
    await new Promise((resolve) => servers[0]?.close(resolve));
    await expect(LineSocket.open("127.0.0.1", port)).rejects.toThrow(`nothing answers on 127.0.0.1:${port}`);
  });
});

describe("an instrument asked in SCPI", () => {
  test("answers one question at a time; what is too late is no answer to the next one", async () => {
    const port = await peer(answering((question) => (question === "READ?" ? "1.25E+1" : undefined)));
    const client = await ScpiClient.open("127.0.0.1", port);
    expect(await client.ask("READ?")).toBe("1.25E+1");
    const slow = client.ask("NEVER?");
    await expect(client.ask("READ?")).rejects.toThrow("still being asked");
    await expect(slow).rejects.toThrow("no answer to NEVER?");
    await expect(client.ask("READ?")).rejects.toThrow("no answer to NEVER?");
  });

  test("an answer that came while this program was held up itself is taken", async () => {
    const port = await peer((socket) => {
      socket.on("data", () => {
        socket.write("1.25E+1\n");
        const until = performance.now() + 1000;
        while (performance.now() < until);
      });
    });
    const client = await ScpiClient.open("127.0.0.1", port);
    expect(await client.ask("READ?")).toBe("1.25E+1");
    client.close();
  });

  test("an overload is the open line; what is no figure is said", () => {
    expect([figureOf("9.9E37"), figureOf("-9.90000E+37"), figureOf(" 1.2E-1 ")]).toEqual(["OL", "OL", 0.12]);
    expect(() => figureOf("HELLO")).toThrow("it answered “HELLO” where a figure was asked for");
    expect(() => figureOf("")).toThrow("it answered “”");
  });
});

describe("an instrument that is listened to", () => {
  test("is set to the dial and asked over and over; amps come as milliamps", async () => {
    const said: string[] = [];
    const port = await peer((socket) => {
      socket.on("data", (text) => said.push(...String(text).split("\n").filter(Boolean)));
      answering((question) => (question === "READ?" ? "4.2E-2" : '+0,"No error"'))(socket);
    });
    expect(await heard(meter(port), isFigure, "A DC")).toEqual({ value: 42, unit: "mA" });
    expect(said[0]).toBe("CONF:CURR:DC");
  });

  test("one that has no such dial says so", async () => {
    const port = await peer(answering((question) => (question === "READ?" ? "1" : '-113,"Undefined header"')));
    expect(await heard(meter(port), isLost, "diode")).toEqual({ lost: 'Meter: it does not take CONF:DIOD: -113,"Undefined header"' });
  });

  test("one that closes is called again by itself", async () => {
    let calls = 0;
    const port = await peer((socket) => {
      calls++;
      if (calls === 1) return void socket.destroy();
      answering((question) => (question === "READ?" ? "12.6" : '+0,"No error"'))(socket);
    });
    const all: Heard[] = [];
    await new Promise<void>((resolve) => {
      const stop = listenTo(meter(port), "V DC", (heard) => {
        all.push(heard);
        if (isFigure(heard)) {
          stop();
          resolve();
        }
      });
    });
    expect([isLost(all[0] as Heard), all.at(-1)]).toEqual([true, { value: 12.6, unit: "V" }]);
  });

  test("a logger's lines are heard with their unit; garbage among them is left out; silence is said", async () => {
    const port = await peer((socket) => {
      socket.write("hello\n0.1;abc;V\n0.2;9.9E37;V\n");
      setTimeout(() => socket.write("0.3;12.61;V\n"), 120);
    });
    const all: Heard[] = [];
    await new Promise<void>((resolve) => {
      const stop = listenTo(meter(port, "lines"), "V DC", (heard) => {
        all.push(heard);
        if (isLost(heard)) {
          stop();
          resolve();
        }
      });
    });
    expect(all).toEqual([{ value: "OL", unit: "V" }, { value: 12.61, unit: "V" }, { lost: "Meter: it says nothing any more" }]);
  });

  test("hands move with a stand-in only, and a step it refuses is said", async () => {
    const said: string[] = [];
    const standIn = await peer((socket) => {
      socket.on("data", (text) => said.push(...String(text).split("\n").filter(Boolean)));
      answering((question) => (question === "*IDN?" ? "UVREL,STAND-IN BENCH,x,1" : '-224,"no such step"'))(socket);
    });
    await expect(moveHands(meter(standIn), { step: "stator.warp" })).rejects.toThrow('Meter: -224,"no such step"');
    await expect(moveHands(meter(standIn), { stand: "rpm=3000", sheet: "other" })).rejects.toThrow("Meter plays x: start it with “uvrel meter --sheet other”");
    expect(said).toEqual(expect.arrayContaining(["SYST:LIFT", 'SYST:STEP "stator.warp"']));
    const real = await peer(answering(() => "SOMEBODY,METER,1,1"));
    await moveHands(meter(real), { step: "battery.rest" });
    await moveHands(meter(real, "lines"), { step: "battery.rest" });
  });
});
