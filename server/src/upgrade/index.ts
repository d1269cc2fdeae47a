import { eq } from "drizzle-orm";
import type { Db, Tx } from "../db.ts";
import { dataMigrations } from "../schema/index.ts";
import { freezeRuns } from "./freeze-runs.ts";
import { giveKeys } from "./reading-keys.ts";
import { freezeReports } from "./freeze-reports.ts";
import { wholeLineups } from "./whole-lineups.ts";
import { stateUnits } from "./state-units.ts";

/** What SQL alone cannot do to the data of earlier versions, in order; each step is done once, as one transaction. */
const STEPS: readonly (readonly [name: string, step: (tx: Tx) => Promise<void>])[] = [
  ["freeze-runs", freezeRuns],
  ["reading-keys", giveKeys],
  ["whole-lineups", wholeLineups],
  ["state-units", stateUnits],
  ["freeze-reports", freezeReports],
];

export const upgradeData = async (db: Db): Promise<void> => {
  for (const [name, step] of STEPS) {
    const [done] = await db.select().from(dataMigrations).where(eq(dataMigrations.name, name));
    if (done) continue;
    await db.transaction(async (tx) => {
      await step(tx);
      await tx.insert(dataMigrations).values({ name });
    });
  }
};
