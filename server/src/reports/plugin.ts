import {
  editionLineSchema,
  editionListSchema,
  newEditionSchema,
  newOwnerLinkSchema,
  newSpringLookSchema,
  ownerLinkListSchema,
  problemSchema,
  reportDataSchema,
  springListSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { notFound } from "../errors.ts";
import { sendInert } from "../pictures/inert.ts";
import { bytesOf } from "../pictures/store.ts";
import { getVisit } from "../calendar/read.ts";
import { reportData } from "./data.ts";
import { forOwner, getEdition, listEditions, makeEdition } from "./editions.ts";
import { listLinks, makeLink, openLink, withdrawLink } from "./links.ts";
import { endPdfWorkers, reportPdfBeside } from "./pdf-beside.ts";
import { addSpringLook, springLooksOf } from "./spring.ts";

const byVisit = z.strictObject({ visitId: z.uuid("not a visit's id") });
const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });
const byEdition = z.strictObject({ editionId: z.uuid("not an edition's id") });
const byToken = z.strictObject({ token: z.string().min(10).max(120) });
// An owner looks at a page now and then; who tries out links does not get far.
const OWNER_LOOKS = { max: 120, timeWindow: "1 minute" };

/** A visit's report as it stands, and its editions as they were handed over. */
const editionRoutes: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/visits/:visitId/report",
    {
      schema: {
        tags: ["reports"],
        summary: "What a visit's report is made from",
        params: byVisit,
        response: { 200: reportDataSchema, 404: problemSchema },
      },
    },
    async (request) => reportData(request.scope, request.params.visitId),
  );

  app.get(
    "/visits/:visitId/editions",
    {
      schema: {
        tags: ["reports"],
        summary: "The editions of a visit's report that were handed over, newest first",
        params: byVisit,
        response: { 200: editionListSchema, 404: problemSchema },
      },
    },
    async (request) => {
      await getVisit(request.scope, request.params.visitId);
      return { editions: await listEditions(request.scope, request.params.visitId) };
    },
  );

  app.post(
    "/visits/:visitId/editions",
    {
      schema: {
        tags: ["reports"],
        summary:
          "Freeze a visit's report as it stands, to be handed over; where nothing has changed the newest edition is told again",
        params: byVisit,
        body: newEditionSchema,
        response: { 201: editionLineSchema, 404: problemSchema, 409: problemSchema },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(
          await makeEdition(
            request.scope,
            request.me.person.id,
            request.params.visitId,
            request.body,
            new Date(),
          ),
        ),
  );

  app.get(
    "/editions/:editionId",
    {
      schema: {
        tags: ["reports"],
        summary: "A report as it was handed over",
        params: byEdition,
        response: { 200: reportDataSchema, 404: problemSchema },
      },
    },
    async (request) => (await getEdition(request.scope, request.params.editionId)).data,
  );

  app.get(
    "/editions/:editionId/report.pdf",
    {
      schema: {
        tags: ["reports"],
        summary: "A report as it was handed over, as a PDF file",
        params: byEdition,
      },
    },
    async (request, reply) => {
      const { data } = await getEdition(request.scope, request.params.editionId);
      return sendInert(reply, {
        type: "application/pdf",
        tag: request.params.editionId,
        bytes: () => reportPdfBeside(data, (id) => bytesOf(request.scope, id)),
        name: "report.pdf",
      });
    },
  );
};

/** The links by which an owner reads one edition, and nothing else. */
const linkRoutes: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/visits/:visitId/links",
    {
      schema: {
        tags: ["reports"],
        summary: "The owner's links of a visit",
        params: byVisit,
        response: { 200: ownerLinkListSchema, 404: problemSchema },
      },
    },
    async (request) => ({
      links: await listLinks(app.db, request.scope, request.params.visitId, new Date()),
    }),
  );

  app.post(
    "/visits/:visitId/links",
    {
      schema: {
        tags: ["reports"],
        summary:
          "Make a link by which the owner can read one edition of this visit's report, and nothing else",
        params: byVisit,
        body: newOwnerLinkSchema,
        response: { 201: ownerLinkListSchema, 404: problemSchema },
      },
    },
    async (request, reply) =>
      reply.code(201).send({
        links: await makeLink(
          app.db,
          request.scope,
          request.me.person.id,
          request.params.visitId,
          { id: request.body.id, editionId: request.body.editionId, days: request.body.days ?? 60 },
          new Date(),
        ),
      }),
  );

  app.post(
    "/links/:linkId/withdraw",
    {
      schema: {
        tags: ["reports"],
        summary: "Withdraw an owner's link; it opens nothing from now on",
        params: z.strictObject({ linkId: z.uuid("not a link's id") }),
        response: { 200: ownerLinkListSchema, 404: problemSchema },
      },
    },
    async (request) => ({
      links: await withdrawLink(app.db, request.scope, request.params.linkId, new Date()),
    }),
  );
};

