import { useEffect, useRef } from "react";
import { Link } from "react-router";
import { useClocksQuery } from "../store/api.ts";
import { useNow } from "../ui/use-now.ts";

const ASK_EVERY_MS = 60_000;
const LOOK_EVERY_MS = 5000;
// Longer ago than this it has been told, or nobody is there to tell.
const TELL_FOR_MS = 12 * 3_600_000;

/** A notice that a locked tablet shows too, where that was allowed. */
const notify = async (title: string, body: string, tag: string): Promise<void> => {
  navigator.vibrate?.([300, 150, 300]);
  if (!("Notification" in window) || Notification.permission !== "granted") return;
  const there = await navigator.serviceWorker?.getRegistration();
  await there?.showNotification(title, { body, tag });
};

/** Whatever screen is open: a clock that has run its time is told, once as a notice, and in the bar until somebody goes there. */
export const ClockWatch = () => {
  const { data: clocks = [] } = useClocksQuery(undefined, { pollingInterval: ASK_EVERY_MS });
  const now = useNow(LOOK_EVERY_MS);
  const told = useRef(new Set<string>());
  const over = clocks.filter((c) => {
    const ago = now - Date.parse(c.endsAt);
    return ago >= 0 && ago < TELL_FOR_MS;
  });
  const [first] = over;
  const keys = over.map((c) => `${c.runId} ${c.label}`).join("\n");
  useEffect(() => {
    if (clocks.length === 0) return;
    if ("Notification" in window && Notification.permission === "default")
      void Notification.requestPermission().catch(() => undefined);
  }, [clocks.length]);
  useEffect(() => {
    for (const c of over) {
      const key = `${c.runId} ${c.label}`;
      if (told.current.has(key)) continue;
      told.current.add(key);
      void notify(c.unitName, c.label, key).catch(() => undefined);
    }
    // Which are over is told by their keys.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [keys]);
  if (!first) return null;
  return (
    <span role="status" className="mr-1 inline-flex min-w-0">
      <Link
        to={`/runs/${first.runId}`}
        className="inline-flex min-h-11 max-w-40 items-center rounded bg-rust px-2.5 text-[14px] font-semibold text-on-rust sm:max-w-64"
      >
        <span className="truncate">
          {first.unitName}: {first.label.toLowerCase()}
          {over.length > 1 && `, and ${over.length - 1} more`}
        </span>
      </Link>
    </span>
  );
};
