import type { FrostWatch } from "@uppershed/contract";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
beforeAll(async () => {
  server = await openTestServer();
});
afterAll(() => server.close());

let count = 0;
type Person = Awaited<ReturnType<TestWorkshop["as"]>>;
const day = (ahead: number): string =>
  new Date(Date.now() + ahead * 86_400_000).toISOString().slice(0, 10);
const watch = async (by: Person): Promise<FrostWatch> =>
  (await by({ url: "/api/frost-watch" })).json();

/** A workshop whose one unit stands at a place. */
const atPlace = async () => {
  const workshop = await server.workshop(`frost${++count}`);
  const lead = await workshop.as("lead");
  const placeId = randomUUID();
  await lead({
    method: "POST",
    url: "/api/places",
    payload: { id: placeId, name: "Upper yard", kind: "yard", winterLowC: -18 },
  });
  await lead({ method: "PATCH", url: `/api/units/${workshop.unitId}`, payload: { placeId } });
  const bring = (text: string, by = lead) =>
    by({ method: "POST", url: `/api/places/${placeId}/forecast`, payload: { text } });
  return { workshop, lead, placeId, bring };
};

describe("frost watch", () => {
  it("marks the stand-in as simulated until a forecast is brought, and then goes by that", async () => {
    const { lead, placeId, bring } = await atPlace();
    const before = (await watch(lead)).places.find((p) => p.placeId === placeId);
    expect(before).toMatchObject({ name: "Upper yard", simulated: true });
    expect(before?.nights).toHaveLength(5);
    expect((await bring(`date,low C\n${day(0)},-3.5\n${day(1)},2\n`)).statusCode).toBe(200);
    expect((await watch(lead)).places.find((p) => p.placeId === placeId)).toMatchObject({
      simulated: false,
      nights: [
        { day: day(0), lowC: -3.5 },
        { day: day(1), lowC: 2 },
      ],
    });
    await bring(`date,low F\n${day(0)},14\n`);
    const again = (await watch(lead)).places.find((p) => p.placeId === placeId);
    expect(again?.nights[0]?.lowC).toBeCloseTo(-10, 4);
  });

  it("names a unit full of water with what freezes first and when, and none where no night freezes", async () => {
    const { workshop, lead, bring } = await atPlace();
    await bring(`date,low C\n${day(0)},4\n${day(1)},-6\n`);
    const { risks } = await watch(lead);
    expect(risks).toMatchObject([
      {
        unitId: workshop.unitId,
        place: "Upper yard",
        simulated: false,
        holdsToC: 0,
        night: { day: day(1), lowC: -6 },
        minutes: null,
      },
    ]);
    expect(risks[0]?.hours).toBeGreaterThan(0.2);
    expect(risks[0]?.hours).toBeLessThan(24);
    expect(risks[0]?.part).not.toBe("");
    await bring(`date,low C\n${day(1)},1\n`);
    expect((await watch(lead)).risks).toEqual([]);
  });

  it("takes nothing of a file that cannot be read, and says what is wrong in which line", async () => {
    const { lead, placeId, bring } = await atPlace();
    await bring(`date,low C\n${day(0)},-2\n`);
    const refused = await bring(`date,low C\n${day(0)},-9\n${day(1)},cold\n`);
    expect(refused.statusCode).toBe(422);
    expect(refused.body).toContain("Line 3");
    const kept = (await watch(lead)).places.find((p) => p.placeId === placeId);
    expect(kept?.nights).toEqual([{ day: day(0), lowC: -2 }]);
  });

  it("is brought by whoever books, and seen by everybody", async () => {
    const { workshop, bring } = await atPlace();
    expect((await bring(`date,low C\n${day(0)},-2\n`, await workshop.as("desk"))).statusCode).toBe(
      200,
    );
    expect((await (await workshop.as("apprentice"))({ url: "/api/frost-watch" })).statusCode).toBe(
      200,
    );
  });
});
