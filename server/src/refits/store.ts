import type {
  Adoption,
  NewRefitEntry,
  OwnerOfferAnswer,
  RefitLine,
  RefitOnFile,
} from "@uppershed/contract";
import { outcomeOf, testBodySchema, testNow } from "@uppershed/core/hold";
import {
  addToRefit,
  heldOpen,
  type Offer,
  adopt,
  piecesOf,
  rebase,
  type Refit,
  type RefitBody,
  refitBodySchema,
  type RefitEntry,
  refitNow,
} from "@uppershed/core/refit";
import { MAP_VERSION, readWaterMap, runsAt, type WaterMap } from "@uppershed/core/watermap";
import { eq, inArray, sql } from "drizzle-orm";
import { visitOfUnit } from "../calendar/read.ts";
import { type KeptEntries, keptEntries } from "../kept-entries.ts";
import { idTaken, notFound, Refused } from "../errors.ts";
import { saveMap } from "../maps/save.ts";
import { familyOf } from "../register/family.ts";
import { getMap, mapAt, soundMap } from "../register/maps.ts";
import {
  pressureTestEntries,
  pressureTests,
  refitEntries,
  refits,
  units,
} from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { testsOfUnit } from "../tests-of-pressure/store.ts";

type RefitRow = typeof refits.$inferSelect;
interface Person {
  /** None of the workshop: the owner, by their link. */
  readonly id: string | null;
  readonly name: string;
}

const MOST = 200;

const MAPS = ["document", "today", "proposed"] as const;

/** An entry whose maps were kept by an earlier version of their format, brought up as every map is when it is read. */
const ofToday = <Row extends { readonly body: RefitBody }>(row: Row): Row => {
  const body: Record<string, unknown> = { ...row.body };
  for (const key of MAPS) {
    const map = body[key] as { readonly version?: unknown } | undefined;
    if (map === undefined || map.version === MAP_VERSION) continue;
    const read = readWaterMap(map);
    if (read.ok) body[key] = read.map;
  }
  return { ...row, body: body as RefitBody };
};

const entriesOf = async (scope: Scope, refitId: string): Promise<KeptEntries<RefitBody>> => {
  const rows = await scope.find(refitEntries, eq(refitEntries.refitId, refitId), {
    order: sql`${refitEntries.position}`,
  });
  return keptEntries(rows.map(ofToday), refitBodySchema);
};

/** What is only thought of keeps nothing open yet. */
const isBegun = ({ withdrawn, adopted, work }: Refit): boolean =>
  !withdrawn && (adopted.length > 0 || Object.keys(work).length > 0);

const lineOf = (row: RefitRow, refit: Refit | undefined): RefitLine => ({
  id: row.id,
  unitId: row.unitId,
  name: row.name,
  at: row.at.toISOString(),
  changedAt: row.changedAt.toISOString(),
  withdrawnAt: row.withdrawnAt?.toISOString() ?? null,
  heldOpen: refit && isBegun(refit) ? heldOpen(refit) : [],
});

/** Refits of a unit, newest first. */
export const refitsOfUnit = async (scope: Scope, unitId: string): Promise<RefitLine[]> => {
  const rows = await scope.find(refits, inArray(refits.unitId, await familyOf(scope, unitId)), {
    order: sql`${refits.at} desc, ${refits.id}`,
    limit: MOST,
  });
  return Promise.all(
    rows.map(async (row) => lineOf(row, refitNow((await entriesOf(scope, row.id)).entries).refit)),
  );
};

const rowOf = async (scope: Scope, unitId: string, refitId: string): Promise<RefitRow> => {
  const row = await scope.first(refits, eq(refits.id, refitId));
  if (!row || !(await familyOf(scope, unitId)).includes(row.unitId)) throw notFound("refit");
  return row;
};

const told = async (scope: Scope, row: RefitRow): Promise<RefitOnFile> => {
  const { entries, unread } = await entriesOf(scope, row.id);
  const { refit, astray } = refitNow(entries);
  const unit = await scope.first(units, eq(units.id, row.unitId));
  if (!refit || !unit) throw notFound("refit");
  const { document, offers, ...rest } = refit;
  return {
    ...lineOf(row, refit),
    unitName: unit.name,
    mapRevision: unit.mapRevision,
    document,
    base: (await mapAt(scope, row.unitId, refit.basedOn)).map,
    refit: {
      ...rest,
      // The maps that were offered stay with the offer; they are shown to the owner.
      offers: offers.map(({ today: _today, proposed: _proposed, ...offer }) => offer),
    },
    withoutEffect: [...unread, ...astray],
  };
};

