import type { NewEntry } from "./entry.ts";

/**
 * What was still on its way into this device's store when its page was closed: noted there and then in the one store that is written at
 * once, and taken into the outbox at the next start. Bytes of pictures do not fit there; the page asks before it is closed on them.
 */

const KEY = "upper-shed-late";

/** What was noted, in the order in which it was made. */
export const lateEntries = (): NewEntry[] => {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "[]") as NewEntry[];
  } catch {
    return [];
  }
};

const keep = (entries: readonly NewEntry[]): void => {
  try {
    if (entries.length === 0) localStorage.removeItem(KEY);
    else localStorage.setItem(KEY, JSON.stringify(entries));
  } catch {
    // This device keeps nothing at all: the page has asked before it was closed.
  }
};

export const noteLate = (entries: readonly NewEntry[]): void => {
  const noted = lateEntries();
  const more = entries.filter((e) => e.bytes === undefined && !noted.some((n) => n.id === e.id));
  if (more.length > 0) keep([...noted, ...more]);
};

/** The outbox has them. */
export const forgetLate = (entries: readonly NewEntry[]): void => {
  const ids = new Set(entries.map((e) => e.id));
  keep(lateEntries().filter((e) => !ids.has(e.id)));
};
