import { type Deed, DEEDS, mayDo, type Role } from "@uppershed/contract";
import type { FastifyInstance } from "fastify";
import { Refused } from "../errors.ts";

/** What each route does, in one place: whoever may not do it is refused by the server, whatever a screen shows. */
export const ROUTES: Readonly<Record<string, Deed>> = {
  "GET /me": "look",
  "POST /me/password": "self",
  "GET /me/second-factor": "self",
  "POST /me/second-factor": "self",
  "POST /me/second-factor/prove": "self",
  "POST /me/second-factor/end": "self",
  "GET /me/sessions": "self",
  "POST /me/sessions/:sessionId/end": "self",
  "GET /people": "people",
  "POST /people/invites": "people",
  "POST /people/invites/:inviteId/withdraw": "people",
  "PATCH /people/:personId": "people",
  "POST /people/:personId/reset": "people",
  "PATCH /workshop": "workshop",
  "POST /workshop/take-away": "workshop",
  "GET /keeping": "workshop",
  "POST /keeping/now": "workshop",
  "POST /keeping/:name/restore": "workshop",
  "GET /keeping/archive.zip": "workshop",
  "POST /customers/:customerId/erase": "workshop",
  "GET /rules": "look",
  "POST /rules": "house",
  "GET /places": "look",
  "POST /places": "house",
  "PATCH /places/:placeId": "house",
  "GET /frost-watch": "look",
  "POST /places/:placeId/forecast": "book",
  "GET /kit": "look",
  "POST /kit": "stock",
  "PATCH /kit/:kitId": "stock",
  "GET /waiting": "look",
  "POST /waiting/:proposalId": "merge",
  "GET /customers": "look",
  "POST /customers": "book",
  "GET /customers/:customerId": "look",
  "PATCH /customers/:customerId": "book",
  "POST /customers/:customerId/merge": "merge",
  "GET /register/:kind": "files",
  "POST /register": "files",
  "GET /findings": "look",
  "GET /tests/running": "look",
  "GET /units/:unitId/tests": "look",
  "GET /units/:unitId/tests/:testId": "look",
  "GET /units/:unitId/tests/:testId/certificate.pdf": "look",
  "GET /units/:unitId/tests/:testId/logger": "look",
  "POST /units/:unitId/tests/:testId": "work",
  "GET /units/:unitId/refits": "look",
  "GET /units/:unitId/refits/:refitId": "look",
  "GET /units/:unitId/refits/:refitId/kit": "look",
  "POST /units/:unitId/refits/:refitId": "work",
  "POST /units/:unitId/refits/:refitId/adopt": "draw",
  "GET /prices": "look",
  "PUT /prices": "stock",
  "GET /units/:unitId/findings": "look",
  "POST /units/:unitId/findings/:findingId": "work",
  "GET /units/:unitId/looks": "look",
  "POST /units/:unitId/looks": "work",
  "GET /units/:unitId/map": "look",
  "GET /units/:unitId/map/revisions": "look",
  "GET /units/:unitId/map/:revision": "look",
  "POST /units/:unitId/map": "draw",
  "GET /units/:unitId/notes": "look",
  "POST /units/:unitId/notes": "work",
  "GET /parts": "look",
  "PATCH /units/:unitId/parts/:partId": "draw",
  "GET /units/:unitId/pictures": "look",
  "POST /units/:unitId/pictures": "work",
  "GET /pictures/:pictureId": "look",
  "PATCH /pictures/:pictureId": "work",
  "GET /units/:unitId/documents": "look",
  "POST /units/:unitId/documents": "book",
  "GET /documents/:documentId": "look",
  "GET /units/:unitId/readings": "look",
  "POST /units/:unitId/readings": "work",
  "GET /visits/:visitId/report": "look",
  "GET /visits/:visitId/editions": "look",
  "POST /visits/:visitId/editions": "hand",
  "GET /editions/:editionId": "look",
  "GET /editions/:editionId/report.pdf": "look",
  "GET /visits/:visitId/links": "look",
  "POST /visits/:visitId/links": "hand",
  "POST /links/:linkId/withdraw": "hand",
  "GET /units/:unitId/spring": "look",
  "POST /units/:unitId/spring": "work",
  "POST /runs": "work",
  "GET /runs/:runId": "look",
  "GET /runs/:runId/news": "look",
  "GET /clocks": "look",
  "POST /runs/:runId/events": "work",
  "GET /units": "look",
  "POST /units": "book",
  "GET /units/:unitId": "look",
  "PATCH /units/:unitId": "book",
  "POST /units/:unitId/merge": "merge",
  "GET /units/:unitId/runs": "look",
  "GET /units/:unitId/took": "look",
  "POST /units/:unitId/in-use": "book",
  "GET /units/:unitId/standing": "look",
  "GET /visits": "look",
  "POST /visits": "book",
  "GET /visits/:visitId": "look",
  "PATCH /visits/:visitId": "book",
  "GET /visits/:visitId/snapshots": "look",
  "GET /units/:unitId/snapshots": "look",
  "POST /visits/:visitId/snapshots": "work",
};

declare module "fastify" {
  interface FastifyContextConfig {
    /** What it does, of what not everybody may. */
    deed?: Deed;
  }
}

/** Gives every route its deed. A route that is not in the table, and not open to everybody, is a mistake of ours: the server does not start. */
export const nameDeeds = (api: FastifyInstance): void => {
  api.addHook("onRoute", (route) => {
    if (route.config?.open) return;
    const path = route.url.replace(/^\/api/u, "");
    for (const method of [route.method].flat()) {
      const deed = ROUTES[`${method === "HEAD" ? "GET" : method} ${path}`];
      if (!deed) throw new Error(`${method} ${path} is not in the table of who may do what`);
      route.config = { ...route.config, deed };
    }
  });
};

export const refuseUnless = (role: Role, deed: Deed | undefined): void => {
  if (deed === undefined) throw new Refused("not-found", "There is nothing at this address.");
  if (!mayDo(role, deed))
    throw new Refused(
      "not-allowed",
      `As ${role} one cannot ${DEEDS[deed].says}. Nothing was changed.`,
    );
};
