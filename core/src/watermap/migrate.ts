/** Numbered migrations of the map document. Step n brings version n to n + 1; a step once released never changes. */

type Raw = Record<string, unknown>;

const isObject = (data: unknown): data is Raw => typeof data === "object" && data !== null && !Array.isArray(data);

const STEPS: Readonly<Record<number, (document: Raw) => Raw>> = {
  /** 1 to 2: lineups of modes; what is assumed and what is unknown; what a port takes. All of it may be absent. */
  1: (document) => ({ ...document, version: 2, modes: {} }),
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
