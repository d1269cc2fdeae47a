import { type EventOutcome, type ProcedureRun, sentEventsSchema } from "@uppershed/contract";
import {
  applyEvent,
  buildNetwork,
  fillIn,
  readWaterMap,
  replayRun,
  type RunEvent,
  type RunEventBody,
  type RunState,
} from "@uppershed/core";
import { useCallback, useEffect, useRef, useState } from "react";
import { useDispatch } from "react-redux";
import { api, useMeQuery } from "../store/api.ts";
import { putAside, rememberedRun, rememberRun, takeOut, waitingFor } from "./outbox.ts";
import { uuid } from "./uuid.ts";

export interface LiveRun {
  readonly run: ProcedureRun;
  readonly state: RunState;
  /** How many entries are kept on this device and not yet on the server. */
  readonly waiting: number;
  /** Whether the server answered last time. */
  readonly reached: boolean;
  /** Whose entries wait here for them to sign in, when somebody else has. */
  readonly heldFor: string | undefined;
  /** What the server did not take, in words. */
  readonly refused: readonly string[];
  /** Adds an entry; returns why it cannot be, or nothing. */
  readonly add: (body: RunEventBody) => string | undefined;
}

const RETRY_MS = 4000;
const BATCH = 200;

const fold = (run: ProcedureRun, waiting: readonly RunEvent[]): RunState => {
  const map = readWaterMap(run.map);
  if (!map.ok) throw new Error("The map of this run cannot be read.");
  const kept = new Set(run.events.map((e) => e.id));
  return replayRun(buildNetwork(map.map), run.setup, [...run.events, ...waiting.filter((e) => !kept.has(e.id))]).state;
};

/** The entries at the head of the queue that one person made: order is kept, names are not mixed. */
const mine = (waiting: readonly RunEvent[], personId: string): RunEvent[] => {
  const other = waiting.findIndex((e) => e.by.id !== personId);
  return waiting.slice(0, other < 0 ? BATCH : Math.min(other, BATCH));
};

/** An entry in words, so that what was not taken can be written down again by hand. */
const inWords = (body: RunEventBody): string => {
  switch (body.type) {
    case "reading":
    case "corrected":
      return `reading ${body.typed}`;
    case "note":
    case "noticed":
      return `note "${body.text}"`;
    case "step-cannot":
      return `can't be done, "${body.reason}"`;
    case "step-signed":
      return "signature of a step";
    case "row-ticked":
      return "tick of a row";
    case "as-found":
    case "as-left":
      return body.type === "as-found" ? "the lineup as found" : "the lineup as left";
    default:
      return `signature ${body.name}`;
  }
};

type Answer = EventOutcome[] | "signed out" | "no answer";

/** Sends a batch; the server's outcomes, or why there are none. */
const post = async (runId: string, events: readonly RunEvent[]): Promise<Answer> => {
  try {
    const reply = await fetch(`/api/runs/${runId}/events`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ events: events.map(({ by: _by, ...event }) => event) }),
    });
    if (reply.status === 401) return "signed out";
    const parsed = sentEventsSchema.safeParse(await reply.json());
    return parsed.success ? parsed.data.outcomes : "no answer";
  } catch {
    return "no answer";
  }
};

/**
 * A run on this device: the server's events and this device's own, folded. Entries are put aside on the device before anything else,
 * sent in order, and taken out when the server has kept them; without a signal the work goes on.
 */
export const useRun = (runId: string): { live: LiveRun | undefined; problem: string | undefined } => {
  const { data: me } = useMeQuery();
  const dispatch = useDispatch();
  const [run, setRun] = useState<ProcedureRun>();
  const [state, setState] = useState<RunState>();
  const [waiting, setWaiting] = useState(0);
  const [reached, setReached] = useState(true);
  const [refused, setRefused] = useState<string[]>([]);
  const [heldFor, setHeldFor] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const now = useRef<RunState>(undefined);
  const sending = useRef(false);

  const load = useCallback(async (): Promise<void> => {
    let fresh: ProcedureRun | undefined;
    try {
      const reply = await fetch(`/api/runs/${runId}`);
      if (reply.status === 404) return setProblem("There is no such run in this workshop.");
      if (reply.status === 401) return void dispatch(api.util.invalidateTags(["Me"]));
      if (reply.ok) {
        fresh = (await reply.json()) as ProcedureRun;
        await rememberRun(fresh);
      }
    } catch {
      setReached(false);
    }
    fresh ??= await rememberedRun(runId);
    if (!fresh) return setProblem("The server cannot be reached, and this device has not seen this run before.");
    const own = await waitingFor(runId);
    now.current = fold(fresh, own);
    setRun(fresh);
    setState(now.current);
    setWaiting(own.length);
  }, [runId, dispatch]);

  const flush = useCallback(async (): Promise<void> => {
    if (sending.current) return;
    sending.current = true;
    try {
      for (let own = await waitingFor(runId); own.length > 0; own = await waitingFor(runId)) {
        // An entry goes out under the name of whoever made it, or not at all.
        const author = own[0]?.by;
        setHeldFor(author && me && author.id !== me.person.id ? author.name : undefined);
        if (!me || author?.id !== me.person.id) break;
        const outcomes = await post(runId, mine(own, me.person.id));
        setReached(outcomes !== "no answer");
        if (outcomes === "signed out") dispatch(api.util.invalidateTags(["Me"]));
        if (typeof outcomes === "string") break;
        await takeOut(outcomes.map((o) => o.id));
        const no = outcomes.find((o) => o.outcome === "refused");
        if (no) {
          const entry = own.find((e) => e.id === no.id);
          setRefused((before) => [...before, `${entry ? inWords(entry.body) : "an entry"}: ${no.problem ?? "no reason given"}`]);
          await load();
        }
      }
      setWaiting((await waitingFor(runId)).length);
    } finally {
      sending.current = false;
    }
  }, [runId, load, me, dispatch]);

  useEffect(() => {
    // What is set is set later, when the server or this device's store has answered.
    // oxlint-disable-next-line react/set-state-in-effect
    void load().then(flush);
    const again = setInterval(() => void flush(), RETRY_MS);
    const online = (): void => void flush();
    window.addEventListener("online", online);
    return () => {
      clearInterval(again);
      window.removeEventListener("online", online);
      // Other screens show what this one has changed.
      dispatch(api.util.invalidateTags(["Runs", "Visits", "Units"]));
    };
  }, [load, flush, dispatch]);

  const add = useCallback(
    (body: RunEventBody): string | undefined => {
      const before = now.current;
      if (!before || !me) return "The run is still loading.";
      const event: RunEvent = { id: uuid(), seq: before.events.length + 1, at: new Date().toISOString(), body, by: me.person };
      const applied = applyEvent(before, event);
      if (!applied.ok) return fillIn(applied.problem, me.workshop.units);
      now.current = applied.state;
      setState(applied.state);
      setWaiting((n) => n + 1);
      void putAside(runId, event).then(flush);
      return undefined;
    },
    [me, runId, flush],
  );

  return { live: run && state ? { run, state, waiting, reached, heldFor, refused, add } : undefined, problem };
};
