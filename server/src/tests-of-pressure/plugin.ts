import { newTestEntrySchema, problemSchema, testListSchema, testSchema } from "@uppershed/contract";
import { testNow } from "@uppershed/core/hold";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { loggedBy } from "./logger.ts";
import { beside } from "../beside.ts";
import { sendInert } from "../pictures/inert.ts";
import type { CertificateTask } from "./certificate-pdf.ts";
import { certificateTask, runningTests, takeTestEntry, testBy, testsOfUnit } from "./store.ts";

const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });
const byTest = byUnit.extend({ testId: z.uuid("not a test's id") });

const EVERY_MS = 2000;
// A stream ends by itself after a while; the browser comes again with the last second that it has.
const LONGEST_MS = 10 * 60_000;

const papers = beside<CertificateTask, Uint8Array>(
  new URL("certificate.worker.ts", import.meta.url),
);

/** Pressure tests: planned, held, judged and signed. */
export const pressureTestsPlugin: FastifyPluginAsyncZod = async (app) => {
  const tags = ["pressure tests"];
  app.addHook("onClose", papers.end);
  app.get(
    "/tests/running",
    { schema: { tags, summary: "Tests that are running", response: { 200: testListSchema } } },
    async (request) => ({ tests: await runningTests(request.scope) }),
  );

  app.get(
    "/units/:unitId/tests",
    {
      schema: {
        tags,
        summary: "Pressure tests of a unit, newest first",
        params: byUnit,
        response: { 200: testListSchema, 404: problemSchema },
      },
    },
    async (request) => ({ tests: await testsOfUnit(request.scope, request.params.unitId) }),
  );

  app.get(
    "/units/:unitId/tests/:testId",
    {
      schema: {
        tags,
        summary: "A pressure test with its entries",
        params: byTest,
        response: { 200: testSchema, 404: problemSchema },
      },
    },
    async (request) => testBy(request.scope, request.params.unitId, request.params.testId),
  );

  app.post(
    "/units/:unitId/tests/:testId",
    {
      schema: {
        tags,
        summary:
          "Add an entry of a pressure test: begun, read, parted, soaped, ended; sent twice, it is kept once",
        params: byTest,
        body: newTestEntrySchema,
        response: {
          201: testSchema,
          404: problemSchema,
          409: problemSchema,
          422: problemSchema,
        },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(
          await takeTestEntry(
            request.scope,
            request.me.person,
            request.params.unitId,
            request.params.testId,
            request.body,
          ),
        ),
  );

  app.get(
    "/units/:unitId/tests/:testId/certificate.pdf",
    {
      schema: {
        tags,
        summary: "The certificate of a pressure test, as a PDF file",
        params: byTest,
      },
    },
    async (request, reply) => {
      const { unitId, testId } = request.params;
      const { task, tag } = await certificateTask(request.scope, unitId, testId);
      return sendInert(reply, {
        type: "application/pdf",
        tag,
        bytes: async () => Buffer.from(await papers.run(task)),
        name: "certificate.pdf",
      });
    },
  );

  app.get(
    "/units/:unitId/tests/:testId/logger",
    {
      schema: {
        tags,
        summary:
          "The readings of the stand-in for a pressure logger as they come, as server-sent events; from the last one that came with Last-Event-ID",
        params: byTest,
        querystring: z.strictObject({ after: z.coerce.number().min(-1).max(1e7).default(-1) }),
      },
    },
    async (request, reply) => {
      const { unitId, testId } = request.params;
      const read = async () => testNow((await testBy(request.scope, unitId, testId)).entries).test;
      let test = await read();
      const last = Number(request.headers["last-event-id"] ?? request.query.after);
      let after = Number.isFinite(last) ? last : -1;
      reply.hijack();
      const { raw } = reply;
      raw.writeHead(200, {
        "content-type": "text/event-stream",
        "cache-control": "no-store",
        "x-accel-buffering": "no",
      });
      const begun = Date.now();
      const tell = async (): Promise<void> => {
        // The device asks as soon as it has switched it on; that may not have come here yet.
        if (!test?.logger) test = await read();
        const readings = test ? loggedBy(test, Date.now(), after) : [];
        const newest = readings.at(-1);
        if (newest) {
          after = newest.atS;
          raw.write(`id: ${newest.atS}\ndata: ${JSON.stringify({ readings })}\n\n`);
        } else raw.write(": nothing yet\n\n");
        if (Date.now() - begun > LONGEST_MS) end();
      };
      const timer = setInterval(() => void tell().catch(end), EVERY_MS);
      const end = (): void => {
        clearInterval(timer);
        raw.end();
      };
      raw.on("close", () => clearInterval(timer));
      app.server.once("close", end);
      await tell().catch(end);
    },
  );
};
