import type { ProcedureRun } from "@uppershed/contract";
import {
  applyEvent,
  type AskedBody,
  engineSpeaks,
  enterPlain,
  type RunEvent,
  type RunState,
} from "@uppershed/core/procedure";
import { fillIn } from "@uppershed/core/quantity";
import type { Network } from "@uppershed/core/watermap";
import { useCallback, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Beside } from "../device/beside.ts";
import type { NewEntry } from "../device/entry.ts";
import { putEntries } from "../device/outbox.ts";
import { runEntryInWords } from "../device/words.ts";
import { useMeQuery } from "../store/api.ts";
import { askEngine, toldBy } from "./at-engine.ts";
import { nowIso } from "../ui/words.ts";
import { makerFor } from "./maker.ts";
import type { RunBase, RunEngine, RunEntered, RunNews } from "./run-engine.ts";

const LOADING = "The run is still loading.";
const NOTHING_MOVES: ReadonlySet<string> = new Set();

type Person = RunEvent["by"];
type AnyEngine = Beside<RunEngine> | RunEngine;
type Entering = RunEntered | Promise<RunEntered>;

const withEvents = (state: RunState, events: readonly RunEvent[]): RunState =>
  events.reduce((so, event) => {
    const applied = applyEvent(so, event);
    return applied.ok ? applied.state : so;
  }, state);

export interface EnteringRun {
  /** Something is on its way through the engine. */
  readonly busy: boolean;
  /** Adds an entry; tells why it cannot be, or nothing. */
  readonly add: (body: AskedBody) => Promise<string | undefined>;
  /**
   * Adds what is chosen when its turn comes, from the run with all that was entered before it: so a key pressed twice while something is on
   * its way does two things.
   */
  readonly addNext: (
    choose: (state: RunState) => AskedBody | undefined,
  ) => Promise<string | undefined>;
  /** The pipes in which liquid will move when the step in hand is done. */
  readonly movedNext: () => Promise<ReadonlySet<string>>;
  /** What would come of turning the valve of a row now, in words. */
  readonly saysOfTurn: (row: string) => Promise<readonly string[]>;
  /** Enters what the engine itself has to say. */
  readonly withEngine: (
    ask: (engine: AnyEngine, news: RunNews, by: Person) => Entering,
  ) => Promise<string | undefined>;
}

/**
 * Entering on a run: made whole by the engine beside the screen where it has something to say, put aside on this device, and shown.
 * @param folded the run as it stands on the screen; what has just been entered goes ahead of it for a moment
 */
export const useEntering = (
  run: ProcedureRun | undefined,
  network: Network | undefined,
  folded: RunState | undefined,
): EnteringRun => {
  const { data: me } = useMeQuery();
  const now = useRef<RunState>(undefined);
  useLayoutEffect(() => {
    now.current = folded;
  }, [folded]);
  const runId = run?.id ?? "";
  const base = useMemo<RunBase | undefined>(
    () =>
      run && network
        ? { map: network.map, setup: run.setup, begins: run.begins, unread: run.unread }
        : undefined,
    [run, network],
  );
  const stateNow = useCallback((): RunState => {
    if (!now.current) throw new Error("The run is still loading.");
    return now.current;
  }, []);

  const put = useCallback(
    async (events: readonly RunEvent[]): Promise<void> => {
      if (!me || !run) return;
      const entries = events.map<NewEntry>(({ by, ...body }) => ({
        id: body.id,
        kind: "run-event",
        workshopId: me.workshop.id,
        personId: by.id,
        personName: by.name,
        role: by.role,
        unitId: run.unitId,
        runId,
        url: `/runs/${runId}/events`,
        body,
        what: `${run.unitName}: ${runEntryInWords(body.body)}`,
        at: body.at,
        form: 2,
      }));
      await putEntries(entries);
    },
    [me, run, runId],
  );

  // One after another, each on what the one before has left.
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const inLine = useRef(0);
  const [busy, setBusy] = useState(false);
  const afterOthers = useCallback(
    (work: () => Promise<string | undefined>): Promise<string | undefined> => {
      setBusy(++inLine.current > 0);
      const done = line.current
        .then(work)
        .catch((error: unknown) =>
          error instanceof Error ? error.message : "That could not be worked out.",
        )
        .finally(() => setBusy(--inLine.current > 0));
      line.current = done;
      return done;
    },
    [],
  );

  const withEngine = useCallback(
    (ask: (engine: AnyEngine, news: RunNews, by: Person) => Entering) =>
      afterOthers(async () => {
        if (!now.current || !me || !base) return LOADING;
        const entered = await askEngine(runId, base, stateNow, (engine, news) =>
          ask(engine, news, me.person),
        );
        if (!entered.ok) return fillIn(entered.problem, me.workshop.units);
        toldBy(runId, entered.events);
        now.current = withEvents(now.current, entered.events);
        await put(entered.events);
        return undefined;
      }),
    [afterOthers, me, base, runId, put, stateNow],
  );

  /** What the engine has nothing to say of is on the screen at once. */
  const addPlain = useCallback(
    (body: AskedBody): string | undefined => {
      if (!now.current || !me) return LOADING;
      const entered = enterPlain(now.current, body, makerFor(now.current, me.person));
      if (!entered.ok) return fillIn(entered.problem, me.workshop.units);
      now.current = entered.state;
      void put(entered.events);
      return undefined;
    },
    [me, put],
  );

  const add = useCallback(
    (body: AskedBody): Promise<string | undefined> => {
      // It was done when the hand did it, however long the engine takes to get to it.
      const at = nowIso();
      if (engineSpeaks(body))
        return withEngine((engine, news, by) => engine.enter(news, body, by, at));
      return inLine.current === 0
        ? Promise.resolve(addPlain(body))
        : afterOthers(async () => addPlain(body));
    },
    [withEngine, addPlain, afterOthers],
  );

  const addNext = useCallback(
    (choose: (state: RunState) => AskedBody | undefined): Promise<string | undefined> => {
      const work = (): string | undefined => {
        const body = now.current && choose(now.current);
        return body && addPlain(body);
      };
      return inLine.current === 0 ? Promise.resolve(work()) : afterOthers(async () => work());
    },
    [addPlain, afterOthers],
  );

  const movedNext = useCallback(async (): Promise<ReadonlySet<string>> => {
    if (!base) return NOTHING_MOVES;
    return new Set(
      await askEngine(runId, base, stateNow, (engine, news) => engine.movedNext(news)),
    );
  }, [runId, base, stateNow]);

  const saysOfTurn = useCallback(
    async (row: string): Promise<readonly string[]> =>
      base ? askEngine(runId, base, stateNow, (engine, news) => engine.turnSays(news, row)) : [],
    [runId, base, stateNow],
  );

  return { add, addNext, movedNext, saysOfTurn, withEngine, busy };
};
