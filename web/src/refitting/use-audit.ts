import { METHOD_NAMES, type MethodCompared, type RunSetup } from "@uppershed/core/procedure";
import type { Audit, AuditSettings } from "@uppershed/core/refit";
import type { WaterMap } from "@uppershed/core/watermap";
import { useEffect, useState } from "react";
import { type Beside, besideOf } from "../device/beside.ts";
import type { AuditBeside } from "./audit-beside.ts";

type Side = "before" | "after";
// One for each side: both are worked out at once.
const beside: Readonly<Record<Side, Beside<AuditBeside>>> = {
  before: besideOf<AuditBeside>("audit"),
  after: besideOf<AuditBeside>("audit"),
};

// A map never changes: what a method comes to on it is the same for as long as it is asked with the same setup.
const known = new WeakMap<WaterMap, Map<string, Promise<MethodCompared>>>();

const methodOn = (
  side: Side,
  map: WaterMap,
  setup: RunSetup,
  method: (typeof METHOD_NAMES)[number],
): Promise<MethodCompared> => {
  const of = known.get(map) ?? new Map<string, Promise<MethodCompared>>();
  known.set(map, of);
  const key = `${method} ${JSON.stringify({ ...setup, method: undefined })}`;
  const asked = of.get(key) ?? beside[side].method(map, setup, method);
  of.set(key, asked);
  return asked;
};

export interface Judged {
  readonly audit: Audit | undefined;
  /** Methods that have been worked out so far, of all. */
  readonly done: number;
  readonly of: number;
  readonly problem: string | undefined;
}

/** The audit of a map: all but its winterizings at once, those as each is worked out. */
export const useAudit = (
  side: Side,
  map: WaterMap | undefined,
  setup: RunSetup | undefined,
  settings: Omit<AuditSettings, "winter"> | undefined,
): Judged => {
  const [state, setState] = useState<{
    readonly map: WaterMap;
    readonly audit?: Audit;
    readonly done: number;
    readonly problem?: string;
  }>();
  useEffect(() => {
    if (!map || !setup || !settings) return undefined;
    let going = true;
    const run = async (): Promise<void> => {
      const audit = await beside[side].audit(map, settings, []);
      const methods: MethodCompared[] = [];
      const show = (): void => {
        if (going)
          setState({ map, audit: { ...audit, methods: [...methods] }, done: methods.length });
      };
      show();
      for (const method of METHOD_NAMES) {
        if (!going) return;
        methods.push(await methodOn(side, map, setup, method));
        show();
      }
    };
    run().catch((error: unknown) => {
      const problem = error instanceof Error ? error.message : "It could not be worked out.";
      if (going) setState((so) => ({ map, done: 0, ...(so?.map === map ? so : {}), problem }));
    });
    return () => {
      going = false;
    };
  }, [side, map, setup, settings]);
  const now = state?.map === map ? state : undefined;
  return {
    audit: now?.audit,
    done: now?.done ?? 0,
    of: METHOD_NAMES.length,
    problem: now?.problem,
  };
};
