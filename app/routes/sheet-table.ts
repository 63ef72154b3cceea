import { writeSheetTable } from "../../formats/sheetTable";
import { storeContext } from "../context";
import type { Route } from "./+types/sheet-table";

/** The whole shelf to take away: as a table, one row a band, or as a list of documents. */
export function loader({ context, request }: Route.LoaderArgs): Response {
  const sheets = context.get(storeContext).sheets.all();
  const asJson = new URL(request.url).pathname.endsWith(".json");
  const [body, type, name] = asJson
    ? [`${JSON.stringify(sheets, null, 1)}\n`, "application/json", "uvrel-sheets.json"]
    : [writeSheetTable(sheets), "text/csv; charset=utf-8", "uvrel-sheets.csv"];
  return new Response(body, {
    headers: { "Content-Type": type, "Content-Disposition": `attachment; filename="${name}"`, "Cache-Control": "no-store" },
  });
}
