import type { ProcedureRun } from "@uppershed/contract";
import {
  applyEvent,
  type AskedBody,
  type Astray,
  engineSpeaks,
  enterPlain,
  replayRun,
  type RunEvent,
  type RunState,
} from "@uppershed/core/procedure";
import { fillIn } from "@uppershed/core/quantity";
import { buildNetwork, type Network, readWaterMap } from "@uppershed/core/watermap";
import type { Remote } from "comlink";
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { NewEntry } from "../device/entry.ts";
import { forgetSent, type Held, putEntries, useHeld } from "../device/outbox.ts";
import { runEntryInWords } from "../device/words.ts";
import { useMeQuery, useRunQuery } from "../store/api.ts";
import { askEngine, toldBy } from "./at-engine.ts";
import { makerFor } from "./maker.ts";
import type { RunBase, RunEngine, RunEntered, RunNews } from "./run-engine.ts";

export interface LiveRun {
  readonly run: ProcedureRun;
  readonly state: RunState;
  /** Entries that are kept and have no effect, with the reason. */
  readonly astray: readonly Astray[];
  /** How many entries are kept on this device and not yet on the server. */
  readonly waiting: number;
  /** How many are on their way into this device's store, and how many it could not take. */
  readonly saving: number;
  readonly unsaved: number;
  /** Whose entries wait here for them to sign in, when somebody else has. */
  readonly heldFor: string | undefined;
  /** What the server did not take, and why. */
  readonly refused: readonly Held[];
  /** Something is on its way through the engine. */
  readonly busy: boolean;
  /** Adds an entry; tells why it cannot be, or nothing. */
  readonly add: (body: AskedBody) => Promise<string | undefined>;
  /** The pipes in which liquid will move when the step in hand is done. */
  readonly movedNext: () => Promise<ReadonlySet<string>>;
}

const LOADING = "The run is still loading.";
const NOTHING_MOVES: ReadonlySet<string> = new Set();

type Person = RunEvent["by"];
type AnyEngine = Remote<RunEngine> | RunEngine;
type Entering = RunEntered | Promise<RunEntered>;

/** Does it unless another tab of this device is doing it. */
const inOneTab = async (name: string, work: () => Promise<unknown>): Promise<void> => {
  const { locks } = navigator as { locks?: LockManager };
  if (!locks) return void (await work());
  await locks.request(name, { ifAvailable: true }, async (lock) => {
    if (lock) await work();
  });
};

const withEvents = (state: RunState, events: readonly RunEvent[]): RunState =>
  events.reduce((so, event) => {
    const applied = applyEvent(so, event);
    return applied.ok ? applied.state : so;
  }, state);

interface Folded {
  readonly network: Network;
  readonly ids: readonly string[];
  readonly state: RunState;
  readonly astray: readonly Astray[];
}

/** A run folded on: where the entries only go on from what was folded last, only the new ones are. */
const foldOn = (
  before: Folded | undefined,
  run: ProcedureRun,
  network: Network,
  events: readonly RunEvent[],
): Folded => {
  const ids = events.map((e) => e.id);
  if (
    before &&
    before.network === network &&
    before.ids.length <= ids.length &&
    before.ids.every((id, i) => id === ids[i])
  ) {
    let { state } = before;
    const astray = [...before.astray];
    for (const event of events.slice(before.ids.length)) {
      const applied = applyEvent(state, event);
      if (applied.ok) state = applied.state;
      else astray.push({ entry: event, code: applied.code, problem: applied.problem });
    }
    return { network, ids, state, astray };
  }
  const replayed = replayRun({
    network,
    setup: run.setup,
    begins: run.begins ?? undefined,
    events,
    unread: run.unread,
  });
  return replayed.whole
    ? { network, ids, state: replayed.state, astray: [] }
    : { network, ids, state: replayed.stateWithout, astray: replayed.astray };
};

