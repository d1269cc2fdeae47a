import type { NewTestEntry, PressureTestOnFile, TestLine } from "@uppershed/contract";
import {
  addToTest,
  outcomeOf,
  type TestBody,
  testBodySchema,
  type TestEntry,
  testInWords,
  testNow,
} from "@uppershed/core/hold";
import { and, eq, gt, inArray, type SQL, sql } from "drizzle-orm";
import { createHash } from "node:crypto";
import { visitOfUnit } from "../calendar/read.ts";
import { type KeptEntries, keptEntries } from "../kept-entries.ts";
import { idTaken, notFound, Refused } from "../errors.ts";
import { familyOf } from "../register/family.ts";
import { mapAt } from "../register/maps.ts";
import { pressureTestEntries, pressureTests, unitHistory, units } from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import type { CertificateTask } from "./certificate-pdf.ts";

type TestRow = typeof pressureTests.$inferSelect;

const MOST = 300;

const entriesOf = async (scope: Scope, testId: string): Promise<KeptEntries<TestBody>> =>
  keptEntries(
    await scope.find(pressureTestEntries, eq(pressureTestEntries.testId, testId), {
      order: sql`${pressureTestEntries.position}`,
    }),
    testBodySchema,
  );

/** When something was opened, or the map drawn otherwise, after a test had ended. */
const openedSince = async (scope: Scope, row: TestRow): Promise<string | null> => {
  if (!row.endedAt) return null;
  const later = await scope.find(
    unitHistory,
    and(
      eq(unitHistory.unitId, row.unitId),
      inArray(unitHistory.kind, ["opened", "map-revised"]),
      gt(unitHistory.at, row.endedAt),
    ),
    { order: sql`${unitHistory.at}`, limit: MOST },
  );
  if (later.length === 0) return null;
  const [begun] = (await entriesOf(scope, row.id)).entries;
  const owners = new Set(begun?.body.type === "begun" ? begun.body.plan.owners : []);
  const first = later.find(
    ({ kind, body }) =>
      kind === "map-revised" || ((body["ids"] ?? []) as string[]).some((id) => owners.has(id)),
  );
  return first ? first.at.toISOString() : null;
};

const lineOf = async (scope: Scope, row: TestRow, unitName: string): Promise<TestLine> => {
  const begun = await scope.first(
    pressureTestEntries,
    and(eq(pressureTestEntries.testId, row.id), eq(pressureTestEntries.position, 1)) as SQL,
  );
  const body = testBodySchema.safeParse(begun?.body);
  const first = body.success && body.data.type === "begun" ? body.data : undefined;
  return {
    id: row.id,
    unitId: row.unitId,
    unitName,
    visitId: row.visitId,
    mapRevision: row.mapRevision,
    title: row.title,
    outcome: row.outcome,
    at: row.at.toISOString(),
    endedAt: row.endedAt?.toISOString() ?? null,
    holdPoints: [...(first?.holdPoints ?? [])],
    holdAt: [...(first?.holdAt ?? [])],
    retestOf: first?.retestOf ?? null,
    openedSince: await openedSince(scope, row),
  };
};

const namesOfUnits = async (scope: Scope, rows: readonly TestRow[]): Promise<Map<string, string>> =>
  new Map(
    (rows.length > 0
      ? await scope.pick(
          units,
          { id: units.id, name: units.name },
          inArray(units.id, [...new Set(rows.map((r) => r.unitId))]),
        )
      : []
    ).map((u) => [u.id, u.name]),
  );

const linesOf = async (scope: Scope, rows: readonly TestRow[]): Promise<TestLine[]> => {
  const names = await namesOfUnits(scope, rows);
  return Promise.all(rows.map((row) => lineOf(scope, row, names.get(row.unitId) ?? "")));
};

/** Tests of a unit, newest first. */
export const testsOfUnit = async (scope: Scope, unitId: string): Promise<TestLine[]> =>
  linesOf(
    scope,
    await scope.find(pressureTests, inArray(pressureTests.unitId, await familyOf(scope, unitId)), {
      order: sql`${pressureTests.at} desc, ${pressureTests.id}`,
      limit: MOST,
    }),
  );

/** Tests of all units that are running. */
export const runningTests = async (scope: Scope): Promise<TestLine[]> =>
  linesOf(
    scope,
    await scope.find(pressureTests, eq(pressureTests.outcome, "running"), {
      order: sql`${pressureTests.at} desc, ${pressureTests.id}`,
      limit: MOST,
    }),
  );

/** What the tests of a visit came to by a moment, in words. */
export const testsOfVisit = async (
  scope: Scope,
  visitId: string,
  asOf?: Date,
): Promise<{ at: string; lines: string[] }[]> => {
  const rows = await scope.find(pressureTests, eq(pressureTests.visitId, visitId), {
    order: sql`${pressureTests.at}`,
    limit: MOST,
  });
  const all = await Promise.all(
    rows.map(async (row) => {
      const { entries } = await entriesOf(scope, row.id);
      const known = entries.filter((e) => asOf === undefined || Date.parse(e.at) <= asOf.getTime());
      const { test } = testNow(known);
      return test ? [{ at: test.begunAt, lines: testInWords(test) }] : [];
    }),
  );
  return all.flat();
};