/** A refit with everything that was said of it. */
export const refitBy = async (
  scope: Scope,
  unitId: string,
  refitId: string,
): Promise<RefitOnFile> => told(scope, await rowOf(scope, unitId, refitId));

/** The unit's map now, and the refit brought up to it. */
export const refitMaps = async (
  scope: Scope,
  unitId: string,
  refitId: string,
): Promise<{ today: WaterMap; proposed: WaterMap; refit: Refit }> => {
  const row = await rowOf(scope, unitId, refitId);
  const { refit } = refitNow((await entriesOf(scope, refitId)).entries);
  if (!refit) throw notFound("refit");
  const today = (await getMap(scope, row.unitId)).document;
  const { map: base } = await mapAt(scope, row.unitId, refit.basedOn);
  const now = rebase(base, today, refit.document);
  if (!now.ok)
    throw new Refused(
      "impossible",
      `The unit's map has been changed so that this no longer fits it: ${now.problem}. Draw it on the map bench once more and save it.`,
    );
  return { today, proposed: now.map, refit };
};

/** A test that proves a piece of work passed on this unit, and pressed what it is said to prove. */
const provedBy = async (
  scope: Scope,
  unitId: string,
  body: Extract<RefitEntry["body"], { type: "work" }>,
): Promise<void> => {
  if (body.testId === undefined) return;
  const test = await scope.first(pressureTests, eq(pressureTests.id, body.testId));
  if (!test || test.unitId !== unitId)
    throw new Refused("impossible", "There is no such pressure test of this unit.");
  const rows = await scope.find(pressureTestEntries, eq(pressureTestEntries.testId, test.id), {
    order: sql`${pressureTestEntries.position}`,
  });
  const { entries } = keptEntries(rows, testBodySchema);
  const { test: found } = testNow(entries);
  if (!found || outcomeOf(found) !== "tight")
    throw new Refused("impossible", "That test has not passed: it proves nothing yet.");
  const line = (await testsOfUnit(scope, unitId)).find((t) => t.id === test.id);
  if (line?.openedSince)
    throw new Refused(
      "impossible",
      "Something of what that test pressed was opened or drawn otherwise since: test it again.",
    );
  const pressed = new Set(found.plan.owners);
  const { map } = await mapAt(scope, unitId, test.mapRevision);
  // A valve that stood shut is pressed on each of its sides, though not within.
  const isPressed = (x: string): boolean => {
    const owner = x.split(":")[0] ?? x;
    const lines = runsAt(map, owner);
    return pressed.has(owner) || (lines.length > 0 && lines.every((r) => pressed.has(r.id)));
  };
  const not = body.of.filter((x) => !isPressed(x));
  if (not.length > 0)
    throw new Refused(
      "impossible",
      `That test did not press all of it: ${not.length} of ${body.of.length} were not under it.`,
      not.slice(0, 10).map((x) => ({ where: x, problem: "was not under that test" })),
    );
};

/** What an entry names must be on the unit's own map at its revision. */
const fitsUnit = async (scope: Scope, unitId: string, body: RefitEntry["body"]): Promise<void> => {
  if (body.type === "made" || body.type === "drawn") {
    soundMap(body.document);
    await mapAt(scope, unitId, body.basedOn);
  }
  if (body.type === "offered") {
    await visitOfUnit(scope, body.visitId, unitId);
    soundMap(body.today);
    soundMap(body.proposed);
  }
  if (body.type === "answered")
    throw new Refused("impossible", "An offer is answered by the owner's link.");
  if (body.type === "adopted")
    throw new Refused("impossible", "What is installed is said by itself: it changes the map too.");
  if (body.type === "work") await provedBy(scope, unitId, body);
};

const add = async (
  tx: Scope,
  person: Person,
  unitId: string,
  refitId: string,
  entry: RefitEntry,
): Promise<void> => {
  const [there] = await tx.find(refits, eq(refits.id, refitId), { lock: true });
  if (there && there.unitId !== unitId)
    throw new Refused("conflict", "That refit belongs to another unit.");
  const kept = await entriesOf(tx, refitId);
  const next = addToRefit(refitNow(kept.entries).refit, entry);
  if (!next.ok) throw new Refused("conflict", next.problem);
  const { refit } = next;
  const now = {
    name: refit.name,
    basedOn: refit.basedOn,
    changedAt: new Date(entry.at),
    withdrawnAt: refit.withdrawn ? new Date(refit.withdrawn.at) : null,
  };
  if (there) await tx.change(refits, now, eq(refits.id, refitId));
  else await tx.addOnce(refits, { ...now, id: refitId, unitId, at: new Date(entry.at) });
  const [held] = await tx.find(refits, eq(refits.id, refitId), { lock: true });
  if (!held || held.unitId !== unitId) throw idTaken();
  await tx.addOnce(refitEntries, {
    id: entry.id,
    refitId,
    personId: person.id,
    byName: person.name,
    position: kept.entries.length + kept.unread.length + 1,
    body: entry.body,
    at: new Date(entry.at),
  });
  if (!(await tx.first(refitEntries, eq(refitEntries.id, entry.id)))) throw idTaken();
};

