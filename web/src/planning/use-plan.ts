import {
  METHOD_NAMES,
  type MethodCompared,
  type Plan,
  type RunBegins,
  type RunSetup,
} from "@uppershed/core/procedure";
import type { Explained } from "@uppershed/core/symptoms";
import { readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { useEffect, useState } from "react";
import { besideOf } from "../device/beside.ts";
import type { PlanBeside } from "./plan-beside.ts";

const beside = besideOf<PlanBeside>("plan");

/** What may be behind a complaint, worked out beside the screen. */
export const explainOnce = (
  map: WaterMap,
  asked: Parameters<PlanBeside["explain"]>[1],
): Promise<Explained> => beside.explain(map, asked);

/** Plans a map once, as it is stored; used by the bench for what to load. Undefined where it is no map. */
export const planOnce = async (
  document: unknown,
  setup: RunSetup,
  begins: RunBegins | null,
): Promise<Plan | undefined> => {
  const read = readWaterMap(document);
  return read.ok ? beside.plan(read.map, setup, begins) : undefined;
};

/**
 * The plan of a map, made in a worker; the last one stays while a new one is being made.
 * @param begins what is known of the unit; null where nothing is, undefined while that is being asked
 */
export const usePlan = (
  map: WaterMap | undefined,
  setup: RunSetup | undefined,
  begins: RunBegins | null | undefined,
): { plan: Plan | undefined; busy: boolean; problem: string | undefined } => {
  const [made, setMade] = useState<{
    map: WaterMap;
    setup: RunSetup;
    plan?: Plan | undefined;
    problem?: string;
  }>();
  useEffect(() => {
    if (!map || !setup || begins === undefined) return undefined;
    let wanted = true;
    beside
      .plan(map, setup, begins)
      .then((plan) => wanted && setMade({ map, setup, plan }))
      .catch((error: unknown) => {
        const problem = error instanceof Error ? error.message : "The plan could not be made.";
        if (wanted) setMade((before) => ({ map, setup, plan: before?.plan, problem }));
      });
    return () => {
      wanted = false;
    };
  }, [map, setup, begins]);
  return {
    plan: made?.plan,
    problem: made?.problem,
    busy: made === undefined || made.map !== map || made.setup !== setup,
  };
};

/** What it would take with the heater filled on purpose, m3; worked out once the plan itself is there. */
export const useHeaterFilled = (
  map: WaterMap | undefined,
  setup: RunSetup | undefined,
  begins: RunBegins | null | undefined,
  plan: Plan | undefined,
): number | undefined => {
  const [filled, setFilled] = useState<{ of: Plan; m3: number }>();
  useEffect(() => {
    if (!map || !setup || begins === undefined || !plan) return undefined;
    let wanted = true;
    void beside
      .heaterFilledM3(map, setup, begins)
      .then((m3) => wanted && setFilled({ of: plan, m3 }))
      // The plan itself stands; it only lacks the comparison.
      .catch(() => undefined);
    return () => {
      wanted = false;
    };
    // The plan is new whenever what it is made from is.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [plan]);
  return filled?.of === plan ? filled?.m3 : undefined;
};

const NONE: readonly never[] = [];

/** Every method on this unit, one after another as each is worked out; nothing while it is not wanted. */
export const useMethods = (
  map: WaterMap | undefined,
  setup: RunSetup | undefined,
  begins: RunBegins | null | undefined,
  wanted: boolean,
): { readonly all: readonly MethodCompared[]; readonly problem: string | undefined } => {
  // The method that is chosen changes nothing in what each of them comes to.
  const asked = setup && JSON.stringify({ ...setup, method: undefined, rules: undefined });
  const [made, setMade] = useState<{
    of: string;
    all: readonly MethodCompared[];
    problem?: string;
  }>();
  // That nothing is known of the unit, and that it is still being asked, are two things.
  const from = begins === undefined ? "asked" : (begins?.at ?? "nothing known");
  const key = asked && `${map?.id} ${from} ${asked}`;
  useEffect(() => {
    if (!map || !setup || begins === undefined || !wanted || key === undefined) return undefined;
    let going = true;
    const run = async (): Promise<void> => {
      const all: MethodCompared[] = [];
      for (const method of METHOD_NAMES) {
        if (!going) return;
        all.push(await beside.compare(map, setup, begins, method));
        if (going) setMade({ of: key, all: [...all] });
      }
    };
    run().catch((error: unknown) => {
      const problem = error instanceof Error ? error.message : "They could not be worked out.";
      if (going) setMade((so) => ({ of: key, all: so?.of === key ? so.all : [], problem }));
    });
    return () => {
      going = false;
    };
    // What each comes to hangs on the key alone.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [key, map, wanted]);
  const now = made?.of === key ? made : undefined;
  return { all: now?.all ?? NONE, problem: now?.problem };
};
