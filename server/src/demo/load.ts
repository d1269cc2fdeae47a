import { EXAMPLE_MAPS, type RunSetup } from "@uppershed/core";
import { eq } from "drizzle-orm";
import type { Db } from "../db.ts";
import { hashPassword } from "../people/passwords.ts";
import { beginRun, takeEvents } from "../runs/store.ts";
import { customers, mapRevisions, people, units, visits, workshops } from "../schema.ts";
import { scopeFor } from "../scope.ts";
import { demoId, demoWinterizing } from "./winterizing.ts";

/** The made-up workshop. All people, units and marks are invented. */
export const DEMO_WORKSHOP = demoId("workshop");

export const DEMO_PEOPLE = [
  { signInName: "odile", name: "O. Marchbank", role: "lead" },
  { signInName: "amadi", name: "R. Amadi", role: "technician" },
  { signInName: "tam", name: "T. Brookes", role: "apprentice" },
] as const;

const UNITS = [
  { map: "teasel", owner: "Wren Hollis", phone: "0555 0101", mark: "UL 2207", berth: "basin, stage 4" },
  { map: "burdock", owner: "Jo Tarrant", phone: "0555 0102", mark: "TB 441 K", berth: "yard, row B" },
  { map: "plover", owner: "Pascal Indermaur", phone: "0555 0103", mark: "UL 1184", berth: "reservoir pontoon 12" },
] as const;

const SETUP: RunSetup = {
  method: "antifreeze",
  winterLowC: -18,
  marginC: 5,
  basis: "by-part",
  product: { name: "Shed antifreeze 50", lot: "lot 25-07", strength: 0.5, jugM3: 0.005 },
  trapDoseM3: 0.0005,
};

/** A moment on a day near the given one, in UTC. */
const on = (now: Date, days: number, hours: number, minutes = 0): Date => {
  const at = new Date(now);
  at.setUTCDate(at.getUTCDate() + days);
  at.setUTCHours(hours, minutes, 0, 0);
  return at;
};

/** Loads the demo workshop once; a database that has it already is left as it is. */
export const loadDemo = async (db: Db, password: string, now: Date): Promise<boolean> => {
  const [there] = await db.select().from(workshops).where(eq(workshops.id, DEMO_WORKSHOP));
  if (there) return false;
  const passwordHash = await hashPassword(password);
  await db.transaction(async (tx) => {
    await tx
      .insert(workshops)
      .values({ id: DEMO_WORKSHOP, name: "Upper Shed", place: "Lock head, upper basin", units: "metric", winterLowC: -18 });
    const scope = scopeFor(tx, DEMO_WORKSHOP);
    const idOf = (signIn: string): string => demoId(`person ${signIn}`);
    await scope.add(
      people,
      DEMO_PEOPLE.map((p) => ({ ...p, id: idOf(p.signInName), passwordHash })),
    );
    const unitId = (map: string): string => demoId(`unit ${map}`);
    for (const unit of UNITS) {
      const map = EXAMPLE_MAPS.find((m) => m.id === unit.map);
      if (!map) continue;
      const customerId = demoId(`customer ${unit.map}`);
      await scope.add(customers, { id: customerId, name: unit.owner, phone: unit.phone });
      const { mark, berth } = unit;
      await scope.add(units, { id: unitId(unit.map), customerId, name: map.name, craft: map.craft, mark, berth, mapRevision: 1 });
      await scope.add(mapRevisions, {
        unitId: unitId(unit.map),
        revision: 1,
        document: map,
        personId: idOf("odile"),
        why: "Drawn at intake",
        at: on(now, -420, 9),
      });
    }
    const visit = (
      key: string,
      map: string,
      startsAt: Date,
      minutes: number,
      bay: string,
      asked: string,
      ownerSaid: string,
      state: "booked" | "arrived" | "gone",
    ) => scope.add(visits, { id: demoId(`visit ${key}`), unitId: unitId(map), startsAt, minutes, bay, asked, ownerSaid, state });
    const lastYear = on(now, -364, 8, 30);
    await visit("plover 1", "plover", lastYear, 120, "pontoon 12", "Winterize", "Going away until spring.", "gone");
    await visit("teasel", "teasel", on(now, 0, 9), 130, "bay 3", "Winterize", "Deck shower drips. Heater was on this morning.", "arrived");
    await visit("burdock", "burdock", on(now, 0, 13), 120, "yard", "Winterize", "Used it last weekend, tank half full.", "booked");
    await visit("plover 2", "plover", on(now, 1, 9), 120, "pontoon 12", "Winterize", "Same as last year, please.", "booked");
    await visit("burdock 2", "burdock", on(now, 3, 10), 45, "yard", "Look at the outside shower flap", "", "booked");
    // Last year's finished winterizing, then a summer in use.
    const runId = demoId("run plover 1");
    const by = { id: idOf("amadi"), name: "R. Amadi", role: "technician" as const };
    const map = EXAMPLE_MAPS.find((m) => m.id === "plover");
    if (map) {
      await beginRun(
        scope,
        by.id,
        { id: runId, unitId: unitId("plover"), visitId: demoId("visit plover 1"), mapRevision: 1, setup: SETUP },
        lastYear,
      );
      await takeEvents(scope, by, "metric", runId, demoWinterizing(map, SETUP, runId, by, lastYear));
      await scope.change(visits, { state: "gone" }, eq(visits.id, demoId("visit plover 1")));
      await scope.change(units, { inUseSince: on(now, -230, 10) }, eq(units.id, unitId("plover")));
    }
  });
  return true;
};