const asEvent = (e: Held): RunEvent[] =>
  e.kind === "run-event"
    ? [{ ...e.body, by: { id: e.personId, name: e.personName, role: e.role ?? "" } }]
    : [];

/**
 * A run on this device: the server's entries and this device's own, folded. Whatever is entered is put aside on the device first, with the
 * plan that it calls for and what the engine says; the shell sends it, on whatever screen. Without a signal the work goes on.
 */
export const useRun = (runId: string): { live: LiveRun | undefined; error: unknown } => {
  const { data: me } = useMeQuery();
  const { data: run, error } = useRunQuery(runId);
  const held = useHeld();
  const last = useRef<Folded>(undefined);
  const now = useRef<RunState>(undefined);

  const network = useMemo(() => {
    const map = run && readWaterMap(run.map);
    return map?.ok ? buildNetwork(map.map) : undefined;
    // The map of a run is that of its revision and does not change with its entries.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [run?.id]);

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

  const own = useMemo(
    () => held.filter((e) => e.kind === "run-event" && e.runId === runId),
    [held, runId],
  );
  const folded = useMemo(() => {
    if (!run || !network) return undefined;
    const kept = new Set(run.events.map((e) => e.id));
    // What an earlier version put aside is made whole by the server; until then it only waits.
    const mine = own
      .filter((e) => !kept.has(e.id) && e.refused === undefined && e.form !== 1)
      .flatMap(asEvent);
    return foldOn(last.current, run, network, [...run.events, ...mine]);
  }, [run, network, own]);

  // What has just been entered may not be in what was folded last: it is the other way round only while it is on its way.
  useLayoutEffect(() => {
    last.current = folded;
    now.current = folded?.state;
  }, [folded]);

  // What the run has is shown by the run, and no longer by the outbox.
  useEffect(() => {
    const kept = new Set(run?.events.map((e) => e.id));
    const over = own.filter((e) => e.sentAt !== undefined && kept.has(e.id)).map((e) => e.id);
    if (over.length > 0) forgetSent(over);
  }, [run, own]);

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
      if (engineSpeaks(body)) return withEngine((engine, news, by) => engine.enter(news, body, by));
      return inLine.current === 0
        ? Promise.resolve(addPlain(body))
        : afterOthers(async () => addPlain(body));
    },
    [withEngine, addPlain, afterOthers],
  );

  const movedNext = useCallback(async (): Promise<ReadonlySet<string>> => {
    if (!base) return NOTHING_MOVES;
    return new Set(
      await askEngine(runId, base, stateNow, (engine, news) => engine.movedNext(news)),
    );
  }, [runId, base, stateNow]);

  // What calls for a plan is safe here before it is planned; where the plan never came, whoever opens the run makes it. Of several tabs one
  // does.
  const planless = folded?.state.phase === "to-plan" ? folded.state.planAfter : undefined;
  const asked = useRef<string>(undefined);
  useEffect(() => {
    if (
      planless === undefined ||
      asked.current === planless ||
      !me ||
      own.some((e) => e.sentAt === undefined && e.saving)
    )
      return;
    asked.current = planless;
    void inOneTab(`plan ${planless}`, () =>
      withEngine((engine, news, by) => engine.plan(news, by)),
    );
  }, [planless, me, withEngine, own]);

  if (!run || !folded) return { live: undefined, error };
  const waiting = own.filter((e) => e.sentAt === undefined && e.refused === undefined);
  const others = waiting.find((e) => e.personId !== me?.person.id);
  return {
    live: {
      run,
      state: folded.state,
      astray: folded.astray,
      waiting: waiting.length,
      saving: own.filter((e) => e.saving).length,
      unsaved: own.filter((e) => e.unsaved).length,
      heldFor: others?.personName,
      refused: own.filter((e) => e.refused !== undefined && e.personId === me?.person.id),
      busy,
      add,
      movedNext,
    },
    error,
  };
};
