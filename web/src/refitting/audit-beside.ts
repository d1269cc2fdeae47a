import {
  comparedBy,
  type MethodCompared,
  type Method,
  planWinterize,
  type RunSetup,
} from "@uppershed/core/procedure";
import { type Audit, auditMap, type AuditSettings } from "@uppershed/core/refit";
import type { WaterMap } from "@uppershed/core/watermap";
import { requestFor } from "../planning/request.ts";

/** A map judged beside the screen: its winterizings one at a time, all else at once. */
export const beside = {
  /** The same as the comparison of methods on the plan's own screen says. */
  method: (map: WaterMap, setup: RunSetup, method: Method): MethodCompared => {
    const request = { ...requestFor(map, setup, null), method };
    return comparedBy(request.network, planWinterize(request));
  },
  audit: (
    map: WaterMap,
    settings: Omit<AuditSettings, "winter">,
    methods: readonly MethodCompared[],
  ): Audit => auditMap(map, { ...settings, winter: {} }, methods),
};

export type AuditBeside = typeof beside;
