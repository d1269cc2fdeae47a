import "fake-indexeddb/auto";
import { act, renderHook } from "@testing-library/react";
import { openDB } from "idb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { emptyDevice, noteEntry, OTHER, runNote } from "../testing/device.ts";
import { ME, RUN_ID } from "../testing/house.tsx";
import { deviceDb } from "./db.ts";
import {
  dropEntry,
  forgetMemory,
  forgetSent,
  loadOutbox,
  onSentElsewhere,
  markSent,
  pendingNow,
  putEntries,
  refuseEntry,
  tryAgain,
  useHeld,
} from "./outbox.ts";
import { remember } from "./seen.ts";

const WHO = { personId: ME.person.id, workshopId: ME.workshop.id };
const texts = (): string[] => pendingNow().map((e) => e.what);
/** What stands in the device's store, not in memory. */
const stored = async (): Promise<string[]> =>
  (await (await deviceDb()).getAll("outbox"))
    .toSorted((a, b) => a.order - b.order)
    .map((e) => e.what);
const startAgain = async (): Promise<void> => {
  forgetMemory();
  await loadOutbox();
};

beforeEach(emptyDevice);
afterEach(() => {
  vi.restoreAllMocks();
});

describe("the outbox of a device", () => {
  it("shows at once what was made, says when it is safe, and has it after a new start", async () => {
    const saved = putEntries([noteEntry("one")]);
    expect(pendingNow()).toMatchObject([{ what: "note: one", saving: true }]);
    expect(await saved).toBe(true);
    expect(pendingNow()[0]).not.toHaveProperty("saving");
    await startAgain();
    expect(texts()).toEqual(["note: one"]);
  });

  it("has at the next start what was on its way into the store when its page was closed, once and in its order", async () => {
    const write = vi.spyOn(IDBDatabase.prototype, "transaction").mockImplementation(() => {
      throw new DOMException("the page is going", "InvalidStateError");
    });
    const done = Promise.all([putEntries([noteEntry("one")]), putEntries([noteEntry("two")])]);
    window.dispatchEvent(new Event("pagehide"));
    window.dispatchEvent(new Event("pagehide"));
    await done;
    write.mockRestore();
    expect(await stored()).toEqual([]);
    await startAgain();
    expect(texts()).toEqual(["note: one", "note: two"]);
    expect(await stored()).toEqual(["note: one", "note: two"]);
    await markSent(pendingNow().map((e) => e.id));
    await startAgain();
    expect(texts()).toEqual([]);
  });

  it("keeps the order in which things were made when the clock is set back, and through a new start", async () => {
    await putEntries([runNote("first", ME.person, "2026-11-02T12:00:00.000Z")]);
    await putEntries([runNote("second", ME.person, "2026-11-02T08:00:00.000Z")]);
    await startAgain();
    await putEntries([runNote("third", ME.person, "2026-11-01T23:00:00.000Z")]);
    await startAgain();
    expect(texts()).toEqual(["note “first”", "note “second”", "note “third”"]);
  });

  it("counts on after everything was sent: what is made later never gets an earlier place", async () => {
    await putEntries([noteEntry("one"), noteEntry("two")]);
    const orders = pendingNow().map((e) => e.order);
    await markSent(pendingNow().map((e) => e.id));
    await startAgain();
    await putEntries([noteEntry("three")]);
    expect(pendingNow()[0]?.order).toBeGreaterThan(Math.max(...orders));
  });

  it("puts the same thing aside once", async () => {
    const entry = noteEntry("one");
    await Promise.all([putEntries([entry]), putEntries([entry])]);
    expect(texts()).toEqual(["note: one"]);
    expect(await stored()).toEqual(["note: one"]);
  });

  it("drops what was only read before anything that was made, when the store is full", async () => {
    await remember(WHO, "/units", { units: [] });
    const db = await deviceDb();
    // Both are called on their store below.
    // oxlint-disable-next-line typescript/unbound-method
    const { put, clear } = IDBObjectStore.prototype;
    // Full, as long as anything that was only read is kept.
    vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(function (
      this: IDBObjectStore,
      ...args
    ) {
      if (this.name === "outbox" && seen > 0)
        throw new DOMException("no room", "QuotaExceededError");
      return put.apply(this, args);
    });
    let seen = await db.count("seen");
    vi.spyOn(IDBObjectStore.prototype, "clear").mockImplementation(function (this: IDBObjectStore) {
      if (this.name === "seen") seen = 0;
      return clear.apply(this);
    });
    expect(await putEntries([noteEntry("made")])).toBe(true);
    expect(await stored()).toEqual(["note: made"]);
  });

  it("never says saved when the store takes nothing; the entry stands in the page, after what is stored", async () => {
    await putEntries([noteEntry("before")]);
    vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
      throw new DOMException("no room", "QuotaExceededError");
    });
    expect(await putEntries([noteEntry("too much")])).toBe(false);
    expect(pendingNow()).toMatchObject([
      { what: "note: before" },
      { what: "note: too much", unsaved: true },
    ]);
    expect(await stored()).toEqual(["note: before"]);
    // It can be sent from here, and goes.
    await markSent([pendingNow()[1]?.id ?? ""]);
    expect(texts()).toEqual(["note: before"]);
  });

  it("what found no room goes into the store as soon as there is some, before what was made after it", async () => {
    const full = vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
      throw new DOMException("no room", "QuotaExceededError");
    });
    await putEntries([runNote("first")]);
    await putEntries([runNote("second")]);
    full.mockRestore();
    expect(await putEntries([runNote("third")])).toBe(true);
    expect(pendingNow().some((e) => e.unsaved)).toBe(false);
    expect(await stored()).toEqual(["note “first”", "note “second”", "note “third”"]);
    await startAgain();
    expect(texts()).toEqual(["note “first”", "note “second”", "note “third”"]);
  });

  it("a picture that finds no room keeps nothing else out of the store", async () => {
    // Called on its store below.
    // oxlint-disable-next-line typescript/unbound-method
    const { put } = IDBObjectStore.prototype;
    vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(function (
      this: IDBObjectStore,
      ...args
    ) {
      if ((args[0] as { bytes?: ArrayBuffer }).bytes)
        throw new DOMException("no room", "QuotaExceededError");
      return put.apply(this, args);
    });
    expect(await putEntries([{ ...noteEntry("picture"), bytes: new ArrayBuffer(8) }])).toBe(false);
    expect(await putEntries([runNote("step")])).toBe(true);
    expect(await stored()).toEqual(["note “step”"]);
    expect(pendingNow().filter((e) => e.unsaved)).toMatchObject([{ what: "note: picture" }]);
  });

  it("what is made while something is on its way into the store goes in after it, and each hears of its own", async () => {
    const all = await Promise.all(["a", "b", "c", "d"].map((text) => putEntries([runNote(text)])));
    expect(all).toEqual([true, true, true, true]);
    expect(await stored()).toEqual(["note “a”", "note “b”", "note “c”", "note “d”"]);
    expect(pendingNow().some((e) => e.saving)).toBe(false);
  });

  it("keeps what was refused with its reason through a new start, until somebody decides", async () => {
    const entry = noteEntry("too long");
    await putEntries([entry]);
    await refuseEntry(entry.id, { why: "A note has 2,000 letters at most." });
    await startAgain();
    expect(pendingNow()).toMatchObject([{ refused: { why: "A note has 2,000 letters at most." } }]);
    await tryAgain(entry.id);
    expect(pendingNow()[0]?.refused).toBeUndefined();
    await dropEntry(entry.id);
    await startAgain();
    expect(pendingNow()).toEqual([]);
  });

  it("shows a run's entry until the run itself does, however far the device's clock jumps; other things go by the clock", async () => {
    const { result } = renderHook(() => useHeld());
    const entry = runNote("signed");
    await act(async () => void (await putEntries([entry, noteEntry("one")])));
    await act(async () => markSent(pendingNow().map((e) => e.id)));
    vi.setSystemTime(Date.now() + 5 * 3_600_000);
    act(() => forgetSent({ olderThanMs: 15_000 }));
    expect(result.current.map((e) => e.id)).toEqual([entry.id]);
    act(() => forgetSent([entry.id]));
    expect(result.current).toEqual([]);
    vi.useRealTimers();
  });

  it("hears from another tab what it sent and what it put aside", async () => {
    const [mine, theirs] = [noteEntry("mine"), noteEntry("theirs")];
    await putEntries([mine]);
    // The other tab works on the same store.
    const db = await deviceDb();
    await db.delete("outbox", mine.id);
    await db.put("outbox", { ...theirs, order: 7 });
    const other = new BroadcastChannel("upper-shed-outbox");
    // oxlint-disable-next-line unicorn/require-post-message-target-origin
    other.postMessage("changed");
    await vi.waitFor(() => expect(texts()).toEqual(["note: theirs"]));
    other.close();
  });

  it("hears of what another tab put aside and sent between two looks at the store, and of what it saw go only once", async () => {
    await loadOutbox();
    const heard: string[][] = [];
    const leave = onSentElsewhere((entries) =>
      heard.push(entries.map((e) => `${e.kind} ${e.runId ?? ""} ${e.id}`)),
    );
    const other = new BroadcastChannel("upper-shed-outbox");
    // oxlint-disable-next-line unicorn/require-post-message-target-origin
    const say = (data: unknown): void => other.postMessage(data);
    const never = noteEntry("never seen");
    say({ sent: [{ id: never.id, kind: "run-event", runId: RUN_ID }] });
    await vi.waitFor(() => expect(heard).toEqual([[`run-event ${RUN_ID} ${never.id}`]]));
    const seen = noteEntry("seen");
    await putEntries([seen]);
    await (await deviceDb()).delete("outbox", seen.id);
    say({ sent: [{ id: seen.id, kind: "note" }] });
    await vi.waitFor(() => expect(heard).toHaveLength(2));
    say("changed");
    await vi.waitFor(() => expect(texts()).toEqual([]));
    expect(heard[1]).toEqual([`note  ${seen.id}`]);
    expect(heard).toHaveLength(2);
    leave();
    other.close();
  });
});

