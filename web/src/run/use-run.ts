import type { ProcedureRun } from "@uppershed/contract";
import {
  applyEvent,
  type Astray,
  replayRun,
  type RunEvent,
  type RunState,
} from "@uppershed/core/procedure";
import { buildNetwork, type Network, readWaterMap } from "@uppershed/core/watermap";
import { useEffect, useLayoutEffect, useMemo, useRef } from "react";
import { forgetSent, type Held, useHeld } from "../device/outbox.ts";
import { useMeQuery, useRunQuery } from "../store/api.ts";
import { type EnteringRun, useEntering } from "./use-entering.ts";

export interface LiveRun extends Pick<
  EnteringRun,
  "busy" | "add" | "addNext" | "movedNext" | "saysOfTurn"
> {
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
}

/** Does it unless another tab of this device is doing it. */
const inOneTab = async (name: string, work: () => Promise<unknown>): Promise<void> => {
  const { locks } = navigator as { locks?: LockManager };
  if (!locks) return void (await work());
  await locks.request(name, { ifAvailable: true }, async (lock) => {
    if (lock) await work();
  });
};

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

  const network = useMemo(() => {
    const map = run && readWaterMap(run.map);
    return map?.ok ? buildNetwork(map.map) : undefined;
    // The map of a run is that of its revision and does not change with its entries.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [run?.id]);

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

  useLayoutEffect(() => {
    last.current = folded;
  }, [folded]);

  // What the run has is shown by the run, and no longer by the outbox.
  useEffect(() => {
    const kept = new Set(run?.events.map((e) => e.id));
    const over = own.filter((e) => e.sentAt !== undefined && kept.has(e.id)).map((e) => e.id);
    if (over.length > 0) forgetSent(over);
  }, [run, own]);

  const { add, addNext, movedNext, saysOfTurn, withEngine, busy } = useEntering(
    run,
    network,
    folded?.state,
  );

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
      addNext,
      movedNext,
      saysOfTurn,
    },
    error,
  };
};
