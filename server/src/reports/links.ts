import { DAY_MS } from "@uppershed/core/quantity";
import type { OwnerLink, ReportData } from "@uppershed/contract";
import { eq, sql } from "drizzle-orm";
import { createHmac, timingSafeEqual } from "node:crypto";
import type { Db } from "../db.ts";
import { idTaken, notFound, Refused } from "../errors.ts";
import { ownerLinks, reportEditions, workshops } from "../schema/index.ts";
import { type Scope, scopeFor } from "../scope.ts";
import { namesOf } from "../people/names.ts";
import { getVisit } from "../calendar/read.ts";

/** Links for owners: an id and when it ends, signed with the workshop's own key. Good until then, or until they are withdrawn. */

type LinkRow = typeof ownerLinks.$inferSelect;

const signed = (id: string, expiresAt: Date, key: string): string =>
  createHmac("sha256", key).update(`owner ${id} ${expiresAt.getTime()}`).digest("base64url");

const keyOf = async (db: Db, workshopId: string): Promise<string> => {
  const [row] = await db
    .select({ key: workshops.linkKey })
    .from(workshops)
    .where(eq(workshops.id, workshopId));
  if (!row) throw new Refused("not-found", "There is no such page.");
  return row.key;
};

const tokenOf = (row: LinkRow, key: string): string =>
  `${Buffer.from(row.id.replaceAll("-", ""), "hex").toString("base64url")}.${signed(row.id, row.expiresAt, key)}`;

const told = (
  row: LinkRow,
  key: string,
  by: string,
  now: Date,
  of: { number: number; owner: string } | undefined,
): OwnerLink => ({
  id: row.id,
  visitId: row.visitId,
  edition: of?.number ?? null,
  owner: of?.owner ?? "",
  at: row.at.toISOString(),
  by,
  expiresAt: row.expiresAt.toISOString(),
  withdrawnAt: row.withdrawnAt?.toISOString() ?? null,
  path: row.withdrawnAt || row.expiresAt <= now ? null : `/owner/${tokenOf(row, key)}`,
});

export const listLinks = async (
  db: Db,
  scope: Scope,
  visitId: string,
  now: Date,
): Promise<OwnerLink[]> => {
  await getVisit(scope, visitId);
  const rows = await scope.find(ownerLinks, eq(ownerLinks.visitId, visitId), {
    order: sql`${ownerLinks.at} desc`,
  });
  const names = await namesOf(
    scope,
    rows.map((l) => l.personId),
  );
  const key = await keyOf(db, scope.workshopId);
  const { id, number, data } = reportEditions;
  const editions = await scope.pick(
    reportEditions,
    { id, number, data },
    eq(reportEditions.visitId, visitId),
  );
  const of = new Map(
    editions.map((e) => [
      e.id,
      { number: e.number, owner: (e.data as Partial<ReportData>).unit?.owner ?? "" },
    ]),
  );
  return rows.map((row) =>
    told(row, key, names.get(row.personId) ?? "", now, of.get(row.editionId ?? "")),
  );
};

/** Makes a link that opens one edition of a visit's report, and nothing else; sent twice, it is one. */
export const makeLink = async (
  db: Db,
  scope: Scope,
  personId: string,
  visitId: string,
  asked: { id: string; editionId: string; days: number },
  now: Date,
): Promise<OwnerLink[]> => {
  const visit = await getVisit(scope, visitId);
  const edition = await scope.first(reportEditions, eq(reportEditions.id, asked.editionId));
  if (!edition || edition.visitId !== visitId) throw notFound("edition of this visit's report");
  // Whole seconds: what is signed must read the same from the database.
  const expiresAt = new Date(Math.floor((now.getTime() + asked.days * DAY_MS) / 1000) * 1000);
  await scope.addOnce(ownerLinks, {
    id: asked.id,
    unitId: visit.unitId,
    visitId,
    personId,
    editionId: asked.editionId,
    expiresAt,
  });
  const kept = await scope.first(ownerLinks, eq(ownerLinks.id, asked.id));
  if (!kept || kept.visitId !== visitId) throw idTaken();
  return listLinks(db, scope, visitId, now);
};

export const withdrawLink = async (
  db: Db,
  scope: Scope,
  linkId: string,
  now: Date,
): Promise<OwnerLink[]> => {
  const row = await scope.first(ownerLinks, eq(ownerLinks.id, linkId));
  if (!row) throw notFound("link");
  if (!row.withdrawnAt)
    await scope.change(ownerLinks, { withdrawnAt: now }, eq(ownerLinks.id, linkId));
  return listLinks(db, scope, row.visitId, now);
};

const UUID_BYTES = 16;

/** What a link opens: one edition of one report of one workshop, whoever the unit belongs to since. The same answer for every link that does not hold, whatever the reason. */
export const openLink = async (
  db: Db,
  token: string,
  now: Date,
): Promise<{ scope: Scope; link: LinkRow; editionId: string }> => {
  const no = (): Refused =>
    new Refused("gone", "This page is not there any more. Ask the workshop for a new link.");
  const [id64 = "", signature = "", ...more] = token.split(".");
  const bytes = Buffer.from(id64, "base64url");
  if (bytes.length !== UUID_BYTES || more.length > 0) throw no();
  const hex = bytes.toString("hex");
  const id = `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
  const [link] = await db.select().from(ownerLinks).where(eq(ownerLinks.id, id));
  if (!link) throw no();
  const wanted = Buffer.from(signed(link.id, link.expiresAt, await keyOf(db, link.workshopId)));
  const given = Buffer.from(signature);
  if (given.length !== wanted.length || !timingSafeEqual(given, wanted)) throw no();
  if (link.withdrawnAt || link.expiresAt <= now || link.editionId === null) throw no();
  return { scope: scopeFor(db, link.workshopId), link, editionId: link.editionId };
};
