import type { z } from "zod";

/** Entries as they are kept: those that this version can read, and those that it cannot, each with its reason. */
export interface KeptEntries<Body> {
  readonly entries: { id: string; at: string; by: string; body: Body }[];
  readonly unread: { id: string; type: string; problem: string }[];
}

interface Row {
  readonly id: string;
  readonly at: Date;
  readonly byName: string;
  readonly body: { readonly type: string };
}

/** Rows in the order in which they were added. */
export const keptEntries = <Body>(
  rows: readonly Row[],
  schema: z.ZodType<Body>,
): KeptEntries<Body> => {
  const kept: KeptEntries<Body> = { entries: [], unread: [] };
  for (const row of rows) {
    const body = schema.safeParse(row.body);
    if (body.success)
      kept.entries.push({ id: row.id, at: row.at.toISOString(), by: row.byName, body: body.data });
    else
      kept.unread.push({
        id: row.id,
        type: row.body.type,
        problem: `This version cannot read it: ${body.error.issues[0]?.message ?? ""}.`,
      });
  }
  return kept;
};
