import type { FaultId } from "../../machine/faults";
import type { Part } from "../../machine/part";
import type { TestId } from "../../procedure/catalogue";
import { isBad, type JudgedReading, type JudgingContext } from "../../procedure/judge";
import { isNumber } from "../../units";

/** How much a finding is worth: it settles the matter, it points that way, or it only raises a question. */
type Weight = "settles" | "points" | "asks";

/** What a rule of the chart makes of some readings: a fault of a part, and why. */
export interface Finding {
  fault: FaultId;
  weight: Weight;
  where?: string;
  says: string;
  because: JudgedReading[];
}

/** What a rule clears: a part, and by which readings. */
export interface Clearing {
  part: Part;
  says: string;
  because: JudgedReading[];
}

/** What one page of the chart has to say. */
export interface Page {
  findings: Finding[];
  clearings: Clearing[];
}

/** The readings of a job, laid out for the pages of the chart. */
export class Evidence {
  constructor(
    readonly all: readonly JudgedReading[],
    readonly context: JudgingContext,
  ) {}

  /** The readings of a test, at test rpm where `at` asks for it. */
  of(test: TestId, at: "any" | "test" | "idle" = "any"): JudgedReading[] {
    return this.all.filter((one) => one.reading.test === test && (at === "any" || (at === "idle") === (one.reading.rpm === "idle")));
  }

  /** The latest reading of a test. */
  last(test: TestId): JudgedReading | undefined {
    return this.of(test).at(-1);
  }

  /** The readings of a test that speak against a part. */
  bad(test: TestId, at: "any" | "test" | "idle" = "any"): JudgedReading[] {
    return this.of(test, at).filter((one) => isBad(one.judged));
  }

  /** True when the test was taken and nothing about it is wrong. */
  good(test: TestId, at: "any" | "test" | "idle" = "any"): boolean {
    return this.of(test, at).length > 0 && this.bad(test, at).length === 0;
  }

  /** The latest reading's number, where it is one. */
  number(test: TestId): number | undefined {
    const value = this.last(test)?.value;
    return value !== undefined && isNumber(value) ? value : undefined;
  }

  /** Charging volts at test rpm: in band throughout, below the floor, above the ceiling, or not read. */
  get charging(): "in" | "low" | "high" | "unread" {
    if (this.of("charge.volts").some((one) => one.judged === "high")) return "high";
    const read = this.of("charge.volts", "test");
    if (read.length === 0) return "unread";
    return read.some((one) => one.judged === "low") ? "low" : "in";
  }
}
