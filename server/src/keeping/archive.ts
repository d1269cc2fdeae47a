import { and, eq, isNull } from "drizzle-orm";
import { createHash } from "node:crypto";
import { PassThrough, Readable } from "node:stream";
import { ZipFile } from "yazl";
import { bytesOf } from "../pictures/store.ts";
import { getEdition } from "../reports/editions.ts";
import { reportPdfBeside } from "../reports/pdf-beside.ts";
import {
  customers,
  documents,
  findingEntries,
  findings,
  forecasts,
  kit,
  looks,
  mapRevisions,
  merges,
  notes,
  parts,
  people,
  pictures,
  places,
  pressureTestEntries,
  pressureTests,
  priceLines,
  proposals,
  readings,
  refitEntries,
  refits,
  reportEditions,
  ruleRevisions,
  runEvents,
  runs,
  snapshots,
  springLooks,
  unitHistory,
  units,
  visits,
} from "../schema/index.ts";
import type { Scope } from "../scope.ts";
import { writeRows } from "./archive-tables.ts";

/**
 * Everything that a workshop owns, in one archive of open formats: JSON for all of it, CSV for what is read in tables, PDF for reports,
 * pictures as they are; and a manifest with the count and the SHA-256 of each file. No password, secret or session is in it.
 */

const TABLES = {
  customers,
  units,
  "unit-history": unitHistory,
  "map-revisions": mapRevisions,
  parts,
  notes,
  visits,
  looks,
  readings,
  findings,
  "finding-entries": findingEntries,
  "pressure-tests": pressureTests,
  "pressure-test-entries": pressureTestEntries,
  refits,
  "refit-entries": refitEntries,
  "price-lines": priceLines,
  snapshots,
  "spring-looks": springLooks,
  runs,
  "run-entries": runEvents,
  merges,
  pictures,
  "report-editions": reportEditions,
  "rule-revisions": ruleRevisions,
  places,
  forecasts,
  kit,
  proposals,
} as const;

/** As tables too: what people look through in columns. */
const AS_CSV: ReadonlySet<string> = new Set([
  "customers",
  "units",
  "visits",
  "readings",
  "findings",
  "parts",
  "places",
]);

interface Entry {
  readonly path: string;
  readonly sha256: string;
  readonly bytes: number;
  readonly rows?: number;
}

const FORMAT = { format: "upper-shed/archive", version: 1 } as const;

/** The archive as a stream: one file after another, so that a large workshop does not stand in memory. */
export const archiveOf = (scope: Scope, now = new Date()): Readable => {
  const zip = new ZipFile();
  const kept: Entry[] = [];
  /** A file that is made when its turn comes. */
  const add = (path: string, make: () => Promise<Buffer>, rows?: () => number): void =>
    zip.addReadStreamLazy(path, {}, (done) => {
      make().then(
        (bytes) => {
          const sha256 = createHash("sha256").update(bytes).digest("hex");
          kept.push({ path, sha256, bytes: bytes.length, ...(rows ? { rows: rows() } : {}) });
          done(null, Readable.from([bytes]));
        },
        (error: unknown) => done(error as Error, new PassThrough()),
      );
    });
  const json = (data: unknown): Buffer => Buffer.from(`${JSON.stringify(data, null, 1)}\n`);

  const lay = async (): Promise<void> => {
    add("workshop.json", async () => json(await scope.workshop()));
    add("people.json", async () =>
      json(
        (await scope.find(people)).map(({ id, name, signInName, role, leftAt }) => ({
          id,
          name,
          signInName,
          role,
          leftAt,
        })),
      ),
    );
    for (const [name, table] of Object.entries(TABLES)) {
      let rows: Record<string, unknown>[] = [];
      add(
        `${name}.json`,
        async () => {
          rows = (await scope.find(table)).map(({ workshopId: _workshop, ...row }) => row);
          return json(rows);
        },
        () => rows.length,
      );
      if (AS_CSV.has(name)) add(`${name}.csv`, async () => Buffer.from(writeRows(rows)));
    }
    for (const { id } of await scope.pick(pictures, { id: pictures.id }))
      add(`pictures/${id}.jpg`, () => bytesOf(scope, id));
    for (const { id } of await scope.pick(documents, { id: documents.id }))
      add(`papers/${id}.pdf`, async () => {
        const paper = await scope.first(documents, eq(documents.id, id));
        if (!paper) throw new Error("a paper went while it was read");
        return paper.data;
      });
    for (const { id, number } of await scope.pick(reportEditions, {
      id: reportEditions.id,
      number: reportEditions.number,
    }))
      add(`reports/${id}-edition-${number}.pdf`, async () => {
        const { data } = await getEdition(scope, id);
        return reportPdfBeside(data, (picture) => bytesOf(scope, picture));
      });
    const live = await scope.count(units, and(isNull(units.mergedInto)), 1_000_000);
    add("manifest.json", async () =>
      json({ ...FORMAT, at: now.toISOString(), units: live, files: kept }),
    );
    zip.end();
  };
  lay().catch((error: unknown) =>
    (zip.outputStream as unknown as PassThrough).destroy(error as Error),
  );
  return zip.outputStream as unknown as Readable;
};
