import { resolve } from "node:path";

/** The folder of the database: `UVREL_DATA`, or `data` in the project. */
export function dataFolder(): string {
  return resolve(process.env.UVREL_DATA || "data");
}
