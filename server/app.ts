import "react-router";
import { constants as zlib } from "node:zlib";
import { createRequestHandler, type GetLoadContextFunction } from "@react-router/express";
import compression from "compression";
import express, { type Express } from "express";
import packedStatic from "express-static-gzip";
import pino from "pino";
import { RouterContextProvider, type ServerBuild } from "react-router";
import { housekeepingContext, instrumentsContext, nonceContext, officeContext, personContext, storeContext, visitContext } from "../app/context";
import { dataFolder } from "../store/folder";
import { DatabaseProblem } from "../store/migrate";
import { MIGRATIONS } from "../store/migrations";
import { openDatabase } from "../store/open";
import type { Person } from "../store/people";
import { Store } from "../store/store";
import { Housekeeper, soundOnly } from "./housekeeping";
import { listenTo, moveHands } from "./instruments/hub";
import { ThreadedOffice } from "./office";
import { isLoopback, knownHostOnly, sameOriginOnly, securityHeaders, withinBounds } from "./security";
import { signedInOnly } from "./signedIn";

const log = pino({ level: process.env.LOG_LEVEL ?? "warn" }, pino.destination(2));

/** On a workshop's own network a fast answer is worth more than the last kilobyte. */
const FAST_COMPRESSION = { level: 1, brotli: { params: { [zlib.BROTLI_PARAM_QUALITY]: 1 } } };

/** How long nobody has asked for anything before the server prepares for machines without a sheet, ms. */
const QUIET = 20_000;

/** Where the server listens: `HOST` and `PORT`, loopback unless told otherwise. */
export function address(): { host: string; port: number } {
  const port = Number(process.env.PORT || 4280);
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new DatabaseProblem(`PORT is “${process.env.PORT}”; it must be a whole number from 0 to 65535.`);
  return { host: process.env.HOST || "127.0.0.1", port };
}

/** What an application stands on. */
interface Premises {
  store: Store;
  office: ThreadedOffice;
  housekeeper: Housekeeper;
}

/** The web application over an open store: security first, then files, then who asks, then pages. */
export function createApp({ store, office, housekeeper }: Premises, host: string, production: boolean): Express {
  const app = express();
  app.disable("x-powered-by");
  // A TLS proxy on this machine says for whom it asks.
  app.set("trust proxy", "loopback");
  app.use(knownHostOnly(host, process.env.UVREL_HOSTS), securityHeaders(production), sameOriginOnly, withinBounds, compression(FAST_COMPRESSION));
  if (production) {
    app.use("/assets", packedStatic("build/client/assets", { enableBrotli: true, orderPreference: ["br"], serveStatic: { immutable: true, maxAge: "1y" } }));
    app.use(express.static("build/client", { maxAge: "1h" }));
  }
  app.use(soundOnly(store, dataFolder()));
  const asked = asksWho(host);
  if (asked) app.use(signedInOnly(store));
  const getLoadContext: GetLoadContextFunction = (request, response) => {
    const context = new RouterContextProvider();
    context.set(storeContext, store);
    context.set(officeContext, office);
    context.set(housekeepingContext, housekeeper);
    context.set(instrumentsContext, { listen: listenTo, hands: moveHands });
    context.set(visitContext, { asked, address: request.ip ?? "", secure: request.headers["x-forwarded-proto"] === "https" });
    context.set(personContext, response.locals.person as Person | undefined);
    context.set(nonceContext, String(response.locals.nonce ?? ""));
    return context;
  };
  // Given the pages themselves and not a way to fetch them, the handler ranks its routes once, not anew for each request.
  const pages = (import("virtual:react-router/server-build") as Promise<ServerBuild>).then((build) =>
    createRequestHandler({ build, mode: production ? "production" : "development", getLoadContext }),
  );
  app.use(async (request, response, next) => (await pages)(request, response, next));
  return app;
}

/** Opens the store of the data folder. */
export function openStore(): Store {
  return new Store(openDatabase(dataFolder(), MIGRATIONS));
}

/** Opens the store of the data folder, and all that works behind its pages. */
export function openPremises(): Premises {
  const store = openStore();
  const told = (error: unknown): void => log.error(error);
  return { store, office: new ThreadedOffice(store, told), housekeeper: new Housekeeper(store, dataFolder(), told) };
}

/** Starts the production server; says in one sentence why, and leaves a non-zero exit code, when it cannot. */
export function start(): void {
  try {
    const { host, port } = address();
    const premises = openPremises();
    const { store, office, housekeeper } = premises;
    const server = createApp(premises, host, true).listen(port, host);
    server.on("listening", () => {
      const bound = server.address();
      const shown = bound && typeof bound === "object" ? bound.port : port;
      let lastAsked = Date.now();
      server.on("request", () => {
        lastAsked = Date.now();
      });
      void office.prepareAhead(() => Date.now() - lastAsked > QUIET);
      housekeeper.begin();
      process.stdout.write(`${whoCanReach(host, store.people.list().length)}\nUvrel is at http://${host.includes(":") ? `[${host}]` : host}:${shown}\n`);
    });
    server.on("error", (error: NodeJS.ErrnoException) => {
      store.close();
      stop(listenProblem(error, host, port));
    });
    const end = (): void => {
      log.info("stopping");
      server.close(() => void Promise.all([office.close(), housekeeper.close()]).finally(() => store.close()));
      server.closeAllConnections();
    };
    process.once("SIGINT", end);
    process.once("SIGTERM", end);
  } catch (error) {
    if (!(error instanceof DatabaseProblem)) throw error;
    stop(error.message);
  }
}

/** Whoever comes from another machine is asked who they are: bound beyond loopback, or reached by further names through a proxy. */
const asksWho = (host: string): boolean => !isLoopback(host) || Boolean(process.env.UVREL_HOSTS);

/** Who can reach the server, in a line: nobody should have to guess. */
function whoCanReach(host: string, people: number): string {
  if (!asksWho(host)) return "Only this machine can reach it, and nobody is asked who they are.";
  const reach = "Whoever is on the network can reach it, and has to sign in";
  return people > 0
    ? `${reach}: ${people} ${people === 1 ? "person" : "people"} may.`
    : `${reach}, but nobody can yet: add people with “uvrel person add NAME”.`;
}

function listenProblem(error: NodeJS.ErrnoException, host: string, port: number): string {
  if (error.code === "EADDRINUSE") return `Port ${port} is in use on ${host}. Stop what uses it, or set PORT to another number.`;
  if (error.code === "EACCES") return `Port ${port} on ${host} needs more rights than this user has. Set PORT to 1024 or more.`;
  if (error.code === "EADDRNOTAVAIL" || error.code === "ENOTFOUND") return `HOST “${host}” is not an address of this machine.`;
  return `Cannot listen on ${host}:${port}: ${error.message}.`;
}

function stop(sentence: string): void {
  process.stderr.write(`${sentence}\n`);
  process.exitCode = 1;
}
