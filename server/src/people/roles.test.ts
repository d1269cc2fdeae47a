import { DEEDS, type Deed, mayDo } from "@uppershed/contract";
import { ROLES } from "@uppershed/core/inspection";
import type { InjectOptions } from "fastify";
import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";
import { ROUTES } from "./routes.ts";

/** The table of who may do what: walked for every route and every role, and printed in the docs. */

let server: TestServer;
let home: TestWorkshop;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
});
afterAll(() => server.close());

const withIds = (path: string): string =>
  path.replaceAll(/:(\w+)/gu, (_, name: string) =>
    name === "kind" ? "csv" : name === "revision" ? "1" : randomUUID(),
  );

describe("who may do what", () => {
  it.each(ROLES)("is kept by every route: %s", async (role) => {
    const me = await home.as(role);
    const wrong: string[] = [];
    for (const [route, deed] of Object.entries(ROUTES)) {
      const [method, path] = route.split(" ") as [NonNullable<InjectOptions["method"]>, string];
      const reply = await me({
        method,
        url: `/api${withIds(path)}`,
        ...(method === "GET" ? {} : { payload: {} }),
      });
      const isRefused =
        reply.statusCode === 403 &&
        reply.body.startsWith('{"error":{"code":"not-allowed","message":"As ');
      if (isRefused === mayDo(role, deed)) wrong.push(`${route}: ${reply.statusCode}`);
    }
    expect(wrong).toEqual([]);
  });

  it("stands in the docs as it is", () => {
    const docs = readFileSync(new URL("../../../docs/roles.md", import.meta.url), "utf8");
    const rows = Object.entries(DEEDS).map(
      ([deed, { says }]) =>
        `| ${says} | ${ROLES.map((r) => (mayDo(r, deed as Deed) ? "yes" : "—")).join(" | ")} |`,
    );
    expect(docs.split("\n").filter((line) => / \| (?:yes|—) \|/u.test(line))).toEqual(rows);
  });
});
