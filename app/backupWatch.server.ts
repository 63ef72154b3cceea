import type { RouterContextProvider } from "react-router";
import { backupStanding, backupsIn } from "../store/backups";
import { dataFolder } from "../store/folder";
import { housekeepingContext, storeContext } from "./context";

/** Why somebody should look after the backups; undefined while the shop's rule is met. */
export function backupMissed(context: Readonly<RouterContextProvider>): string | undefined {
  const { failed } = context.get(housekeepingContext);
  return backupStanding(backupsIn(dataFolder()), context.get(storeContext).backupRule.get(), new Date(), process.uptime() * 1000, failed).missed;
}
