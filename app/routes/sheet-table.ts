import { writeSheetTable } from "../../formats/sheetTable";
import { storeContext } from "../context";
import type { Route } from "./+types/sheet-table";

/** The whole shelf as a table, one row a band. */
export function loader({ context }: Route.LoaderArgs): Response {
  const sheets = context
    .get(storeContext)
    .sheets.list()
    .map(({ sheet }) => sheet);
  return new Response(writeSheetTable(sheets), {
    headers: { "Content-Type": "text/csv; charset=utf-8", "Content-Disposition": 'attachment; filename="uvrel-sheets.csv"', "Cache-Control": "no-store" },
  });
}
