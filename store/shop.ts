import type { Database } from "better-sqlite3";
import { z } from "zod";
import type { Meter } from "../core/meter/meter";
import { ASSUMED_METER } from "../core/meter/meter";
import { TOOL_IDS, type ToolId, USUAL_TOOLS } from "../core/procedure/tools";
import { preparer } from "./statements";

/** Tools by their ids, each once. */
export const toolsSchema = z.array(z.enum(TOOL_IDS)).max(TOOL_IDS.length);

interface Shop {
  name: string;
  school: string;
  meterId: number;
  /** What it has beside a multimeter. */
  tools: readonly ToolId[];
}

interface ShopMeter extends Meter {
  id: number;
}

/** One machine of the fleet. */
export interface Unit {
  tag: string;
  nickname: string;
  sheetId: string;
  usedFor: string;
}

interface MeterRow {
  id: number;
  name: string;
  lead_ohms: number;
  ohms_resolution: number;
  true_rms: number;
  diode_max_volts: number;
}

/** The workshop itself: its school, its meters, its machines. */
export class Workshop {
  readonly #db: Database;
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#db = db;
    this.#sql = preparer(db);
  }

  /** The shop's settings; a new database starts with the first school and a common meter. */
  shop(): Shop {
    const row = this.#sql("SELECT name, school, meter_id AS meterId, tools FROM shop").get() as (Omit<Shop, "tools"> & { tools: string }) | undefined;
    if (row) return { ...row, tools: toolsSchema.parse(JSON.parse(row.tools)) };
    return this.#db
      .transaction((): Shop => {
        const meterId = this.addMeter({ ...ASSUMED_METER, name: "Meter 1" });
        this.#sql("INSERT INTO shop (only, name, school, meter_id) VALUES (1, 'Workshop', 'harbour', ?)").run(meterId);
        return { name: "Workshop", school: "harbour", meterId, tools: USUAL_TOOLS };
      })
      .immediate();
  }

  changeShop(shop: Shop): void {
    this.shop();
    this.#sql("UPDATE shop SET name = @name, school = @school, meter_id = @meterId, tools = @tools").run({ ...shop, tools: JSON.stringify(shop.tools) });
  }

  meters(): ShopMeter[] {
    return (this.#sql("SELECT * FROM meters ORDER BY id").all() as MeterRow[]).map(meterOf);
  }

  /** The meter in use. */
  meter(): ShopMeter {
    const { meterId } = this.shop();
    return meterOf(this.#sql("SELECT * FROM meters WHERE id = ?").get(meterId) as MeterRow);
  }

  addMeter(meter: Meter): number {
    const sql =
      "INSERT INTO meters (name, lead_ohms, ohms_resolution, true_rms, diode_max_volts) VALUES (@name, @leadOhms, @ohmsResolution, @trueRms, @diodeMaxVolts)";
    return Number(this.#sql(sql).run({ ...meter, trueRms: meter.trueRms ? 1 : 0 }).lastInsertRowid);
  }

  changeMeter(meter: ShopMeter): void {
    this.#sql(
      "UPDATE meters SET name = @name, lead_ohms = @leadOhms, ohms_resolution = @ohmsResolution, true_rms = @trueRms, diode_max_volts = @diodeMaxVolts WHERE id = @id",
    ).run({ ...meter, trueRms: meter.trueRms ? 1 : 0 });
  }

  /** Machines on the books by their tags, each with maker and model; at most so many. */
  units(limit: number): (Unit & { model: string })[] {
    return this.#sql(
      `SELECT tag, nickname, sheet_id AS sheetId, used_for AS usedFor, maker || ' ' || s.model AS model
         FROM units JOIN sheets s ON s.id = sheet_id ORDER BY tag LIMIT ?`,
    ).all(limit) as (Unit & { model: string })[];
  }

  /** Other machines of the same sheet, by their tags; at most so many. */
  sisters(tag: string, limit: number): string[] {
    return this.#sql("SELECT b.tag FROM units a JOIN units b ON b.sheet_id = a.sheet_id AND b.tag <> a.tag WHERE a.tag = ? ORDER BY b.tag LIMIT ?")
      .pluck()
      .all(tag, limit) as string[];
  }

  unit(tag: string): Unit | undefined {
    return this.#sql("SELECT tag, nickname, sheet_id AS sheetId, used_for AS usedFor FROM units WHERE tag = ?").get(tag) as Unit | undefined;
  }

  /** Adds a machine; false when the tag is taken. */
  addUnit(unit: Unit): boolean {
    return (
      this.#sql("INSERT INTO units (tag, nickname, sheet_id, used_for) VALUES (@tag, @nickname, @sheetId, @usedFor) ON CONFLICT DO NOTHING").run(unit)
        .changes === 1
    );
  }
}

function meterOf(row: MeterRow): ShopMeter {
  return {
    id: row.id,
    name: row.name,
    leadOhms: row.lead_ohms,
    ohmsResolution: row.ohms_resolution,
    trueRms: row.true_rms === 1,
    diodeMaxVolts: row.diode_max_volts,
  };
}
