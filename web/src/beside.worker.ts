import { expose } from "comlink";
import type { BesideWorker, Subject } from "./device/beside.ts";

/**
 * What is worked out beside the screen. One worker for all of it but drawings, which every screen with a map waits for: each of its subjects
 * is fetched when it is first asked for, and what they share is fetched once.
 */
const SUBJECTS: Readonly<Record<Subject, () => Promise<{ readonly beside: object }>>> = {
  plan: () => import("./planning/plan-beside.ts"),
  run: () => import("./run/run-beside.ts"),
  audit: () => import("./refitting/audit-beside.ts"),
  try: () => import("./trying/try-beside.ts"),
  split: () => import("./holding/split-beside.ts"),
};

const worker: BesideWorker = {
  ask: async (subject, name, args) => {
    const { beside } = await SUBJECTS[subject]();
    // Of its object: it may keep something from one question to the next.
    return (beside as Record<string, (...given: readonly unknown[]) => unknown>)[name]?.(...args);
  },
};
expose(worker);
