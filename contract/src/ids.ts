import { readAsId, type IdOf } from "@uppershed/core/watermap";
import { z } from "zod";

/** Ids of what the server keeps, each of its kind: those of people and things that came first are made by it, all others on the device. */

export type UnitId = IdOf<"unit">;
export type CustomerId = IdOf<"customer">;
export type VisitId = IdOf<"visit">;
/** Of a procedure that is run on a unit. */
export type RunId = IdOf<"run">;
export type FindingId = IdOf<"finding">;
export type EditionId = IdOf<"edition">;
export type PersonId = IdOf<"person">;
export type PlaceId = IdOf<"place">;
export type WorkshopId = IdOf<"workshop">;

export const unitId = readAsId<UnitId>(z.uuid());
export const customerId = readAsId<CustomerId>(z.uuid());
export const visitId = readAsId<VisitId>(z.uuid());
export const runId = readAsId<RunId>(z.uuid());
export const findingId = readAsId<FindingId>(z.uuid());
export const editionId = readAsId<EditionId>(z.uuid());
export const personId = readAsId<PersonId>(z.uuid());
export const placeId = readAsId<PlaceId>(z.uuid());
export const workshopId = readAsId<WorkshopId>(z.uuid());
