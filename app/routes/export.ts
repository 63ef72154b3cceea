import { setImmediate } from "node:timers/promises";
import { writeTable } from "../../formats/tableOut";
import { TABLE_FORMATS, TABLES, type TableFormat, type TableName } from "../../formats/tables";
import { exportRows } from "../../store/exporting";
import { dataFolder } from "../../store/folder";
import { questionOf } from "../../store/question";
import type { Route } from "./+types/export";

/** A table to take away, of the jobs that a question finds; written in pieces, so that a table of millions holds up nobody. */
export function loader({ params, request }: Route.LoaderArgs): Response {
  const [name = "", format = ""] = params.file.split(".");
  if (!Object.hasOwn(TABLES, name) || !Object.hasOwn(TABLE_FORMATS, format))
    throw new Response(
      `There is no table ${params.file.slice(0, 40)}. The tables are ${Object.keys(TABLES).join(", ")}, each as ${Object.keys(TABLE_FORMATS).join(", ")}.`,
      {
        status: 404,
      },
    );
  const { question, errors } = questionOf(new URL(request.url).searchParams);
  const [wrong] = Object.entries(errors);
  if (wrong) throw new Response(`${wrong[0]}: ${wrong[1]} Nothing was exported.`, { status: 400 });
  const what = name as TableName;
  const { readable, writable } = new TransformStream<Uint8Array, Uint8Array>();
  const writer = writable.getWriter();
  const rows = exportRows(dataFolder(), what, question);
  // Whoever asked may go away meanwhile; then the rest is not written.
  request.signal.addEventListener("abort", () => void writer.abort().catch(() => undefined));
  void writeTable(TABLES[what].columns, rows, format as TableFormat, async (bytes) => {
    await writer.write(bytes);
    await setImmediate();
  })
    .then(() => writer.close())
    .catch((error: unknown) => writer.abort(error).catch(() => undefined))
    .finally(() => rows.return(undefined));
  return new Response(readable, {
    headers: {
      "Content-Type": TABLE_FORMATS[format as TableFormat].type,
      "Content-Disposition": `attachment; filename="uvrel-${params.file}"`,
      "Cache-Control": "no-store",
    },
  });
}
