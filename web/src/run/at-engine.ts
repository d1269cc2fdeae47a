import type { RunEvent, RunState } from "@uppershed/core/procedure";
import { type Beside, besideOf } from "../device/beside.ts";
import type { RunBase, RunEngine, RunNews } from "./run-engine.ts";

/** The one engine of this page, beside it where there are workers, and what it has been told. */

let engine: Beside<RunEngine> | Promise<RunEngine> | undefined;
const start = (): Beside<RunEngine> | Promise<RunEngine> =>
  typeof Worker === "undefined"
    ? import("./run-engine.ts").then((m) => new m.RunEngine())
    : besideOf<RunEngine>("run");

let told: { readonly runId: string; readonly ids: string[] } | undefined;

/** What the engine does not have of a run; it has it from then on. */
const newsOf = (runId: string, base: RunBase, events: readonly RunEvent[]): RunNews => {
  const ids = events.map((e) => e.id);
  const goesOn =
    told?.runId === runId &&
    told.ids.length <= ids.length &&
    told.ids.every((id, i) => id === ids[i]);
  const since = goesOn && told ? told.ids.length : 0;
  told = { runId, ids };
  return { runId, base: goesOn ? undefined : base, events: events.slice(since) };
};

let line: Promise<unknown> = Promise.resolve();

/** Asks the engine something of a run as it stands then; one question after another. */
export const askEngine = <T>(
  runId: string,
  base: RunBase,
  stateNow: () => RunState,
  ask: (engine: Beside<RunEngine> | RunEngine, news: RunNews) => T | Promise<T>,
): Promise<T> => {
  const asked = line.then(async () => {
    const there = await (engine ??= start());
    try {
      return await ask(there, newsOf(runId, base, stateNow().events));
    } catch (error) {
      // Whatever it has by now, it is told the whole run the next time.
      told = undefined;
      throw error;
    }
  });
  line = asked.catch(() => undefined);
  return asked;
};

/** The engine has made these itself. */
export const toldBy = (runId: string, events: readonly RunEvent[]): void => {
  if (told?.runId === runId) told.ids.push(...events.map((e) => e.id));
};
