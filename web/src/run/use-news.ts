import type { ProcedureRun } from "@uppershed/contract";
import { useEffect, useEffectEvent } from "react";
import { useDispatch } from "react-redux";
import { api } from "../store/api.ts";
import type { makeStore } from "../store/index.ts";

// Two at one unit see each other's ticks within two seconds.
const EVERY_MS = 1500;

/** Asks, while a run is open and looked at, what others have added to it, and adds it here. */
export const useNews = (run: ProcedureRun | undefined): void => {
  const dispatch = useDispatch<ReturnType<typeof makeStore>["dispatch"]>();
  const ask = useEffectEvent(async (): Promise<void> => {
    if (!run || document.visibilityState !== "visible" || !navigator.onLine) return;
    const after = run.events.length + run.unread.length;
    const { data } = await dispatch(
      api.endpoints.runNews.initiate(
        { id: run.id, after },
        { forceRefetch: true, subscribe: false },
      ),
    );
    if (!data || data.count <= after) return;
    let have = 0;
    dispatch(
      api.util.updateQueryData("run", run.id, (known) => {
        for (const event of data.events)
          if (!known.events.some((k) => k.id === event.id)) known.events.push(event as never);
        have = known.events.length + known.unread.length;
      }),
    );
    // What cannot be put together is asked for whole.
    if (have < data.count) dispatch(api.util.invalidateTags([{ type: "Run", id: run.id }]));
  });
  const open = run !== undefined && run.closedAt === null;
  useEffect(() => {
    if (!open) return undefined;
    const timer = setInterval(() => void ask(), EVERY_MS);
    return () => clearInterval(timer);
  }, [open]);
};
