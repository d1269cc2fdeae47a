import type { Step } from "@uppershed/core/procedure";
import { useEffect, useRef } from "react";
import type { LiveRun } from "../../run/use-run.ts";

/**
 * Signs the step in hand, after whatever is still on its way: a press is never lost. Pressed again before it is signed it is signed once.
 */
export const useSigning = (
  step: Step | undefined,
  add: LiveRun["add"],
  tell: (problem: string | undefined) => void,
): (() => void) => {
  const signing = useRef<string>(undefined);
  useEffect(() => {
    signing.current = undefined;
  }, [step?.id]);
  return () => {
    if (!step || signing.current === step.id) return;
    signing.current = step.id;
    void add({ type: "step-signed", stepId: step.id }).then((problem) => {
      // Refused, it can be tried again.
      if (problem !== undefined) signing.current = undefined;
      tell(problem);
    });
  };
};