/** Whether an entry is there already; one that belongs to another refit is refused. */
const isKept = async (tx: Scope, refitId: string, id: string): Promise<boolean> => {
  const known = await tx.first(refitEntries, eq(refitEntries.id, id));
  if (known && known.refitId !== refitId)
    throw new Refused("conflict", "That entry belongs to another refit.");
  return known !== undefined;
};

/** Takes an entry of a refit, the first of which makes it; an entry sent twice is kept once. */
export const takeRefitEntry = (
  scope: Scope,
  person: Person,
  unitId: string,
  refitId: string,
  sent: NewRefitEntry,
): Promise<RefitOnFile> =>
  scope.together(async (tx) => {
    if (!(await tx.first(units, eq(units.id, unitId)))) throw notFound("unit");
    if (!(await isKept(tx, refitId, sent.id))) {
      // The contract's schema has filled in what the body leaves out.
      const body = sent.body as RefitEntry["body"];
      await fitsUnit(tx, unitId, body);
      await add(tx, person, unitId, refitId, { id: sent.id, at: sent.at, by: person.name, body });
    }
    return refitBy(tx, unitId, refitId);
  });

/** Pieces that are installed: the unit's map gets its next revision with them in it, and the refit says so; both or neither. */
export const adoptPieces = (
  scope: Scope,
  person: Person & { readonly id: string },
  unitId: string,
  refitId: string,
  { id, at, pieces, basedOn }: Adoption,
): Promise<RefitOnFile> =>
  scope.together(async (tx) => {
    const [unit] = await tx.find(units, eq(units.id, unitId), { lock: true });
    if (!unit) throw notFound("unit");
    if (!(await isKept(tx, refitId, id))) {
      const { today, proposed, refit } = await refitMaps(tx, unitId, refitId);
      if (unit.mapRevision !== basedOn)
        throw new Refused(
          "conflict",
          `The map has been changed since: it is at revision ${unit.mapRevision}, you looked at ${basedOn}.`,
        );
      const done = adopt(today, proposed, pieces);
      if (!done.ok) throw new Refused("impossible", done.problem);
      const chosen = piecesOf(today, proposed).filter((p) => pieces.includes(p.id));
      const there = new Set<string>([...done.map.parts, ...done.map.runs].map((x) => x.id));
      const of = chosen.flatMap((p) => [...p.parts, ...p.runs]).filter((x) => there.has(x));
      const { revision } = await saveMap(tx, unitId, person.id, {
        basedOn,
        why: `Installed of "${refit.name}": ${pieces.length} ${pieces.length === 1 ? "piece" : "pieces"}`,
        document: done.map,
      });
      await add(tx, person, unitId, refitId, {
        id,
        at,
        by: person.name,
        body: { type: "adopted", pieces, of, revision },
      });
    }
    return refitBy(tx, unitId, refitId);
  });

/** What is open to the owner by the link to a visit's report: the last offer of each refit that was made with that visit. */
export const offersOf = async (
  scope: Scope,
  unitId: string,
  visitId: string,
): Promise<(Offer & { name: string; refitId: string })[]> => {
  const rows = await scope.find(refits, eq(refits.unitId, unitId), {
    order: sql`${refits.at}`,
    limit: MOST,
  });
  const all = await Promise.all(
    rows.map(async (row) => {
      const { refit } = refitNow((await entriesOf(scope, row.id)).entries);
      const offer = refit?.offers.filter((o) => o.visitId === visitId).at(-1);
      return refit && offer && !refit.withdrawn
        ? [{ ...offer, name: refit.name, refitId: row.id }]
        : [];
    }),
  );
  return all.flat();
};

/** Keeps the owner's answer to an offer; sent twice, it is kept once. */
export const answerOffer = (
  scope: Scope,
  unitId: string,
  visitId: string,
  offerId: string,
  asked: OwnerOfferAnswer,
): Promise<void> =>
  scope.together(async (tx) => {
    const offer = (await offersOf(tx, unitId, visitId)).find((o) => o.id === offerId);
    if (!offer) throw notFound("offer");
    if (await isKept(tx, offer.refitId, asked.id)) return;
    await add(tx, { id: null, name: asked.who }, unitId, offer.refitId, {
      id: asked.id,
      at: new Date().toISOString(),
      by: asked.who,
      body: { type: "answered", offer: offerId, answer: asked.answer, who: asked.who },
    });
  });
