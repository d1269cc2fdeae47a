import type { Picture } from "@uppershed/contract";
import { randomUUID } from "node:crypto";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, type TestServer, type TestWorkshop } from "../testing/bench.ts";
import { TEST_PDF, testPicture } from "../testing/files.ts";

let server: TestServer;
let home: TestWorkshop;
let me: Awaited<ReturnType<TestWorkshop["as"]>>;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  me = await home.as("technician");
});
afterAll(() => server.close());

const AT = "2026-10-14T09:00:00.000Z";
const send = (payload: Buffer, { id = randomUUID(), type = "image/jpeg", more = "" } = {}) =>
  me({
    method: "POST",
    url: `/api/units/${home.unitId}/pictures?id=${id}&about=part&aboutId=pump&at=${AT}${more}`,
    payload,
    headers: { "content-type": type },
  });
const listed = async (): Promise<Picture[]> =>
  (await me({ url: `/api/units/${home.unitId}/pictures` })).json<{ pictures: Picture[] }>()
    .pictures;

describe("a picture", () => {
  it("is turned upright, made smaller, and keeps nothing of where and with what it was taken", async () => {
    const taken = await testPicture({ width: 3000, height: 1000 }, true);
    expect((await sharp(taken).metadata()).exif?.includes("Test camera")).toBe(true);
    const reply = await send(taken);
    expect(reply.statusCode).toBe(201);
    // Orientation 6 of EXIF: a quarter turn; the longer side is 2048.
    expect(reply.json<Picture>()).toMatchObject({
      width: 683,
      height: 2048,
      by: "T. Ech",
      about: "part",
      aboutId: "pump",
    });
    const kept = await me({ url: `/api/pictures/${reply.json<Picture>().id}` });
    expect(kept.headers["content-type"]).toBe("image/jpeg");
    expect(kept.headers["content-security-policy"]).toContain("sandbox");
    expect(kept.headers["x-content-type-options"]).toBe("nosniff");
    const meta = await sharp(kept.rawPayload).metadata();
    expect([meta.exif, meta.orientation, meta.width, meta.height]).toEqual([
      undefined,
      undefined,
      683,
      2048,
    ]);
  });

  it("is kept once when it is sent twice; another one under its id is refused", async () => {
    const id = randomUUID();
    const picture = await testPicture();
    await send(picture, { id });
    const before = (await listed()).length;
    expect((await send(picture, { id })).statusCode).toBe(201);
    expect((await send(await testPicture({ width: 50 }), { id })).statusCode).toBe(409);
    expect(await listed()).toHaveLength(before);
  });

  it("takes marks and words; its pixels stay", async () => {
    const picture = (await send(await testPicture())).json<Picture>();
    const marks = [
      { kind: "ring", x: 0.5, y: 0.5, r: 0.2 },
      { kind: "arrow", x: 0, y: 0, toX: 0.4, toY: 0.4 },
    ];
    const patch = (payload: object) =>
      me({ method: "PATCH", url: `/api/pictures/${picture.id}`, payload });
    expect((await patch({ marks, caption: "the crack" })).json()).toMatchObject({
      marks,
      caption: "the crack",
    });
    expect((await patch({ marks: [{ kind: "ring", x: 7, y: 0, r: 0.2 }] })).statusCode).toBe(400);
  });
});

describe("hostile uploads", () => {
  const svg = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>',
  );
  const bomb = (): Buffer => {
    // A PNG whose header says 30,000 by 30,000 pixels: the rest does not matter, it must never be decoded.
    const head = Buffer.alloc(33);
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13]).copy(head);
    head.write("IHDR", 12, "latin1");
    head.writeUInt32BE(30_000, 16);
    head.writeUInt32BE(30_000, 20);
    head.set([8, 2, 0, 0, 0], 24);
    return head;
  };

  it.each([
    ["an SVG with a script", () => svg, "image/svg+xml"],
    ["an SVG that calls itself JPEG", () => svg, "image/jpeg"],
    [
      "a page that begins like a GIF",
      () => Buffer.from("GIF89a<script>alert(1)</script>"),
      "image/gif",
    ],
    ["a PDF as a picture", () => TEST_PDF, "image/png"],
    [
      "the first bytes of a JPEG and then a page",
      () => Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), svg]),
      "image/jpeg",
    ],
    ["a picture of 30,000 pixels a side", bomb, "image/png"],
  ])("%s is refused with a clear error, and nothing is kept", async (_, payload, type) => {
    const before = (await listed()).length;
    const reply = await send(payload(), { type });
    expect(reply.statusCode).toBe(415);
    expect(reply.json<{ error: { message: string } }>().error.message).toMatch(
      /Nothing was kept\. Send a JPEG/u,
    );
    expect(await listed()).toHaveLength(before);
  });

  it("a JPEG with a page at its end is taken as its pixels, and the page is gone", async () => {
    const both = Buffer.concat([await testPicture(), svg]);
    const reply = await send(both);
    expect(reply.statusCode).toBe(201);
    const kept = await me({ url: `/api/pictures/${reply.json<Picture>().id}` });
    expect(kept.rawPayload.includes("script")).toBe(false);
  });

  it("60 MB are refused before they are read, other content is not taken, a path is no name", async () => {
    const big = await send(Buffer.alloc(60 * 1024 * 1024));
    expect(big.statusCode).toBe(413);
    expect((await send(svg, { type: "text/html" })).statusCode).toBe(415);
    expect((await send(await testPicture(), { more: "&name=../../etc/passwd" })).statusCode).toBe(
      400,
    );
    expect((await send(Buffer.alloc(0))).statusCode).toBe(400);
  });
});

describe("papers", () => {
  const keep = (title: string, payload: Buffer, id = randomUUID()) =>
    me({
      method: "POST",
      url: `/api/units/${home.unitId}/documents?id=${id}&title=${encodeURIComponent(title)}`,
      payload,
      headers: { "content-type": "application/pdf" },
    });

  it("are whole PDF files, given out as files only", async () => {
    const id = randomUUID();
    expect((await keep("Maker's sheet, heater", TEST_PDF, id)).statusCode).toBe(201);
    const got = await me({ url: `/api/documents/${id}` });
    expect(got.headers["content-disposition"]).toBe('attachment; filename="paper.pdf"');
    expect(got.rawPayload.equals(TEST_PDF)).toBe(true);
    expect((await me({ url: `/api/units/${home.unitId}/documents` })).json()).toMatchObject({
      documents: [{ id, title: "Maker's sheet, heater", by: "T. Ech" }],
    });
  });

  it.each([
    ["a page called a paper", "Sheet", Buffer.from("<html></html>"), 415],
    ["half a PDF", "Sheet", TEST_PDF.subarray(0, 20), 415],
    ["a path as its title", "../../sheet", TEST_PDF, 400],
    ["no title", " ", TEST_PDF, 400],
  ])("refuse %s", async (_, title, payload, status) => {
    expect((await keep(title, payload)).statusCode).toBe(status);
  });
});
