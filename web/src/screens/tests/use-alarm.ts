import type { HoldVerdict, PressureTest } from "@uppershed/core/hold";
import { useEffect, useRef } from "react";

/** Says once that a hold has run its time, or that it leaks: by a notice that a locked tablet shows too, where it was allowed. */
export const useAlarm = (test: PressureTest, verdict: HoldVerdict | undefined): void => {
  const told = useRef("");
  const isOver = (verdict?.figures.seconds ?? 0) >= test.plan.holdS;
  const what = test.ended
    ? ""
    : verdict?.verdict === "leaking"
      ? "It leaks"
      : isOver
        ? "The hold has run its time"
        : "";
  useEffect(() => {
    if (!("Notification" in window) || Notification.permission !== "default" || test.ended) return;
    void Notification.requestPermission().catch(() => undefined);
  }, [test.ended]);
  useEffect(() => {
    if (what === "" || told.current === what) return;
    told.current = what;
    navigator.vibrate?.([300, 150, 300]);
    if (!("Notification" in window) || Notification.permission !== "granted") return;
    const options = { body: test.plan.title, tag: `test ${test.begunAt}` };
    void navigator.serviceWorker
      ?.getRegistration()
      .then((there) => there?.showNotification(what, options))
      .catch(() => undefined);
  }, [what, test.plan.title, test.begunAt]);
};