const told = async (scope: Scope, row: TestRow): Promise<PressureTestOnFile> => {
  const { entries, unread } = await entriesOf(scope, row.id);
  const [line] = await linesOf(scope, [row]);
  const { astray } = testNow(entries);
  return { ...(line as TestLine), entries, withoutEffect: [...unread, ...astray] };
};

/** A test with everything that was entered. */
export const testBy = async (scope: Scope, unitId: string, testId: string) => {
  const row = await scope.first(pressureTests, eq(pressureTests.id, testId));
  if (!row || !(await familyOf(scope, unitId)).includes(row.unitId)) throw notFound("test");
  return told(scope, row);
};

/** What the certificate of a test is made of, and a tag that changes with any of it. */
export const certificateTask = async (
  scope: Scope,
  unitId: string,
  testId: string,
): Promise<{ task: CertificateTask; tag: string }> => {
  const of = await testBy(scope, unitId, testId);
  const { test } = testNow(of.entries);
  const unit = await scope.first(units, eq(units.id, of.unitId));
  if (!test || !unit) throw notFound("test");
  const { name, place, units: system } = await scope.workshop();
  const { openedSince } = of;
  const tag = [testId, of.entries.at(-1)?.id, openedSince, unit.name, unit.craft, name, system];
  return {
    task: {
      test,
      unit: unit.name,
      craft: unit.craft,
      openedSince,
      workshop: { name, place, units: system },
    },
    tag: createHash("sha256").update(JSON.stringify(tag)).digest("hex").slice(0, 32),
  };
};

/** What a test names must be on the map of the revision that it was planned on. */
const onTheMap = async (scope: Scope, unitId: string, sent: NewTestEntry): Promise<void> => {
  const body = sent.body as TestEntry["body"];
  if (body.type !== "begun") return;
  const { map } = await mapAt(scope, unitId, sent.mapRevision);
  const there = new Set<string>([...map.parts, ...map.runs].map((x) => x.id));
  const astray = [...body.plan.owners, ...body.holdAt].find((id) => !there.has(id));
  if (astray !== undefined)
    throw new Refused(
      "impossible",
      `The map has no "${astray}" at revision ${sent.mapRevision}. Nothing was kept.`,
      [{ where: "body.plan.owners", problem: "is not on the map" }],
    );
};

/** Takes an entry of a test, the first of which begins it; an entry sent twice is kept once. */
export const takeTestEntry = (
  scope: Scope,
  person: { id: string; name: string },
  unitId: string,
  testId: string,
  sent: NewTestEntry,
): Promise<PressureTestOnFile> =>
  scope.together(async (tx) => {
    if (!(await tx.first(units, eq(units.id, unitId)))) throw notFound("unit");
    await visitOfUnit(tx, sent.visitId, unitId);
    const [there] = await tx.find(pressureTests, eq(pressureTests.id, testId), { lock: true });
    if (there && there.unitId !== unitId)
      throw new Refused("conflict", "That test belongs to another unit.");
    const known = await tx.first(pressureTestEntries, eq(pressureTestEntries.id, sent.id));
    if (known && known.testId !== testId)
      throw new Refused("conflict", "That entry belongs to another test.");
    if (!known) {
      const kept = await entriesOf(tx, testId);
      const entry: TestEntry = {
        id: sent.id,
        at: sent.at,
        by: person.name,
        // The contract's schema has filled in what the body leaves out.
        body: sent.body as TestEntry["body"],
      };
      const next = addToTest(testNow(kept.entries).test, entry);
      if (!next.ok) throw new Refused("conflict", next.problem);
      await onTheMap(tx, unitId, sent);
      const { test } = next;
      const now = {
        title: test.plan.title,
        outcome: outcomeOf(test),
        endedAt: test.ended ? new Date(test.ended.at) : null,
      };
      if (there) await tx.change(pressureTests, now, eq(pressureTests.id, testId));
      else
        await tx.addOnce(pressureTests, {
          ...now,
          id: testId,
          unitId,
          visitId: sent.visitId ?? null,
          mapRevision: sent.mapRevision,
          at: new Date(sent.at),
        });
      const [held] = await tx.find(pressureTests, eq(pressureTests.id, testId), { lock: true });
      if (!held || held.unitId !== unitId) throw idTaken();
      await tx.addOnce(pressureTestEntries, {
        id: sent.id,
        testId,
        personId: person.id,
        byName: person.name,
        position: kept.entries.length + kept.unread.length + 1,
        body: entry.body,
        at: new Date(sent.at),
      });
      if (!(await tx.first(pressureTestEntries, eq(pressureTestEntries.id, sent.id))))
        throw idTaken();
    }
    const row = await tx.first(pressureTests, eq(pressureTests.id, testId));
    if (!row) throw notFound("test");
    return told(tx, row);
  });
