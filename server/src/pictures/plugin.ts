import {
  documentListSchema,
  documentSchema,
  MOST_DOCUMENT_BYTES,
  MOST_PICTURE_BYTES,
  newDocumentSchema,
  newPictureSchema,
  pictureChangeSchema,
  pictureListSchema,
  pictureSchema,
  problemSchema,
} from "@uppershed/contract";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { Refused } from "../errors.ts";
import { addDocument, documentBytes, documentThere, listDocuments } from "./papers.ts";
import { sendInert } from "./inert.ts";
import { addPicture, bytesOf, changePicture, listPictures, pictureThere } from "./store.ts";

const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });
const byPicture = z.strictObject({ pictureId: z.uuid("not a picture's id") });

const bytesIn = (body: unknown): Buffer => {
  if (!Buffer.isBuffer(body) || body.length === 0)
    throw new Refused("bad-request", "Nothing was sent.");
  return body;
};

/** Pictures and papers of units. Their bytes are the body; everything else about them stands in the address. */
export const picturesPlugin: FastifyPluginAsyncZod = async (app) => {
  // What a sender calls it counts for nothing: every kind of content comes as bytes, and the bytes are looked at.
  for (const type of ["application/octet-stream", "application/pdf", /^image\//u] as const)
    app.addContentTypeParser(
      type,
      { parseAs: "buffer", bodyLimit: MOST_PICTURE_BYTES },
      (_request, body, done) => done(null, body),
    );

  app.get(
    "/units/:unitId/pictures",
    {
      schema: {
        tags: ["pictures"],
        summary: "A unit's pictures, newest first",
        params: byUnit,
        response: { 200: pictureListSchema, 404: problemSchema },
      },
    },
    async (request) => ({ pictures: await listPictures(request.scope, request.params.unitId) }),
  );

  app.post(
    "/units/:unitId/pictures",
    {
      bodyLimit: MOST_PICTURE_BYTES,
      schema: {
        tags: ["pictures"],
        summary: "Keep a picture (JPEG, PNG or WebP as the body); what is sent twice is kept once",
        params: byUnit,
        querystring: newPictureSchema,
        response: {
          201: pictureSchema,
          404: problemSchema,
          409: problemSchema,
          413: problemSchema,
          415: problemSchema,
        },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(
          await addPicture(
            request.scope,
            request.me.person.id,
            request.params.unitId,
            request.query,
            bytesIn(request.body),
          ),
        ),
  );

  app.get(
    "/pictures/:pictureId",
    { schema: { tags: ["pictures"], summary: "A picture's bytes, as JPEG", params: byPicture } },
    async (request, reply) => {
      const { pictureId } = request.params;
      await pictureThere(request.scope, pictureId);
      return sendInert(reply, {
        type: "image/jpeg",
        tag: pictureId,
        bytes: () => bytesOf(request.scope, pictureId),
      });
    },
  );

  app.patch(
    "/pictures/:pictureId",
    {
      schema: {
        tags: ["pictures"],
        summary: "Change what is written and drawn on a picture; its pixels stay",
        params: byPicture,
        body: pictureChangeSchema,
        response: { 200: pictureSchema, 404: problemSchema },
      },
    },
    async (request) => changePicture(request.scope, request.params.pictureId, request.body),
  );

  app.get(
    "/units/:unitId/documents",
    {
      schema: {
        tags: ["pictures"],
        summary: "A unit's papers",
        params: byUnit,
        response: { 200: documentListSchema, 404: problemSchema },
      },
    },
    async (request) => ({ documents: await listDocuments(request.scope, request.params.unitId) }),
  );

  app.post(
    "/units/:unitId/documents",
    {
      bodyLimit: MOST_DOCUMENT_BYTES,
      schema: {
        tags: ["pictures"],
        summary: "Keep a paper (PDF as the body)",
        params: byUnit,
        querystring: newDocumentSchema,
        response: {
          201: documentSchema,
          404: problemSchema,
          409: problemSchema,
          413: problemSchema,
          415: problemSchema,
        },
      },
    },
    async (request, reply) =>
      reply
        .code(201)
        .send(
          await addDocument(
            request.scope,
            request.me.person.id,
            request.params.unitId,
            request.query,
            bytesIn(request.body),
          ),
        ),
  );

  app.get(
    "/documents/:documentId",
    {
      schema: {
        tags: ["pictures"],
        summary: "A paper, to be kept as a file",
        params: z.strictObject({ documentId: z.uuid("not a paper's id") }),
      },
    },
    async (request, reply) => {
      const { documentId } = request.params;
      await documentThere(request.scope, documentId);
      return sendInert(reply, {
        type: "application/pdf",
        tag: documentId,
        bytes: () => documentBytes(request.scope, documentId),
        name: "paper.pdf",
      });
    },
  );
};
