/** Numbered migrations of the map document. Step n brings version n to n + 1; a step once released never changes. */

type Raw = Record<string, unknown>;

const isObject = (data: unknown): data is Raw =>
  typeof data === "object" && data !== null && !Array.isArray(data);

// What the only cell of each kind was called when documents of version 2 named it by the part alone.
const ONLY_CELL: Readonly<Record<string, string>> = {
  "ball-valve": "ball",
  "check-valve": "body",
  "diaphragm-pump": "head",
  "fresh-tank": "tank",
  "gravity-fill": "throat",
  "low-point-drain": "stub",
  overboard: "fitting",
  "pressure-regulator": "body",
  "pressurised-inlet": "stub",
  "selector-valve": "body",
  "single-tap": "body",
  "storage-heater": "vessel",
  strainer: "bowl",
  "tank-drain": "stub",
  tee: "body",
  trap: "seal",
  "waste-tank": "tank",
  "winterizing-pickup": "hose",
  accumulator: "water side",
  adapter: "body",
  bulkhead: "body",
  coupling: "body",
  "drain-plug": "stub",
  elbow: "body",
  "end-plug": "body",
  "filter-housing": "bowl",
  "gate-valve": "groove",
  "ice-maker": "valve",
  "manual-pump": "head",
  "mixing-valve": "body",
  "motor-gate-valve": "groove",
  "plug-valve": "plug",
  "point-of-use-heater": "vessel",
  "pump-out-fitting": "fitting",
  softener: "column",
  spray: "body",
  "supply-post": "riser",
  "tank-flush-inlet": "stub",
  "unknown-part": "inside",
  "vacuum-breaker": "body",
  "vent-filter": "carbon",
  "wash-down": "body",
  "waste-outlet": "outlet",
  "waste-vent": "pipe",
};

/** The cell of version 3 that a key of version 2's contents meant. */
const cellKey = (document: Raw, key: string): string => {
  const parts = Array.isArray(document["parts"]) ? document["parts"].filter(isObject) : [];
  const kind = parts.find((part) => part["id"] === key)?.["kind"];
  const name =
    typeof kind === "string" && Object.hasOwn(ONLY_CELL, kind) ? ONLY_CELL[kind] : undefined;
  return name === undefined ? key : `${key}:${name}`;
};

const STEPS: Readonly<Record<number, (document: Raw) => Raw>> = {
  /** 1 to 2: lineups of modes; what is assumed and what is unknown; what a port takes. All of it may be absent. */
  1: (document) => ({ ...document, version: 2, modes: {} }),
  /** 2 to 3: a cell is named by its part and its own name always, also where the part has but one. */
  2: (document) => ({
    ...document,
    version: 3,
    ...(isObject(document["contents"])
      ? {
          contents: Object.fromEntries(
            Object.entries(document["contents"]).map(([key, held]) => [
              cellKey(document, key),
              held,
            ]),
          ),
        }
      : {}),
  }),
};

/**
 * Brings a document of an older version to the newest, one numbered step at a time.
 * Anything that is not an older document comes back as it was: the schema then says what is wrong with it.
 */
export const migrate = (data: unknown): unknown => {
  let document = data;
  for (let steps = 0; steps < 100; steps++) {
    if (!isObject(document) || typeof document["version"] !== "number") return document;
    const step = Object.hasOwn(STEPS, document["version"]) ? STEPS[document["version"]] : undefined;
    if (!step) return document;
    document = step(document);
  }
  return document;
};
