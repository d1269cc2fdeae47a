import { useCallback, useEffect, useState } from "react";
import { useDispatch } from "react-redux";
import { api, useMeQuery } from "../store/api.ts";
import type { makeStore } from "../store/index.ts";
import type { Errand } from "./db.ts";
import { forgetSent, putErrand, sendErrands, useErrands } from "./errands.ts";

const RETRY_MS = 5000;
// By then the server's own answer is on the screen.
const SHOWN_AFTER_MS = 4000;

const TAGS = {
  looks: ["Looks", "Readings"],
  finding: ["Findings", "Units", "Visits"],
  picture: ["Pictures"],
  snapshot: ["Snapshots"],
  reading: ["Readings"],
  spring: ["Spring"],
} as const satisfies Record<Errand["kind"], readonly string[]>;

/** Sends what waits on this device: at once, when the signal comes back, and again and again. Used once, by the shell. */
export const useSender = (): { reached: boolean } => {
  const { data: me } = useMeQuery();
  const dispatch = useDispatch<ReturnType<typeof makeStore>["dispatch"]>();
  const waiting = useErrands();
  const [reached, setReached] = useState(true);
  const own = waiting.filter((e) => e.refused === undefined && e.personId === me?.person.id).length;
  const flush = useCallback(async (): Promise<void> => {
    if (!me) return;
    const sent = await sendErrands(me.person.id);
    setReached(sent.reached);
    const tags = [...sent.kinds].flatMap((kind) => TAGS[kind]);
    if (tags.length > 0) {
      dispatch(api.util.invalidateTags(tags));
      setTimeout(() => forgetSent(SHOWN_AFTER_MS), SHOWN_AFTER_MS + 50);
    }
    if (sent.signedOut) dispatch(api.util.invalidateTags(["Me"]));
  }, [me, dispatch]);
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
  return { reached };
};

type Put = Omit<Errand, "order" | "refused" | "personId" | "personName">;

/** Puts a thing aside on this device; the shell sends it. */
export const useSendLater = (): ((errand: Put) => Promise<void>) => {
  const { data: me } = useMeQuery();
  return useCallback(
    async (errand) => {
      if (me) await putErrand({ ...errand, personId: me.person.id, personName: me.person.name });
    },
    [me],
  );
};
