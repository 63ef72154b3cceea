import { createReadStream, statSync } from "node:fs";
import { createReadableStreamFromReadable } from "@react-router/node";
import { backupNamed } from "../../store/backups";
import { dataFolder } from "../../store/folder";
import type { Route } from "./+types/backup";

/** A backup as a file to take away: a backup on the same disk goes with the disk. */
export function loader({ params }: Route.LoaderArgs): Response {
  const path = backupNamed(dataFolder(), params.name);
  if (!path) throw new Response(`There is no backup ${params.name}.`, { status: 404 });
  return new Response(createReadableStreamFromReadable(createReadStream(path)), {
    headers: {
      "Content-Type": "application/vnd.sqlite3",
      "Content-Length": String(statSync(path).size),
      "Content-Disposition": `attachment; filename="${params.name}"`,
      "Cache-Control": "no-store",
    },
  });
}
