import { orderMigrations } from "./migrate";

/** The migrations that ship with the program. Its own file because only the bundler can expand the pattern. */
export const MIGRATIONS = orderMigrations(import.meta.glob<string>("./migrations/*.sql", { query: "?raw", import: "default", eager: true }));
