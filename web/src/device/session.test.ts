import "fake-indexeddb/auto";
import { AS_HEADER, type Me } from "@uppershed/contract";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { makeStore } from "../store/index.ts";
import { api } from "../store/api.ts";
import { emptyDevice, json, noteEntry, OTHER, problem } from "../testing/device.ts";
import { ME } from "../testing/house.tsx";
import { pendingNow, putEntries } from "./outbox.ts";
import { nowHere, remember, remembered } from "./seen.ts";
import { sendOutbox } from "./sender.ts";
import { settleSignOut, signOutHere, signOutOwed } from "./sign-out.ts";

const WHO = { personId: ME.person.id, workshopId: ME.workshop.id };
const UNITS = { units: [], found: 0, atLeast: false };

beforeEach(emptyDevice);
afterEach(() => {
  vi.unstubAllGlobals();
});

/** A server whose line can be cut; it knows who is signed in. */
const serve = () => {
  const server = { cut: false, signedIn: true, signOuts: 0, notes: 0 };
  vi.stubGlobal("fetch", (input: string | Request): Promise<Response> => {
    if (server.cut) return Promise.reject(new TypeError("no line"));
    const { pathname } = new URL(typeof input === "string" ? input : input.url, "http://127.0.0.1");
    if (pathname === "/api/sign-out") {
      server.signOuts += 1;
      server.signedIn = false;
      return Promise.resolve(json(200, { signedOut: true }));
    }
    if (!server.signedIn) return Promise.resolve(problem(401, "Sign in first.", "not-signed-in"));
    if (pathname === "/api/me") return Promise.resolve(json(200, ME));
    if (pathname === "/api/units") return Promise.resolve(json(200, UNITS));
    server.notes += 1;
    return Promise.resolve(json(201, {}));
  });
  return server;
};
const store = () => {
  const made = makeStore();
  const { dispatch } = made;
  return {
    me: () => dispatch(api.endpoints.me.initiate(undefined, { forceRefetch: true })),
    /** What the tab shows of who is here, without asking. */
    seen: () => api.endpoints.me.select()(made.getState()),
    units: () => dispatch(api.endpoints.units.initiate({}, { forceRefetch: true })),
  };
};

describe("what a device has seen", () => {
  it("is read again without a line by whoever saw it", async () => {
    const server = serve();
    const first = store();
    await first.me();
    await first.units();
    server.cut = true;
    const again = store();
    expect((await again.me()).data).toEqual(ME);
    expect((await again.units()).data).toEqual(UNITS);
  });

  it("is nobody else's: another person on the same device reads nothing of it", async () => {
    await nowHere(WHO);
    await remember(WHO, "/units?", UNITS);
    const other = {
      personId: "00000000-0000-4000-8000-000000000009",
      workshopId: "00000000-0000-4000-8000-0000000000ab",
    };
    expect(await remembered(other, "/units?")).toBeUndefined();
    await nowHere(other);
    expect(await remembered(WHO, "/units?")).toBeUndefined();
  });

  it("goes when the session ends on the server", async () => {
    const server = serve();
    const { me, units, seen } = store();
    await me();
    await units();
    server.signedIn = false;
    await units();
    // As when somebody signs out in another tab: this one shows it too.
    expect(seen().error).toMatchObject({ status: 401 });
    expect(await remembered(WHO, "/units?")).toBeUndefined();
    server.cut = true;
    expect((await store().me()).data).toBeUndefined();
  });
});

describe("a tab that stayed open while somebody else signed in in another", () => {
  it("sends nothing under the new name, keeps what was made for its maker, and shows who is here now", async () => {
    const now: Me = { ...ME, person: { ...ME.person, id: OTHER.id, name: OTHER.name } };
    let here: Me = ME;
    let notes = 0;
    vi.stubGlobal("fetch", (input: string | Request, init?: RequestInit): Promise<Response> => {
      const request =
        typeof input === "string" ? new Request(new URL(input, "http://127.0.0.1"), init) : input;
      const { pathname } = new URL(request.url);
      if (pathname === "/api/me") return Promise.resolve(json(200, here));
      const as = request.headers.get(AS_HEADER);
      if (as !== here.person.id)
        return Promise.resolve(problem(401, "Somebody else.", "somebody-else"));
      if (pathname === "/api/units") return Promise.resolve(json(200, UNITS));
      notes += 1;
      return Promise.resolve(json(201, {}));
    });
    const tab = store();
    await tab.me();
    await tab.units();
    await putEntries([noteEntry("made before")]);
    here = now;
    expect(await sendOutbox(WHO)).toMatchObject({ signedOut: true });
    expect([notes, pendingNow().map((e) => e.what)]).toEqual([0, ["note: made before"]]);
    await tab.units();
    expect(tab.seen().data?.person.name).toBe(OTHER.name);
    expect((await tab.units()).data).toEqual(UNITS);
    expect(await remembered(WHO, "/units?")).toBeUndefined();
  });
});

describe("signing out", () => {
  it("without a line holds there and then: nobody is signed in here, nothing that was seen opens", async () => {
    const server = serve();
    const { me, units } = store();
    await me();
    await units();
    server.cut = true;
    await signOutHere(WHO);
    const after = store();
    expect((await after.me()).error).toMatchObject({ status: 401 });
    expect((await after.units()).data).toBeUndefined();
    expect(server.signedIn).toBe(true);
    expect(await signOutOwed()).toEqual(WHO);
  });

  it("reaches the server as soon as it can, after what that person made has been sent", async () => {
    const server = serve();
    await putEntries([noteEntry("made before")]);
    server.cut = true;
    await signOutHere(WHO);
    expect(pendingNow()).toHaveLength(1);
    server.cut = false;
    expect((await store().me()).error).toMatchObject({ status: 401 });
    expect(server).toMatchObject({ signOuts: 1, notes: 1, signedIn: false });
    expect(pendingNow()).toEqual([]);
    expect(await signOutOwed()).toBeUndefined();
  });

  it("is told to the server once, however many screens ask", async () => {
    const server = serve();
    server.cut = true;
    await signOutHere(WHO);
    server.cut = false;
    await Promise.all([settleSignOut(), settleSignOut(), settleSignOut()]);
    expect(server.signOuts).toBe(1);
  });
});
