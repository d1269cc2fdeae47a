/** What takes the water's place. */
export const METHODS = [
  { method: "antifreeze", label: "Drain, then antifreeze" },
  { method: "air-antifreeze", label: "Air, then antifreeze" },
  { method: "air", label: "Air alone" },
  { method: "suction", label: "Suction first, then antifreeze" },
  { method: "dry", label: "Drain only, stay dry" },
] as const;

export type Method = (typeof METHODS)[number]["method"];

export const METHOD_NAMES = METHODS.map((m) => m.method);

export const methodLabel = (method: Method): string =>
  METHODS.find((m) => m.method === method)?.label ?? method;

/** Whether air is let in. */
export const usesAir = (method: Method): boolean => method === "air" || method === "air-antifreeze";

/** Whether product is drawn into the lines. */
export const usesProduct = (method: Method): boolean => method !== "air" && method !== "dry";

/** Whether a vessel without a drain is sucked out. */
export const usesSuction = (method: Method): boolean => method !== "antifreeze";

/** What the house rule of it calls a method. */
export const ruleOfMethod = (method: Method): string =>
  Object.entries(METHOD_BY_RULE).find(([, m]) => m === method)?.[0] ?? method;

/** A method by what the house rule of it says. */
export const METHOD_BY_RULE: Readonly<Record<string, Method>> = {
  "drain-antifreeze": "antifreeze",
  "air-antifreeze": "air-antifreeze",
  air: "air",
  "suction-first": "suction",
  dry: "dry",
};
