import type { MapRevision, ProcedureRun, Unit } from "@uppershed/contract";
import { replayRun, standardSetup } from "@uppershed/core/procedure";
import { PATTERNS, starterMap } from "@uppershed/core/patterns";
import { buildNetwork, readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { RunDevice } from "@uppershed/core/testing";
import { expect, type Page } from "@playwright/test";
import { randomUUID } from "node:crypto";
import type { Server } from "./server.ts";

/** Work on a run by the server's own door, as a device at the unit would do it, without two hundred clicks. */

export const get = async <T>(page: Page, { url }: Server, path: string): Promise<T> =>
  (await (await page.request.get(`${url}/api${path}`)).json()) as T;

export const post = async (
  page: Page,
  { url }: Server,
  path: string,
  data: object,
): Promise<void> => {
  const reply = await page.request.post(`${url}/api${path}`, { data });
  expect(reply.ok(), `${path}: ${await reply.text()}`).toBe(true);
};

const networkOf = (document: unknown) => {
  const read = readWaterMap(document);
  if (!read.ok) throw new Error("the map is not sound");
  return buildNetwork(read.map);
};

const send = (page: Page, server: Server, runId: string, device: RunDevice): Promise<void> =>
  post(page, server, `/runs/${runId}/events`, {
    form: 2,
    events: device.events.map(({ by: _by, ...event }) => event),
  });

/** A unit that has just been drawn from a family's starting map. */
export const fromFamily = async (
  page: Page,
  server: Server,
  family: string,
  name: string,
  asSeen: (map: WaterMap) => WaterMap = (map) => map,
): Promise<string> => {
  const pattern = PATTERNS.find((p) => p.id === family);
  if (!pattern) throw new Error(`no family ${family}`);
  const id = randomUUID();
  await post(page, server, "/units", {
    id,
    name,
    craft: pattern.craft,
    owner: "J. Tallow",
    document: { ...asSeen(starterMap(pattern)), id: "drawn", name },
  });
  return id;
};

/** Does what is left of the steps of a run, until how it is left is asked. */
export const finishSteps = async (page: Page, server: Server, runId: string): Promise<void> => {
  // The plan is made on the device, and sent like everything else.
  const planned = async (): Promise<boolean> =>
    (await get<ProcedureRun>(page, server, `/runs/${runId}`)).events.some(
      (e) => e.body.type === "planned",
    );
  await expect.poll(planned).toBe(true);
  const run = await get<ProcedureRun>(page, server, `/runs/${runId}`);
  const network = networkOf(run.map);
  const replayed = replayRun({
    network,
    setup: run.setup,
    begins: run.begins ?? undefined,
    events: run.events,
    unread: run.unread,
  });
  if (!replayed.whole) throw new Error("the run is not whole");
  const device = new RunDevice(network, run.setup);
  device.state = replayed.state;
  const ticked = new Set(device.state.ticked);
  expect(ticked.size, "a step is begun by hand or here, not by both").toBe(0);
  device.doUntil(() => false);
  await send(page, server, runId, device);
};

/** Winterizes a unit from its first to its last entry. */
export const winterize = async (
  page: Page,
  server: Server,
  name: string,
): Promise<{ unitId: string; runId: string }> => {
  const unit = (await get<{ units: Unit[] }>(page, server, `/units?find=${name}`)).units[0];
  if (!unit) throw new Error(`no ${name}`);
  const { document, revision } = await get<MapRevision>(page, server, `/units/${unit.id}/map`);
  const [runId, setup] = [randomUUID(), standardSetup()];
  await post(page, server, "/runs", {
    id: runId,
    unitId: unit.id,
    visitId: null,
    mapRevision: revision,
    setup,
  });
  const device = new RunDevice(networkOf(document), setup);
  device.do({ type: "as-found", lineup: {} });
  device.doUntil(() => false);
  device.do({
    type: "as-left",
    lineup: {},
    tagged: device.looseEnds().map((id) => ({ id, tag: "red tag" })),
  });
  device.do({ type: "closed", name: "R. Amadi" });
  await send(page, server, runId, device);
  return { unitId: unit.id, runId };
};
