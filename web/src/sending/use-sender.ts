import { useCallback, useEffect, useState } from "react";
import { useDispatch } from "react-redux";
import { api, useMeQuery } from "../store/api.ts";
import type { makeStore } from "../store/index.ts";
import type { NewEntry, OutboxKind } from "../device/entry.ts";
import { forgetSent, onSentElsewhere, putEntries, usePending } from "../device/outbox.ts";
import { sendOutbox } from "../device/sender.ts";

const RETRY_MS = 5000;
// By then the server's own answer is on the screen.
const SHOWN_AFTER_MS = 15_000;

const TAGS = {
  "run-event": ["Runs", "Units", "Visits", "Findings", "Readings"],
  looks: ["Looks", "Readings"],
  finding: ["Findings", "Units", "Visits"],
  picture: ["Pictures"],
  snapshot: ["Snapshots", "Units"],
  reading: ["Readings"],
  spring: ["Spring"],
  "in-use": ["Units", "Runs"],
  note: ["Notes"],
  test: ["Tests", "Units", "Visits"],
} as const satisfies Record<OutboxKind, readonly string[]>;

type Dispatch = ReturnType<typeof makeStore>["dispatch"];

/** Sends what waits on this device: at once, when the signal comes back, and again and again. Used once, by the shell, on every screen. */
export const useSender = (): { reached: boolean } => {
  const { data: me } = useMeQuery();
  const dispatch = useDispatch<Dispatch>();
  const pending = usePending();
  const [reached, setReached] = useState(true);
  const personId = me?.person.id;
  const workshopId = me?.workshop.id;
  const own = pending.filter(
    (e) => e.refused === undefined && e.personId === personId && !e.saving,
  ).length;

  const flush = useCallback(async (): Promise<void> => {
    if (personId === undefined || workshopId === undefined) return;
    const sent = await sendOutbox({ personId, workshopId });
    setReached(sent.reached || sent.signedOut);
    for (const [runId, { entries, count }] of sent.runs) {
      let have = 0;
      // What the server has taken belongs to the run now; nothing is fetched again unless somebody else has added to it.
      dispatch(
        api.util.updateQueryData("run", runId, (run) => {
          for (const e of entries)
            if (
              e.kind === "run-event" &&
              e.form !== 1 &&
              me &&
              !run.events.some((k) => k.id === e.id)
            )
              (run.events as unknown[]).push({ ...e.body, by: me.person });
          have = run.events.length + run.unread.length;
        }),
      );
      if (count !== undefined && have !== count)
        dispatch(api.util.invalidateTags([{ type: "Run", id: runId }]));
    }
    const tags = [...sent.kinds].flatMap((kind) => TAGS[kind]);
    if (tags.length > 0) dispatch(api.util.invalidateTags(tags));
    if (tags.length > 0)
      setTimeout(() => forgetSent({ olderThanMs: SHOWN_AFTER_MS }), SHOWN_AFTER_MS + 50);
    if (sent.signedOut) dispatch(api.util.invalidateTags(["Me"]));
  }, [personId, workshopId, me, dispatch]);

  useEffect(() => {
    if (own === 0) return undefined;
    // What is set is set when the server has answered.
    // oxlint-disable-next-line react/set-state-in-effect
    void flush();
    const again = setInterval(() => void flush(), RETRY_MS);
    const online = (): void => void flush();
    window.addEventListener("online", online);
    return () => {
      clearInterval(again);
      window.removeEventListener("online", online);
    };
  }, [flush, own]);

  useEffect(
    () =>
      onSentElsewhere((entries) => {
        const runs = [...new Set(entries.flatMap((e) => e.runId ?? []))].map((id) => ({
          type: "Run" as const,
          id,
        }));
        dispatch(api.util.invalidateTags([...entries.flatMap((e) => TAGS[e.kind]), ...runs]));
        setTimeout(() => forgetSent({ olderThanMs: SHOWN_AFTER_MS }), SHOWN_AFTER_MS + 50);
      }),
    [dispatch],
  );
  return { reached };
};

type WithoutPerson<E> = E extends NewEntry
  ? Omit<E, "workshopId" | "personId" | "personName">
  : never;

/** Puts a thing aside on this device; the shell sends it. Tells whether it is safe here. */
export const useSendLater = (): ((entry: WithoutPerson<NewEntry>) => Promise<boolean>) => {
  const { data: me } = useMeQuery();
  return useCallback(
    async (entry) =>
      me
        ? putEntries([
            {
              ...entry,
              workshopId: me.workshop.id,
              personId: me.person.id,
              personName: me.person.name,
            },
          ])
        : false,
    [me],
  );
};
