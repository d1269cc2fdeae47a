import type { NewPicture, Picture, PictureChange } from "@uppershed/contract";
import { eq, inArray, sql } from "drizzle-orm";
import { createHash } from "node:crypto";
import { notFound, Refused } from "../errors.ts";
import { pictureBytes, pictures, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { familyOf } from "../register/family.ts";
import { namesOf } from "../people/names.ts";
import { remakePicture } from "./remake.ts";

type PictureRow = typeof pictures.$inferSelect;

const MOST = 1000;

const told = async (scope: Scope, rows: readonly PictureRow[]): Promise<Picture[]> => {
  const names = await namesOf(
    scope,
    rows.map((p) => p.personId),
  );
  return rows.map(
    ({ id, unitId, about, aboutId, caption, marks, width, height, bytes, at, personId }) => ({
      id,
      unitId,
      about,
      aboutId,
      caption,
      marks,
      width,
      height,
      bytes,
      at: at.toISOString(),
      by: names.get(personId) ?? "",
    }),
  );
};

export const listPictures = async (scope: Scope, unitId: string): Promise<Picture[]> =>
  told(
    scope,
    await scope.find(pictures, inArray(pictures.unitId, await familyOf(scope, unitId)), {
      order: sql`${pictures.at} desc`,
      limit: MOST,
    }),
  );

const getPicture = async (scope: Scope, id: string): Promise<PictureRow> => {
  const row = await scope.first(pictures, eq(pictures.id, id));
  if (!row) throw notFound("picture");
  return row;
};

/** Keeps a picture as the server has made it anew; the same one sent twice is kept once. */
export const addPicture = async (
  scope: Scope,
  personId: string,
  unitId: string,
  about: NewPicture,
  sent: Buffer,
): Promise<Picture> => {
  if (!(await scope.first(units, eq(units.id, unitId)))) throw notFound("unit");
  const sentHash = createHash("sha256").update(sent).digest("hex");
  const known = await scope.first(pictures, eq(pictures.id, about.id));
  if (known && (known.unitId !== unitId || known.sentHash !== sentHash))
    throw new Refused("conflict", "Another picture has that id. Nothing was kept.");
  if (!known) {
    const made = await remakePicture(sent);
    await scope.together(async (tx) => {
      await tx.add(pictures, {
        ...about,
        at: new Date(about.at),
        unitId,
        personId,
        width: made.width,
        height: made.height,
        bytes: made.data.length,
        sentHash,
      });
      await tx.add(pictureBytes, { pictureId: about.id, data: made.data });
    });
  }
  const [picture] = await told(scope, [await getPicture(scope, about.id)]);
  if (!picture) throw notFound("picture");
  return picture;
};

export const changePicture = async (
  scope: Scope,
  id: string,
  change: PictureChange,
): Promise<Picture> => {
  await getPicture(scope, id);
  if (Object.keys(change).length > 0) await scope.change(pictures, change, eq(pictures.id, id));
  const [picture] = await told(scope, [await getPicture(scope, id)]);
  if (!picture) throw notFound("picture");
  return picture;
};

/** The bytes of a picture of the workshop. */
/** That a picture is this workshop's, without its bytes. */
export const pictureThere = async (scope: Scope, id: string): Promise<void> => {
  if ((await scope.pick(pictures, { id: pictures.id }, eq(pictures.id, id))).length === 0)
    throw notFound("picture");
};

export const bytesOf = async (scope: Scope, id: string): Promise<Buffer> => {
  const row = await scope.first(pictureBytes, eq(pictureBytes.pictureId, id));
  if (!row) throw notFound("picture");
  return row.data;
};
