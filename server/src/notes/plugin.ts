import {
  newNoteSchema,
  type Note,
  noteListSchema,
  noteSchema,
  problemSchema,
} from "@uppershed/contract";
import { triedSequence } from "@uppershed/core/simulation";
import { and, eq, inArray, sql } from "drizzle-orm";
import type { FastifyPluginAsyncZod } from "fastify-type-provider-zod";
import { z } from "zod";
import { idTaken, notFound } from "../errors.ts";
import { mapRevisions, notes, people, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";

type NoteRow = typeof notes.$inferSelect;

const byUnit = z.strictObject({ unitId: z.uuid("not a unit's id") });
const MOST_SHOWN = 200;

const complete = async (scope: Scope, rows: NoteRow[]): Promise<Note[]> => {
  if (rows.length === 0) return [];
  const writers = await scope.find(
    people,
    inArray(
      people.id,
      rows.map((n) => n.personId),
    ),
  );
  return rows.map((n) => {
    const tried = triedSequence.nullable().safeParse(n.tried ?? null);
    return {
      id: n.id,
      unitId: n.unitId,
      at: n.at.toISOString(),
      by: writers.find((p) => p.id === n.personId)?.name ?? "",
      text: n.text,
      tried: tried.data ?? null,
      ...(tried.success
        ? {}
        : {
            triedUnread: `This version cannot read it: ${tried.error.issues[0]?.message ?? "unknown form"}.`,
          }),
    };
  });
};

const unitOf = async (scope: Scope, unitId: string): Promise<void> => {
  if (!(await scope.first(units, eq(units.id, unitId)))) throw notFound("unit");
};

/** Notes on a unit. Nothing in them touches its record of work. */
export const notesPlugin: FastifyPluginAsyncZod = async (app) => {
  app.get(
    "/units/:unitId/notes",
    {
      schema: {
        tags: ["notes"],
        summary: "The notes on a unit, newest first",
        params: byUnit,
        response: { 200: noteListSchema, 404: problemSchema },
      },
    },
    async (request) => {
      const rows = await request.scope.find(
        notes,
        inArray(notes.unitId, await familyOf(request.scope, request.params.unitId)),
        {
          order: sql`${notes.at} desc`,
          limit: MOST_SHOWN,
        },
      );
      return { notes: await complete(request.scope, rows) };
    },
  );

  app.post(
    "/units/:unitId/notes",
    {
      schema: {
        tags: ["notes"],
        summary: "Keep a note on a unit, with a sequence tried on its map where there is one",
        params: byUnit,
        body: newNoteSchema,
        response: { 201: noteSchema, 404: problemSchema },
      },
    },
    async (request, reply) => {
      const { unitId } = request.params;
      const { id, text, tried } = request.body;
      await unitOf(request.scope, unitId);
      if (tried) {
        const where = and(
          eq(mapRevisions.unitId, unitId),
          eq(mapRevisions.revision, tried.mapRevision),
        );
        if (!where || !(await request.scope.first(mapRevisions, where)))
          throw notFound("revision of the map");
      }
      await request.scope.addOnce(notes, {
        id,
        unitId,
        personId: request.me.person.id,
        text,
        tried,
      });
      const [note] = await complete(
        request.scope,
        await request.scope.find(notes, eq(notes.id, id)),
      );
      if (!note || note.unitId !== unitId) throw idTaken();
      return reply.code(201).send(note);
    },
  );
};
