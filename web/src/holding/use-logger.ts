import type { HoldReading, PressureTest } from "@uppershed/core/hold";
import { useEffect, useRef, useState } from "react";
import type { EnterTest } from "./use-test-entry.ts";

// What has come is put aside in pieces; what is lost with the page is asked for again from the last that was kept.
const PIECE = 40;
const EVERY_MS = 12_000;
// A server that has not heard of the test yet refuses, and a browser does not ask it again by itself.
const AGAIN_MS = 1500;

/** Listens to the stand-in for a logger, keeps what comes as entries, and shows at once what is not kept yet. */
export const useLogger = (
  unitId: string,
  testId: string,
  test: PressureTest | undefined,
  enter: EnterTest,
): readonly HoldReading[] => {
  const [fresh, setFresh] = useState<readonly HoldReading[]>([]);
  const latest = useRef({ test, enter });
  useEffect(() => {
    latest.current = { test, enter };
  });
  const on = test?.logger !== undefined && test.ended === undefined;
  const beginsAt = test?.logger?.at;
  useEffect(() => {
    if (!on || beginsAt === undefined) return undefined;
    const { test: now } = latest.current;
    const zero = Date.parse(beginsAt);
    let last =
      now?.readingsFrom && now.readings.length > 0
        ? (Date.parse(now.readingsFrom) - zero) / 1000 + (now.readings.at(-1)?.atS ?? 0)
        : -1;
    let waiting: HoldReading[] = [];
    const keep = (): void => {
      const { test: of, enter: put } = latest.current;
      if (waiting.length === 0 || !of || of.ended) return;
      const readings = waiting;
      waiting = [];
      put({ type: "readings", from: "simulated", name: "stand-in", beginsAt, readings }, of);
      setFresh([]);
    };
    const hear = (event: MessageEvent<string>): void => {
      const { readings } = JSON.parse(event.data) as { readings: HoldReading[] };
      last = readings.at(-1)?.atS ?? last;
      waiting.push(...readings);
      setFresh([...waiting]);
      if (waiting.length >= PIECE) keep();
    };
    let source: EventSource;
    let again: ReturnType<typeof setTimeout> | undefined;
    const listen = (): void => {
      source = new EventSource(
        `/api/units/${unitId}/tests/${testId}/logger?after=${Math.max(-1, last)}`,
      );
      source.addEventListener("message", hear);
      source.addEventListener("error", () => {
        if (source.readyState === EventSource.CLOSED) again = setTimeout(listen, AGAIN_MS);
      });
    };
    listen();
    const timer = setInterval(keep, EVERY_MS);
    return () => {
      source.close();
      clearTimeout(again);
      clearInterval(timer);
      keep();
    };
  }, [on, beginsAt, unitId, testId]);
  return fresh;
};
