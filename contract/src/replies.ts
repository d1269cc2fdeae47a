import type { z } from "zod";
import { customerListSchema, customerSchema, registerOutcomeSchema } from "./customers.ts";
import { findingListSchema, findingSchema } from "./findings.ts";
import {
  frostWatchSchema,
  kitListSchema,
  placeListSchema,
  rulesChangedSchema,
  rulesSchema,
  waitingSchema,
} from "./house.ts";
import { keepingSchema, restoredSchema } from "./keeping.ts";
import { lookListSchema } from "./looks.ts";
import { noteListSchema, noteSchema } from "./notes.ts";
import { partListSchema, registeredPartSchema } from "./parts.ts";
import {
  inviteMadeSchema,
  inviteSchema,
  joinToldSchema,
  meSchema,
  passwordChangedSchema,
  peopleSchema,
  recoveryCodesSchema,
  secondFactorBegunSchema,
  secondFactorSchema,
  sessionEndedSchema,
  sessionsSchema,
  setUpDoneSchema,
  setUpNeededSchema,
  takenAwaySchema,
} from "./people.ts";
import {
  documentListSchema,
  documentSchema,
  pictureListSchema,
  pictureSchema,
} from "./pictures.ts";
import { readingListSchema } from "./readings.ts";
import {
  editionLineSchema,
  editionListSchema,
  ownerLinkListSchema,
  reportDataSchema,
  springListSchema,
} from "./reports.ts";
import {
  ownerOffersSchema,
  priceListSchema,
  refitKitSchema,
  refitListSchema,
  refitSchema,
} from "./refits.ts";
import { testListSchema, testSchema } from "./tests.ts";
import { clockListSchema, runNewsSchema, runSchema, sentEventsSchema } from "./runs.ts";
import {
  mapRevisionSchema,
  revisionListSchema,
  standingSchema,
  unitListSchema,
  tookElsewhereSchema,
  unitRunsSchema,
  unitSchema,
} from "./units.ts";
import { snapshotListSchema, visitListSchema, visitSchema } from "./visits.ts";

