import { addToTest, type PressureTest, type TestBody, testBodySchema } from "@uppershed/core/hold";
import { useCallback } from "react";
import type { z } from "zod";
import { uuid } from "../device/uuid.ts";
import { useSendLater } from "../sending/use-sender.ts";
import { useMeQuery } from "../store/api.ts";

const WORDS: Record<TestBody["type"], string> = {
  begun: "pressure test begun",
  "step-done": "step of a test",
  reading: "reading of a test",
  readings: "readings of a logger",
  "pressed-again": "pressed again",
  "logger-on": "stand-in for a logger on",
  parted: "answer of a hold",
  "pump-run": "how the pump runs",
  soaped: "look at a joint",
  "leak-at": "place of a leak",
  note: "note on a test",
  ended: "test ended",
};

interface Of {
  readonly unitId: string;
  readonly testId: string;
  readonly visitId: string | null;
  readonly mapRevision: number;
}

/** Adds an entry to a pressure test, or begins one: checked here by the same rules as on the server, put aside, sent when it can be. */
export const useTestEntry = ({ unitId, testId, visitId, mapRevision }: Of) => {
  const { data: me } = useMeQuery();
  const sendLater = useSendLater();
  return useCallback(
    (body: z.input<typeof testBodySchema>, about?: PressureTest): string | undefined => {
      const parsed = testBodySchema.safeParse(body);
      if (!parsed.success) return parsed.error.issues.map((i) => i.message).join("; ");
      const id = uuid();
      const at = new Date().toISOString();
      const next = addToTest(about, { id, at, by: me?.person.name ?? "", body: parsed.data });
      if (!next.ok) return next.problem;
      void sendLater({
        id,
        unitId,
        kind: "test",
        testId,
        url: `/units/${unitId}/tests/${testId}`,
        body: { id, at, body: parsed.data, visitId, mapRevision },
        what: `${WORDS[body.type]}: ${next.test.plan.title}`,
        at,
      });
      return undefined;
    },
    [me, sendLater, unitId, testId, visitId, mapRevision],
  );
};

export type EnterTest = ReturnType<typeof useTestEntry>;
