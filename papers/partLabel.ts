import { format } from "date-fns";
import type { JobFile } from "../store/jobs";
import { Paper } from "./paper";

/** A label to hang on a machine that waits for a part, or to lay with the part: whose, which, for what job, due when. 90 by 50 mm. */
export function partLabel({ job, waits }: JobFile, shop: string): Promise<Uint8Array> {
  const wait = waits.findLast(({ what }) => what === "part");
  const name = `${job.unitTag ?? "No tag"} “${job.nickname}”`;
  const paper = new Paper({ title: `Part for ${name}`, shop, kind: "part label", size: { width: 90, height: 50 } });
  paper.text(shop, { size: "small", mute: true });
  paper.heading(1, name);
  paper.text(`${job.sheet.maker} ${job.sheet.model}, job ${job.id}`);
  paper.text(`Waits for: ${wait?.note ?? "a part"}`, { size: "lead", strong: true });
  paper.text(wait ? `Ordered ${format(wait.beganAt, "d MMM yyyy")}${wait.until ? `, due ${format(wait.until, "EEE d MMM yyyy")}` : ""}` : "Not ordered yet", {
    size: "small",
  });
  return paper.finish();
}
