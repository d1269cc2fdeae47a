import type { ProcedureRun } from "@uppershed/contract";
import type { RunEvent } from "@uppershed/core";
import { deviceStore, nextOrder } from "../device/db.ts";

/** What this device has done in runs and the server has not yet said it has kept; and the runs it has seen, for when the signal goes. */

export const putAside = async (runId: string, event: RunEvent): Promise<void> => {
  const order = nextOrder();
  await (await deviceStore()).put("outbox", { id: event.id, runId, order, event });
};

export const waitingFor = async (runId: string): Promise<RunEvent[]> => {
  const rows = await (await deviceStore()).getAllFromIndex("outbox", "run", runId);
  return rows.sort((a, b) => a.order - b.order).map((row) => row.event);
};

export const takeOut = async (ids: readonly string[]): Promise<void> => {
  const tx = (await deviceStore()).transaction("outbox", "readwrite");
  await Promise.all([...ids.map((id) => tx.store.delete(id)), tx.done]);
};

/** How many entries of all runs, and how many other things, this device still keeps. */
export const waitingInAll = async (): Promise<number> => {
  const db = await deviceStore();
  return (await db.count("outbox")) + (await db.count("errands"));
};

export const rememberRun = async (run: ProcedureRun): Promise<void> => {
  await (await deviceStore()).put("runs", run);
};

export const rememberedRun = async (id: string): Promise<ProcedureRun | undefined> => (await deviceStore()).get("runs", id);
