import { z } from "zod";
import { calendarDay, oneOfList } from "../inspection/index.ts";

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
  const [year = 0, month = 1, day = 1] = life.fittedOn.split("-").map(Number);
  const months = month - 1 + life.expectedLifeMonths;
  const [y, m] = [year + Math.floor(months / 12), months % 12];
  // The last of a month stays the last: 31 August plus six months is the end of February.
  const last = new Date(Date.UTC(y, m + 1, 0)).getUTCDate();
  const pad = (n: number): string => String(n).padStart(2, "0");
  return `${y}-${pad(m + 1)}-${pad(Math.min(day, last))}`;
};

/** Whole months between two days. */
export const ageMonths = (fittedOn: string, today: string): number => {
  const [y1 = 0, m1 = 0, d1 = 0] = fittedOn.split("-").map(Number);
  const [y2 = 0, m2 = 0, d2 = 0] = today.split("-").map(Number);
  return (y2 - y1) * 12 + (m2 - m1) - (d2 < d1 ? 1 : 0);
};
