import type { RegisteredPart } from "@uppershed/contract";
import { eq } from "drizzle-orm";
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, expect, it } from "vitest";
import { parts, units } from "../schema/index.ts";
import { openTestServer, type TestServer } from "../testing/bench.ts";

let server: TestServer;
beforeAll(async () => void (server = await openTestServer()));
afterAll(() => server.close());

it("finds a part by its unit's name, however many units share a word of it", async () => {
  const home = await server.workshop("many");
  const ask = await home.as("lead");
  const { db } = server.database;
  const [first] = await db.select().from(units).where(eq(units.id, home.unitId));
  if (!first) throw new Error("no unit");
  const named = Array.from({ length: 2005 }, (_, n) => ({
    ...first,
    id: randomUUID(),
    name: `Bracken N${10_000 + n}`,
  }));
  await db.insert(units).values(named);
  const part = {
    workshopId: home.id,
    partId: "pump",
    kind: "diaphragm-pump",
    name: "Pump",
    words: "diaphragm pump",
    onMap: true,
  };
  await db.insert(parts).values(named.map(({ id }) => ({ ...part, unitId: id })));
  for (const { name } of [named[0], named[1200], named[2004]] as typeof named) {
    const reply = await ask({
      url: `/api/parts?text=${encodeURIComponent(`${name.toLowerCase()} PUMP`)}`,
    });
    expect(reply.json<{ parts: RegisteredPart[] }>().parts.map((p) => p.unitName)).toEqual([name]);
  }
});
