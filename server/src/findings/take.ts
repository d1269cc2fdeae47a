import type { FindingOnFile, NewFindingEntry } from "@uppershed/contract";
import { addToFinding, type Finding, type FindingEntry } from "@uppershed/core/inspection";
import { eq } from "drizzle-orm";
import { idTaken, notFound, Refused } from "../errors.ts";
import { idFrom } from "../ids.ts";
import { mapAt } from "../register/maps.ts";
import { findingEntries, findings, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { noteEntry } from "../register/history.ts";
import { refreshState } from "../standing/standing.ts";
import { visitOfUnit } from "../calendar/read.ts";
import { complete, entriesOf, nowOf } from "./store.ts";

type FindingRow = typeof findings.$inferSelect;

/** A fault is found on something that is there: on the map of the revision that it was found on. */
const onTheMap = async (scope: Scope, unitId: string, sent: NewFindingEntry): Promise<void> => {
  const body = sent.body as FindingEntry["body"];
  const named = [
    ...(body.type === "found" || body.type === "changed" ? [body.partId] : []),
    ...(body.type === "mended" ? body.undone : []),
  ].filter((id): id is string => id !== null && id !== undefined);
  if (named.length === 0) return;
  const { map } = await mapAt(scope, unitId, sent.mapRevision);
  const there = new Set([...map.parts, ...map.runs].map((x) => x.id));
  const astray = named.find((id) => !there.has(id));
  if (astray !== undefined)
    throw new Refused(
      "impossible",
      `The map has no "${astray}" at revision ${sent.mapRevision}. Nothing was kept.`,
      [{ where: "body.partId", problem: "is not on the map" }],
    );
};

const columnsOf = (f: Finding): Partial<FindingRow> => ({
  partId: f.partId,
  place: f.place,
  what: f.what,
  severity: f.severity,
  cause: f.cause,
  advice: f.advice,
  partsNeeded: f.partsNeeded,
  minutes: f.minutes,
  state: f.state,
  answer: f.answer?.answer ?? null,
});

/** Takes an entry about a finding of a unit, the first of which makes it; an entry sent twice is kept once. */
export const takeEntry = (
  scope: Scope,
  person: { id: string; name: string },
  unitId: string,
  findingId: string,
  sent: NewFindingEntry,
): Promise<FindingOnFile> =>
  scope.together(async (tx) => {
    if (!(await tx.first(units, eq(units.id, unitId)))) throw notFound("unit");
    await visitOfUnit(tx, sent.visitId, unitId);
    const [there] = await tx.find(findings, eq(findings.id, findingId), { lock: true });
    if (there && there.unitId !== unitId)
      throw new Refused("conflict", "That finding belongs to another unit.");
    const known = await tx.first(findingEntries, eq(findingEntries.id, sent.id));
    if (known && known.findingId !== findingId)
      throw new Refused("conflict", "That entry belongs to another finding.");
    if (!known) {
      const kept = (await entriesOf(tx, [findingId])).get(findingId);
      const before = there && kept ? nowOf(there, kept).finding : undefined;
      // The contract's schema has filled in what the body leaves out.
      const entry: FindingEntry = {
        id: sent.id,
        at: sent.at,
        by: person.name,
        body: sent.body as FindingEntry["body"],
      };
      const next = addToFinding(before, entry);
      if (!next.ok) throw new Refused("conflict", next.problem);
      await onTheMap(tx, unitId, sent);
      if (there) await tx.change(findings, columnsOf(next.finding), eq(findings.id, findingId));
      else
        await tx.addOnce(findings, {
          ...(columnsOf(next.finding) as FindingRow),
          id: findingId,
          unitId,
          visitId: sent.visitId ?? null,
          mapRevision: sent.mapRevision,
          at: new Date(sent.at),
        });
      // The same first entry twice at once: the finding's own row is what both wait for.
      const [held] = await tx.find(findings, eq(findings.id, findingId), { lock: true });
      if (!held || held.unitId !== unitId) throw idTaken();
      await tx.addOnce(findingEntries, {
        id: sent.id,
        findingId,
        personId: person.id,
        byName: person.name,
        position: (kept ? kept.entries.length + kept.unread.length : 0) + 1,
        body: entry.body,
        at: new Date(sent.at),
      });
      if (!(await tx.first(findingEntries, eq(findingEntries.id, sent.id)))) throw idTaken();
      const { body } = entry;
      if (body.type === "mended" && body.undone.length > 0) {
        const why = `${next.finding.what} mended`;
        await noteEntry(
          tx,
          {
            unitId,
            personId: person.id,
            entry: { kind: "opened", at: sent.at, ids: body.undone, why },
          },
          idFrom(`opened ${sent.id}`),
        );
        await refreshState(tx, unitId);
      }
    }
    const [row] = await tx.find(findings, eq(findings.id, findingId));
    const [one] = row ? await complete(tx, [row]) : [];
    if (!one) throw notFound("finding");
    return one;
  });
