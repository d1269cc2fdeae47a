import "fake-indexeddb/auto";
import { afterEach, describe, expect, it, vi } from "vitest";
import { dropErrand, loadErrands, type NewErrand, putErrand, sendErrands, tryAgain } from "./errands.ts";

const ME = "me";
const errand = (id: string, more: Partial<NewErrand> = {}): NewErrand => ({
  id,
  personId: ME,
  personName: "R. Amadi",
  unitId: "u",
  kind: "looks",
  url: `/x/${id}`,
  body: { id },
  what: id,
  at: "2026-10-14T09:00:00.000Z",
  ...more,
});
/** A server that answers each address as told; what it was sent, in order. */
const serve = (answers: Readonly<Record<string, number | "down">>): string[] => {
  const seen: string[] = [];
  vi.stubGlobal("fetch", async (url: string) => {
    const answer = answers[url.split("/").at(-1) ?? ""] ?? 201;
    if (answer === "down") throw new TypeError("no network");
    seen.push(url);
    return Response.json({ error: { message: "That cannot be." } }, { status: answer });
  });
  return seen;
};
const waiting = async (): Promise<string[]> => (await loadErrands()).map((e) => (e.refused ? `${e.id}: ${e.refused}` : e.id));

afterEach(async () => {
  vi.unstubAllGlobals();
  for (const e of await loadErrands()) await dropErrand(e.id);
});

describe("what waits on the device", () => {
  it("goes out in the order in which it was made, each once", async () => {
    for (const id of ["a", "b", "c"]) await putErrand(errand(id));
    const seen = serve({});
    const [sent] = await Promise.all([sendErrands(ME), sendErrands(ME)]);
    expect(sent).toMatchObject({ reached: true, signedOut: false });
    expect(seen).toEqual(["/api/x/a", "/api/x/b", "/api/x/c"]);
    expect(await waiting()).toEqual([]);
  });

  it.each([
    ["is away", "down", false],
    ["is busy", 429, false],
    ["has trouble", 503, false],
    ["wants a sign-in first", 401, true],
  ] as const)("stays, in its order, where the server %s", async (_, answer, signedOut) => {
    for (const id of ["a", "b"]) await putErrand(errand(id));
    serve({ a: answer });
    expect(await sendErrands(ME)).toMatchObject({ reached: false, signedOut });
    expect(await waiting()).toEqual(["a", "b"]);
  });

  it("is kept with the reason where the server does not take it, holds nothing up, and can be sent again", async () => {
    for (const id of ["a", "b"]) await putErrand(errand(id));
    serve({ a: 422 });
    await sendErrands(ME);
    expect(await waiting()).toEqual(["a: That cannot be."]);
    const [refused] = await loadErrands();
    if (!refused) throw new Error("gone");
    await tryAgain(refused);
    serve({});
    await sendErrands(ME);
    expect(await waiting()).toEqual([]);
  });

  it("goes out under the name of whoever made it, or not at all", async () => {
    await putErrand(errand("theirs", { personId: "somebody else" }));
    await putErrand(errand("mine"));
    const seen = serve({});
    await sendErrands(ME);
    expect(seen).toEqual(["/api/x/mine"]);
    expect(await waiting()).toEqual(["theirs"]);
  });
});
