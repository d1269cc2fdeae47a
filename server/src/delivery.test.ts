import { mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { brotliCompressSync, brotliDecompressSync, gzipSync } from "node:zlib";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer } from "./testing/bench.ts";

const PAGE = "<!doctype html><title>Upper Shed</title>";
const SCRIPT = `console.log(${JSON.stringify("water ".repeat(500))});`;

let server: TestServer;
let root: string;

beforeAll(async () => {
  root = await mkdtemp(join(tmpdir(), "shed-web-"));
  await mkdir(join(root, "assets"));
  await writeFile(join(root, "index.html"), PAGE);
  await writeFile(join(root, "sw.js"), "self.skip = 1;");
  await writeFile(join(root, "assets", "bench-1a2b.js"), SCRIPT);
  await writeFile(join(root, "assets", "bench-1a2b.js.br"), brotliCompressSync(SCRIPT));
  await writeFile(join(root, "assets", "bench-1a2b.js.gz"), gzipSync(SCRIPT));
  server = await openTestServer({ webRoot: root, requestsPerMinute: 5 });
});

afterAll(async () => {
  await server.close();
  await rm(root, { recursive: true });
});

describe("the application's files", () => {
  it("keep for ever where their name changes with what is in them, and are asked for again where it does not", async () => {
    const cacheOf = async (url: string): Promise<unknown> =>
      (await server.app.inject({ url })).headers["cache-control"];
    expect(await cacheOf("/assets/bench-1a2b.js")).toBe("public, max-age=31536000, immutable");
    for (const url of ["/", "/index.html", "/sw.js", "/units/123/map"])
      expect(await cacheOf(url), url).toBe("no-cache");
  });

  it("come compressed as they were built, to whoever takes that", async () => {
    const br = await server.app.inject({
      url: "/assets/bench-1a2b.js",
      headers: { "accept-encoding": "gzip, br" },
    });
    expect(br.headers["content-encoding"]).toBe("br");
    expect(brotliDecompressSync(br.rawPayload).toString()).toBe(SCRIPT);
    const plain = await server.app.inject({ url: "/assets/bench-1a2b.js" });
    expect(plain.headers["content-encoding"]).toBeUndefined();
    expect(plain.payload).toBe(SCRIPT);
  });

  it("are not counted as requests, what is asked of the server is; a piece that is gone is not the page", async () => {
    for (let i = 0; i < 12; i++)
      expect((await server.app.inject({ url: "/assets/bench-1a2b.js" })).statusCode).toBe(200);
    expect((await server.app.inject({ url: "/assets/bench-0000.js" })).statusCode).toBe(404);
    const codes: number[] = [];
    for (let i = 0; i < 12; i++)
      codes.push((await server.app.inject({ url: "/api/health" })).statusCode);
    expect(codes).toContain(429);
  });
});

describe("requests", () => {
  it("are counted by account: one that asks too often does not keep out others of the same address", async () => {
    const counted = await openTestServer({ requestsPerMinute: 5 });
    const shop = await counted.workshop("counted");
    const [one, other] = [await shop.as("lead"), await shop.as("technician")];
    const codes: number[] = [];
    for (let i = 0; i < 8; i++) codes.push((await one({ url: "/api/me" })).statusCode);
    expect(codes).toEqual([200, 200, 200, 200, 200, 429, 429, 429]);
    expect((await other({ url: "/api/me" })).statusCode).toBe(200);
    await counted.close();
  });
});

describe("answers", () => {
  it("come compressed, bear a mark, and are not sent again to whoever has them; nobody else may keep them", async () => {
    const busy = await openTestServer();
    const workshop = await busy.workshop("marks");
    const ask = await workshop.as("lead");
    const first = await ask({
      url: `/api/units/${workshop.unitId}/map`,
      headers: { "accept-encoding": "br" },
    });
    expect(first.statusCode).toBe(200);
    expect(first.headers).toMatchObject({
      "content-encoding": "br",
      "cache-control": "private, no-cache",
    });
    expect(JSON.parse(brotliDecompressSync(first.rawPayload).toString())).toHaveProperty(
      "document",
    );
    const mark = first.headers.etag ?? "";
    expect(mark).not.toBe("");
    const again = await ask({
      url: `/api/units/${workshop.unitId}/map`,
      headers: { "if-none-match": mark },
    });
    expect(again.statusCode).toBe(304);
    expect(again.payload).toBe("");
    // Without a session the mark opens nothing.
    const stranger = await busy.app.inject({
      url: `/api/units/${workshop.unitId}/map`,
      headers: { "if-none-match": mark },
    });
    expect(stranger.statusCode).toBe(401);
    expect(stranger.headers["cache-control"]).toBe("no-store");
    await busy.close();
  });
});