describe("an earlier version's store", () => {
  const OLD = "upper-shed";
  const oldStore = () =>
    openDB(OLD, 3, {
      upgrade: (db) => {
        db.createObjectStore("outbox", { keyPath: "id" });
        db.createObjectStore("errands", { keyPath: "id" });
      },
    });
  beforeEach(async () => {
    const db = await oldStore();
    await db.clear("outbox");
    await db.clear("errands");
    const { id, body } = runNote("kept by the old version", OTHER);
    await db.put("outbox", { id, runId: RUN_ID, order: 2, event: { ...body, by: OTHER } });
    const look = noteEntry("errand");
    await db.put("errands", {
      ...look,
      kind: "looks",
      url: "/units/u/looks",
      body: { looks: [] },
      what: "walk-round",
      order: 1,
    });
    db.close();
  });

  it("comes into the new one in its order, once, under who made it, as of the old form", async () => {
    await loadOutbox();
    expect(pendingNow()).toMatchObject([
      { what: "walk-round", kind: "looks", workshopId: "" },
      { kind: "run-event", form: 1, personId: OTHER.id, personName: OTHER.name, runId: RUN_ID },
    ]);
    await startAgain();
    expect(pendingNow()).toHaveLength(2);
    const db = await openDB(OLD);
    expect([await db.count("outbox"), await db.count("errands")]).toEqual([0, 0]);
    db.close();
  });

  it("is left as it is where the new store cannot take it, and comes in later", async () => {
    const full = vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
      throw new DOMException("no room", "QuotaExceededError");
    });
    await loadOutbox();
    expect(pendingNow()).toEqual([]);
    full.mockRestore();
    await startAgain();
    expect(pendingNow()).toHaveLength(2);
  });
});