/** What each route of the API answers when all is well, as the screens rely on it. Checked in development and in the tests. */
const REPLIES: Readonly<Record<string, z.ZodType>> = {
  "GET /me": meSchema,
  "POST /sign-in": meSchema,
  "GET /set-up": setUpNeededSchema,
  "POST /set-up": setUpDoneSchema,
  "PATCH /workshop": meSchema,
  "POST /workshop/take-away": takenAwaySchema,
  "GET /keeping": keepingSchema,
  "POST /keeping/now": keepingSchema,
  "POST /keeping/:id/restore": restoredSchema,
  "POST /customers/:id/erase": customerSchema,
  "GET /rules": rulesSchema,
  "POST /rules": rulesChangedSchema,
  "GET /places": placeListSchema,
  "POST /places": placeListSchema,
  "PATCH /places/:id": placeListSchema,
  "GET /frost-watch": frostWatchSchema,
  "POST /places/:id/forecast": frostWatchSchema,
  "GET /kit": kitListSchema,
  "POST /kit": kitListSchema,
  "PATCH /kit/:id": kitListSchema,
  "GET /waiting": waitingSchema,
  "POST /waiting/:id": waitingSchema,
  "GET /people": peopleSchema,
  "PATCH /people/:id": peopleSchema,
  "POST /people/:id/reset": inviteMadeSchema,
  "POST /people/invites": inviteMadeSchema,
  "POST /people/invites/:id/withdraw": inviteSchema,
  "GET /join/:id": joinToldSchema,
  "POST /join/:id": meSchema,
  "POST /me/password": passwordChangedSchema,
  "GET /me/second-factor": secondFactorSchema,
  "POST /me/second-factor": secondFactorBegunSchema,
  "POST /me/second-factor/prove": recoveryCodesSchema,
  "POST /me/second-factor/end": secondFactorSchema,
  "GET /me/sessions": sessionsSchema,
  "POST /me/sessions/:id/end": sessionEndedSchema,
  "GET /units": unitListSchema,
  "POST /units": unitSchema,
  "GET /units/:id": unitSchema,
  "PATCH /units/:id": unitSchema,
  "POST /units/:id/merge": unitSchema,
  "POST /units/:id/in-use": unitSchema,
  "GET /units/:id/standing": standingSchema,
  "GET /units/:id/runs": unitRunsSchema,
  "GET /units/:id/took": tookElsewhereSchema,
  "GET /units/:id/map": mapRevisionSchema,
  "POST /units/:id/map": mapRevisionSchema,
  "GET /units/:id/map/revisions": revisionListSchema,
  "GET /units/:id/map/:id": mapRevisionSchema,
  "GET /units/:id/looks": lookListSchema,
  "POST /units/:id/looks": lookListSchema,
  "GET /units/:id/notes": noteListSchema,
  "POST /units/:id/notes": noteSchema,
  "GET /units/:id/findings": findingListSchema,
  "POST /units/:id/findings/:id": findingSchema,
  "GET /tests/running": testListSchema,
  "GET /units/:id/tests": testListSchema,
  "GET /units/:id/tests/:id": testSchema,
  "POST /units/:id/tests/:id": testSchema,
  "GET /units/:id/refits": refitListSchema,
  "GET /units/:id/refits/:id": refitSchema,
  "POST /units/:id/refits/:id": refitSchema,
  "GET /units/:id/refits/:id/kit": refitKitSchema,
  "POST /units/:id/refits/:id/adopt": refitSchema,
  "GET /owner/:id/offers": ownerOffersSchema,
  "POST /owner/:id/offers/:id": ownerOffersSchema,
  "GET /prices": priceListSchema,
  "PUT /prices": priceListSchema,
  "GET /units/:id/pictures": pictureListSchema,
  "POST /units/:id/pictures": pictureSchema,
  "PATCH /pictures/:id": pictureSchema,
  "GET /units/:id/documents": documentListSchema,
  "POST /units/:id/documents": documentSchema,
  "GET /units/:id/readings": readingListSchema,
  "POST /units/:id/readings": readingListSchema,
  "GET /units/:id/spring": springListSchema,
  "POST /units/:id/spring": springListSchema,
  "GET /units/:id/snapshots": snapshotListSchema,
  "PATCH /units/:id/parts/:id": registeredPartSchema,
  "GET /parts": partListSchema,
  "GET /findings": findingListSchema,
  "GET /customers": customerListSchema,
  "POST /customers": customerSchema,
  "GET /customers/:id": customerSchema,
  "PATCH /customers/:id": customerSchema,
  "POST /customers/:id/merge": customerSchema,
  "POST /register": registerOutcomeSchema,
  "GET /visits": visitListSchema,
  "POST /visits": visitSchema,
  "GET /visits/:id": visitSchema,
  "PATCH /visits/:id": visitSchema,
  "GET /visits/:id/snapshots": snapshotListSchema,
  "POST /visits/:id/snapshots": snapshotListSchema,
  "GET /visits/:id/report": reportDataSchema,
  "GET /visits/:id/editions": editionListSchema,
  "POST /visits/:id/editions": editionLineSchema,
  "GET /editions/:id": reportDataSchema,
  "GET /visits/:id/links": ownerLinkListSchema,
  "POST /visits/:id/links": ownerLinkListSchema,
  "POST /links/:id/withdraw": ownerLinkListSchema,
  "GET /owner/:id": reportDataSchema,
  "POST /runs": runSchema,
  "GET /runs/:id": runSchema,
  "GET /runs/:id/news": runNewsSchema,
  "GET /clocks": clockListSchema,
  "POST /runs/:id/events": sentEventsSchema,
};

const WORDS: ReadonlySet<string> = new Set(
  Object.keys(REPLIES).flatMap((route) => route.split(/[ /]/u).filter((w) => !w.startsWith(":"))),
);

/** The schema of the reply to a request, or nothing where the screens read none. */
export const replySchema = (method: string, address: string): z.ZodType | undefined => {
  const path = address
    .replace(/[?#].*$/u, "")
    .split("/")
    .map((part) => (part === "" || WORDS.has(part) ? part : ":id"))
    .join("/");
  return REPLIES[`${method} ${path}`];
};

/** All routes that have one, for the tests. */
export const REPLY_ROUTES: readonly string[] = Object.keys(REPLIES);
