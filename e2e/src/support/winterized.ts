import type { MapRevision, Unit } from "@uppershed/contract";
import { buildNetwork, readWaterMap, standardSetup } from "@uppershed/core";
import { RunDevice } from "@uppershed/core/testing";
import { expect, type Page } from "@playwright/test";
import { randomUUID } from "node:crypto";
import type { Server } from "./server.ts";

/** Winterizes a unit by the server's own door, as a device at the unit would, without two hundred clicks. Returns the run's id. */
export const winterize = async (page: Page, server: Server, name: string): Promise<{ unitId: string; runId: string }> => {
  const get = async <T>(path: string): Promise<T> => (await (await page.request.get(`${server.url}/api${path}`)).json()) as T;
  const post = async (path: string, data: object): Promise<void> => {
    const reply = await page.request.post(`${server.url}/api${path}`, { data });
    expect(reply.ok(), `${path}: ${await reply.text()}`).toBe(true);
  };
  const unit = (await get<{ units: Unit[] }>(`/units?find=${name}`)).units[0];
  if (!unit) throw new Error(`no ${name}`);
  const { document, revision } = await get<MapRevision>(`/units/${unit.id}/map`);
  const read = readWaterMap(document);
  if (!read.ok) throw new Error("the map is not sound");
  const [runId, setup] = [randomUUID(), standardSetup()];
  await post("/runs", { id: runId, unitId: unit.id, visitId: null, mapRevision: revision, setup });
  const device = new RunDevice(buildNetwork(read.map), setup);
  device.do({ type: "as-found", lineup: {} });
  device.doUntil(() => false);
  device.do({ type: "as-left", lineup: {}, tagged: device.looseEnds().map((id) => ({ id, tag: "red tag" })) });
  device.do({ type: "closed", name: "R. Amadi" });
  await post(`/runs/${runId}/events`, { form: 2, events: device.events.map(({ by: _by, ...event }) => event) });
  return { unitId: unit.id, runId };
};
