import { createContext } from "react-router";
import type { OutputPoint } from "../core/budget/output";
import type { Advice, JobFacts } from "../core/diagnosis/advice";
import type { Look } from "../core/diagnosis/population/look";
import type { Part } from "../core/machine/part";
import type { Sheet } from "../core/machine/sheet";
import type { LiveDial } from "../core/meter/settle";
import type { Whole } from "../store/backup";
import type { Instrument } from "../store/instruments";
import type { Person } from "../store/people";
import type { Store } from "../store/store";

/** The machine of a job as the engine needs it. */
export interface Subject {
  sheet: Sheet;
  ambientC: number;
}

/** How far the drawing of a machine's charts is. */
export type Drawing = { state: "ready" } | { state: "drawing"; done: number; of: number } | { state: "failed"; why: string };

/** What the pages ask of the threads that draw, predict and advise. */
export interface Office {
  /** How far the charts of every way in which a sheet's machine could be made are; begins the drawing of those that are not there. */
  ask(sheet: Sheet): Drawing;
  /** The advice to a job, worked out once its charts are drawn, and kept; undefined when newer facts of the same job have come in between. */
  advise(jobId: number, subject: Subject, facts: JobFacts): Promise<Advice | undefined>;
  /** What a sheet's machine gives over its speeds; worked out once a version of the sheet. */
  curve(sheet: Sheet): Promise<OutputPoint[]>;
  /** What a machine shows with some parts mended, at every look that can be wanted or at some others: a pack, compressed. */
  predictions(subject: Subject, of: { mended: Part[] } | { looks: Look[] }): Promise<Uint8Array>;
}

/** What the pages ask of whoever keeps house. */
export interface Housekeeping {
  /** Copies the database whole into the folder of backups. @throws DatabaseProblem with one sentence */
  backUp(now: Date, byHand: boolean): Promise<Whole>;
  /** Why the last backup by the rule came to nothing. */
  readonly failed: string | undefined;
}

/** What an instrument shows, or that it has gone and why. */
export type Heard = { value: number | "OL"; unit: string } | { lost: string };

/** Where a stand-in's hands are to go: to a step of a test, or with a machine of its sheet as it stands on the rig. */
export type HandsTo = { step: string } | { stand: string; sheet: string };

/** What the pages ask of the shop's instruments. */
interface Instrumentation {
  /** Listens to an instrument on a dial until the answer is called. */
  listen(instrument: Instrument, dial: LiveDial, heard: (heard: Heard) => void): () => void;
  /** Moves the hands of a stand-in; nothing for a real instrument. @throws Error in words */
  hands(instrument: Instrument, to: HandsTo): Promise<void>;
}

/** The shop's instruments that speak. */
export const instrumentsContext = createContext<Instrumentation>();

/** Backups and their like. */
export const housekeepingContext = createContext<Housekeeping>();

/** What the server hands to every loader and action. */
export const storeContext = createContext<Store>();

/** The office, which the pages ask for odds. */
export const officeContext = createContext<Office>();

/** Who asks, where people sign in; on the machine itself nobody is asked. */
export const personContext = createContext<Person | undefined>(undefined);

/** How somebody comes in: whether they are asked who they are, from which address, and over TLS or not. */
export const visitContext = createContext<{ asked: boolean; address: string; secure: boolean }>({ asked: false, address: "", secure: false });

/** The nonce that this answer's scripts carry under the content security policy. */
export const nonceContext = createContext<string>("");