/** What such a link opens, to anybody who has it. */
const ownerRoutes: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/owner/:token",
    {
      config: { open: true, rateLimit: OWNER_LOOKS },
      schema: {
        tags: ["reports"],
        summary: "The report that an owner's link opens",
        params: byToken,
        response: { 200: reportDataSchema, 410: problemSchema },
      },
    },
    async (request, reply) => {
      const { scope, link, editionId } = await openLink(app.db, request.params.token, new Date());
      const { data } = await getEdition(scope, editionId);
      return reply.header("cache-control", "no-store").send(forOwner(data, link.expiresAt));
    },
  );

  app.get(
    "/owner/:token/pictures/:pictureId",
    {
      config: { open: true, rateLimit: { ...OWNER_LOOKS, max: 600 } },
      schema: {
        tags: ["reports"],
        summary: "A picture of the report that an owner's link opens",
        params: byToken.extend({ pictureId: z.uuid("not a picture's id") }),
      },
    },
    async (request, reply) => {
      const { scope, editionId } = await openLink(app.db, request.params.token, new Date());
      const { pictures } = (await getEdition(scope, editionId)).data;
      if (!pictures.some((p) => p.id === request.params.pictureId)) throw notFound("picture");
      const { pictureId } = request.params;
      return sendInert(reply, {
        type: "image/jpeg",
        tag: pictureId,
        bytes: () => bytesOf(scope, pictureId),
        keepNothing: true,
      });
    },
  );

  app.get(
    "/owner/:token/report.pdf",
    {
      config: { open: true, rateLimit: { ...OWNER_LOOKS, max: 20 } },
      schema: {
        tags: ["reports"],
        summary: "The report that an owner's link opens, as a PDF file",
        params: byToken,
      },
    },
    async (request, reply) => {
      const { scope, link, editionId } = await openLink(app.db, request.params.token, new Date());
      const data = forOwner((await getEdition(scope, editionId)).data, link.expiresAt);
      return sendInert(reply, {
        type: "application/pdf",
        tag: editionId,
        bytes: () => reportPdfBeside(data, (id) => bytesOf(scope, id)),
        name: "report.pdf",
        keepNothing: true,
      });
    },
  );
};

/** The look at other systems in spring, which is kept apart. */
const springRoutes: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units/:unitId/spring",
    {
      schema: {
        tags: ["spring"],
        summary: "The spring look at other systems: the newest mark of each",
        params: byUnit,
        response: { 200: springListSchema, 404: problemSchema },
      },
    },
    async (request) => ({ looks: await springLooksOf(request.scope, request.params.unitId) }),
  );

  app.post(
    "/units/:unitId/spring",
    {
      schema: {
        tags: ["spring"],
        summary: "Mark one of the other systems: pass, fail, not looked at",
        params: byUnit,
        body: newSpringLookSchema,
        response: { 201: springListSchema, 404: problemSchema, 422: problemSchema },
      },
    },
    async (request, reply) =>
      reply.code(201).send({
        looks: await addSpringLook(
          request.scope,
          request.me.person.id,
          request.params.unitId,
          request.body,
        ),
      }),
  );
};

/** Reports to owners: on screen, on paper, and by a signed link; and the spring look. */
export const reportsPlugin: FastifyPluginAsyncZod = async (app) => {
  app.addHook("onClose", endPdfWorkers);
  for (const routes of [editionRoutes, linkRoutes, ownerRoutes, springRoutes])
    await app.register(routes);
};
