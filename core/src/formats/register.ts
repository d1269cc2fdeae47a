import { z } from "zod";
import { calendarDay, oneOfList } from "../inspection/index.ts";
import { monthsAfter } from "../quantity/index.ts";

/** What a workshop keeps of one part over the years, beside the map. Parts keep their id over every revision. */

export const CONDITIONS = ["good", "watch", "bad", "not-looked-at"] as const;
export const CONDITION_LABELS: Readonly<Record<(typeof CONDITIONS)[number], string>> = {
  good: "good",
  watch: "watch",
  bad: "bad",
  "not-looked-at": "not looked at",
};

const fields = {
  /** In words, make-neutral: "stainless, two-port, brass plug". */
  description: z.string().max(200),
  serial: z.string().max(60),
  size: z.string().max(60),
  /** Day on which it was fitted. */
  fittedOn: calendarDay.nullable(),
  expectedLifeMonths: z.number().int().min(1).max(1200).nullable(),
  condition: oneOfList(CONDITIONS),
  lookedAt: calendarDay.nullable(),
  note: z.string().max(500),
};

export const partLifeSchema = z.strictObject({
  description: fields.description.default(""),
  serial: fields.serial.default(""),
  size: fields.size.default(""),
  fittedOn: fields.fittedOn.default(null),
  expectedLifeMonths: fields.expectedLifeMonths.default(null),
  condition: fields.condition.default("not-looked-at"),
  lookedAt: fields.lookedAt.default(null),
  note: fields.note.default(""),
});

/** A change of a life: what it does not name stays as it is. */
export const partLifeChangeSchema = z.strictObject(fields).partial();

export type PartLife = z.infer<typeof partLifeSchema>;

export const NO_LIFE: PartLife = partLifeSchema.parse({});

/** The day by which a part has served its expected life, or nothing where either figure is missing. */
export const dueOn = (life: Pick<PartLife, "fittedOn" | "expectedLifeMonths">): string | null => {
  if (!life.fittedOn || !life.expectedLifeMonths) return null;
  return monthsAfter(life.fittedOn, life.expectedLifeMonths);
};
