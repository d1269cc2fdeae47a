import type { PointLook } from "@uppershed/contract";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("technician");
});
afterAll(() => server.close());

const look = (more: object = {}) => ({
  id: randomUUID(),
  key: "heater/anode-thickness-at-three-places",
  partId: "heater",
  pointId: "anode-thickness-at-three-places",
  point: "Anode thickness at three places",
  mark: "watch",
  readings: [0.015, 0.0142, 0.0148],
  at: "2026-11-02T09:00:00.000Z",
  ...more,
});
const keep = (...looks: object[]) =>
  me({ method: "POST", url: `/api/units/${home.unitId}/looks`, payload: { looks } });
const list = async (): Promise<PointLook[]> =>
  (await me({ url: `/api/units/${home.unitId}/looks` })).json<{ looks: PointLook[] }>().looks;

describe("looks at the points of a walk-round", () => {
  it("are kept with their own times, and the newest at each point is shown with who looked", async () => {
    const older = look();
    const newer = look({
      mark: "bad",
      at: "2026-11-03T09:00:00.000Z",
      note: "core shows at the end",
    });
    // They may arrive in any order.
    expect((await keep(newer)).statusCode).toBe(201);
    expect(
      (
        await keep(
          older,
          look({
            key: "pump/mounts-firm",
            partId: "pump",
            pointId: "mounts-firm",
            point: "Mounts firm",
            mark: "good",
          }),
        )
      ).statusCode,
    ).toBe(201);
    const found = await list();
    expect(found).toHaveLength(2);
    expect(found.find((l) => l.partId === "heater")).toMatchObject({
      id: newer.id,
      mark: "bad",
      note: "core shows at the end",
      readings: [0.015, 0.0142, 0.0148],
      by: "T. Ech",
      at: "2026-11-03T09:00:00.000Z",
    });
  });

  it("at one point are all there to be followed, newest first", async () => {
    const key = "rod/Thickness";
    await keep(
      look({ key, at: "2025-11-02T09:00:00.000Z", readings: [0.019] }),
      look({ key, at: "2026-11-02T09:00:00.000Z", readings: [0.016] }),
    );
    const reply = await me({
      url: `/api/units/${home.unitId}/looks?key=${encodeURIComponent(key)}`,
    });
    expect(reply.json<{ looks: PointLook[] }>().looks.map((l) => l.readings)).toEqual([
      [0.016],
      [0.019],
    ]);
  });

  it("sent twice are kept once", async () => {
    const once = look({ key: "tank/Vent clear", point: "Vent clear", mark: "good" });
    await keep(once);
    const again = await keep(once, once);
    expect(again.statusCode).toBe(201);
    expect((await list()).filter((l) => l.id === once.id)).toHaveLength(1);
  });

  it.each([
    ["a mark that there is not", { mark: "fine" }],
    ["no time", { at: "yesterday" }],
    ["a reading that is no number", { readings: ["thick"] }],
    ["a field that is not known", { colour: "red" }],
  ])("with %s are refused, and none of what came with them is kept", async (_, more) => {
    const before = await list();
    const good = look({ key: "other/point", point: "other" });
    expect((await keep(good, look(more))).statusCode).toBe(400);
    expect(await list()).toEqual(before);
  });

  it("of another workshop's unit are neither read nor written", async () => {
    const away = await server.workshop("away");
    expect((await me({ url: `/api/units/${away.unitId}/looks` })).statusCode).toBe(404);
    expect(
      (
        await me({
          method: "POST",
          url: `/api/units/${away.unitId}/looks`,
          payload: { looks: [look()] },
        })
      ).statusCode,
    ).toBe(404);
  });
});
