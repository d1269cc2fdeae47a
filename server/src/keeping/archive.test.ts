import { unzipSync } from "fflate";
import { createHash, randomUUID } from "node:crypto";
import Papa from "papaparse";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openTestServer, SETUP, type TestServer, type TestWorkshop } from "../testing/bench.ts";
import { testPicture } from "../testing/files.ts";
import { writeRows } from "./archive-tables.ts";

let server: TestServer;
let home: TestWorkshop;
beforeAll(async () => {
  server = await openTestServer();
  home = await server.workshop("home");
  await server.workshop("other");
});
afterAll(() => server.close());

const words = (bytes: Uint8Array | undefined): string => Buffer.from(bytes ?? []).toString("utf8");

describe("everything that a workshop owns, in one archive", () => {
  it("has each file as its manifest says, with nothing secret and nothing of others in it", async () => {
    const lead = await home.as("lead");
    const at = new Date().toISOString();
    const pictureId = randomUUID();
    await lead({
      method: "POST",
      url: `/api/units/${home.unitId}/pictures?id=${pictureId}&about=unit&aboutId=unit&at=${at}`,
      payload: await testPicture(),
      headers: { "content-type": "image/jpeg" },
    });
    await lead({
      method: "POST",
      url: "/api/runs",
      payload: {
        id: randomUUID(),
        unitId: home.unitId,
        visitId: null,
        mapRevision: 1,
        setup: SETUP,
      },
    });
    const reply = await lead({ url: "/api/keeping/archive.zip" });
    expect([reply.statusCode, reply.headers["content-type"]]).toEqual([200, "application/zip"]);
    const files = unzipSync(reply.rawPayload);
    const manifest = JSON.parse(words(files["manifest.json"])) as {
      format: string;
      units: number;
      files: { path: string; sha256: string; bytes: number; rows?: number }[];
    };
    expect(manifest).toMatchObject({ format: "upper-shed/archive", units: 1 });
    expect(manifest.files.map((f) => f.path).toSorted()).toEqual(
      Object.keys(files)
        .filter((path) => path !== "manifest.json")
        .toSorted(),
    );
    for (const file of manifest.files) {
      const bytes = files[file.path] ?? new Uint8Array();
      expect(createHash("sha256").update(bytes).digest("hex"), file.path).toBe(file.sha256);
      if (file.rows !== undefined)
        expect(JSON.parse(words(bytes)), file.path).toHaveLength(file.rows);
    }
    expect(manifest.files.find((f) => f.path === "runs.json")?.rows).toBe(1);
    expect(files[`pictures/${pictureId}.jpg`]?.length).toBeGreaterThan(100);
    const all = Object.values(files).map(words).join("\n");
    expect(all).not.toMatch(/argon2|passwordHash|totp|linkKey|Boat of other/u);
    expect(Papa.parse<string[]>(words(files["units.csv"]).trim()).data).toHaveLength(2);
  });

  it("is for whoever answers for the workshop", async () => {
    for (const role of ["technician", "desk"] as const)
      expect((await (await home.as(role))({ url: "/api/keeping/archive.zip" })).statusCode).toBe(
        403,
      );
  });

  it("guards cells that a spreadsheet would run", () => {
    expect(writeRows([{ a: "=1+1", b: null, c: { d: 1 }, search: "x" }])).toBe(
      `a,b,c\n'=1+1,,"{""d"":1}"\n`,
    );
  });
});
