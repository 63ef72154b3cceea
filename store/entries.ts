import { z } from "zod";
import { RATING_IDS } from "../core/battery/ratings";
import { TOUCHED } from "../core/procedure/step";
import { loadsSchema, testIdSchema } from "./rows";

/** The id that a client gives to what it writes down. */
export const entryId = z.string().regex(/^[A-Za-z0-9-]{8,64}$/, "must be 8 to 64 letters, digits or hyphens");

/** A reading as it comes in, from a page or from a table. */
export const readingSchema = z.strictObject({
  id: entryId,
  test: testIdSchema,
  at: z.string().max(20).optional(),
  rpm: z.union([z.literal("idle"), z.number().int("must be whole").min(100, "must be 100 or more").max(20_000, "must be 20,000 or less")]).optional(),
  loads: loadsSchema.optional(),
  value: z.union([z.number(), z.string().max(20)]),
  raw: z.boolean().optional(),
  leadOhms: z.number().min(0).max(10).optional(),
  ohmsResolution: z.number().min(0.0001).max(10).optional(),
  secondMeter: z.boolean().optional(),
  hot: z.boolean().optional(),
  charged: z.boolean().optional(),
  restHours: z.number().min(0, "must be 0 or more").max(10_000, "must be 10,000 or less").optional(),
  amps: z.number().min(0).max(2000).optional(),
  rating: z.enum(RATING_IDS).optional(),
  swing: z.number().min(0, "must be 0 or more").max(100, "must be 100 or less").optional(),
  touched: z.enum(TOUCHED).optional(),
  note: z.string().max(500).optional(),
  takenAt: z.iso.datetime(),
  afterRepair: z.boolean().optional(),
  repairs: z.number().int().min(0).max(1000).optional(),
  supersedes: entryId.optional(),
  supersedesWhy: z.enum(["mistyped", "taken-again"]).optional(),
});
