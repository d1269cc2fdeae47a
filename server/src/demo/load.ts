import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { jobSetupBy, setupBy } from "@uppershed/core/procedure";
import { changePipeRun, removePart, type WaterMap } from "@uppershed/core/watermap";
import { eq } from "drizzle-orm";
import type { Db } from "../db.ts";
import { followMap } from "../parts/register.ts";
import { hashPassword } from "../people/passwords.ts";
import { editionOnLeaving } from "../reports/editions.ts";
import { getVisit } from "../calendar/read.ts";
import { rulesInForce } from "../house/rules.ts";
import { winterLowFor } from "../house/setup.ts";
import { mapAt } from "../register/maps.ts";
import { beginRun } from "../runs/store.ts";
import { takeEvents } from "../runs/take.ts";
import { noteEntry } from "../register/history.ts";
import { refreshState } from "../standing/standing.ts";
import {
  customers,
  findingEntries,
  findings,
  looks,
  mapRevisions,
  people,
  pictureBytes,
  pictures,
  readings,
  snapshots,
  springLooks,
  units,
  visits,
  workshops,
} from "../schema/index.ts";
import { type Scope, scopeFor } from "../scope.ts";
import { searchText } from "../search.ts";
import {
  DONE,
  type DemoVisit,
  doneVisit,
  isWinter,
  on,
  visitsOf,
  whyAccepted,
} from "./calendar.ts";
import { addHouse, addRules, demoPlaceId } from "./house.ts";
import { addRefits } from "./refits.ts";
import { addTests } from "./tests.ts";
import { demoHistory } from "./history.ts";
import { demoLives, figure } from "./lives.ts";
import { DEMO_PICTURES, drawPicture } from "./pictures.ts";
import { demoId, demoWinterizing } from "./winterizing.ts";

/** The made-up workshop. All people, units and marks are invented. */
const DEMO_WORKSHOP = demoId("workshop");

export const DEMO_PEOPLE = [
  { signInName: "odile", name: "O. Marchbank", role: "lead" },
  { signInName: "amadi", name: "R. Amadi", role: "technician" },
  { signInName: "tam", name: "T. Brookes", role: "apprentice" },
] as const;

const UNITS = [
  {
    map: "teasel",
    owner: "Wren Hollis",
    phone: "0555 0101",
    plate: "UL 2207",
    berth: "basin, stage 4",
  },
  {
    map: "burdock",
    owner: "Jo Tarrant",
    phone: "0555 0102",
    plate: "TB 441 K",
    berth: "yard, row B",
  },
  {
    map: "plover",
    owner: "Pascal Indermaur",
    phone: "0555 0103",
    plate: "UL 1184",
    berth: "reservoir pontoon 12",
  },
  {
    map: "sundew",
    owner: "Ottilie Brandreth",
    phone: "0555 0104",
    plate: "UL 3310",
    berth: "dinghy park, row 2",
  },
  {
    map: "wagtail",
    owner: "Silas Quennell",
    phone: "0555 0105",
    plate: "WG 207 P",
    berth: "yard, row A",
  },
  {
    map: "haywain",
    owner: "Fernhill Livery",
    phone: "0555 0106",
    plate: "HY 880 T",
    berth: "yard, long bay",
  },
  {
    map: "dipper",
    owner: "Upper Valley Rangers",
    phone: "0555 0107",
    plate: "UL 0042",
    berth: "ranger slip",
  },
  {
    map: "turnstone",
    owner: "Lockhead Day Charter",
    phone: "0555 0108",
    plate: "UL 2960",
    berth: "reservoir pontoon 3",
  },
  {
    map: "foxglove",
    owner: "Halfmoon Location Hire",
    phone: "0555 0109",
    plate: "FX 315 L",
    berth: "yard, power post 2",
  },
  {
    map: "yarrow",
    owner: "Ines Corrigan",
    phone: "0555 0110",
    plate: "YR 674 M",
    berth: "yard, row C",
  },
] as const;

const PRODUCT = { name: "Shed antifreeze 50", lot: "lot 25-07", strength: 0.5, jugM3: 0.005 };
/** Where units stand, of the workshop's places. */
const STANDS: Readonly<Record<string, Parameters<typeof demoPlaceId>[0]>> = {
  teasel: "Upper basin",
  burdock: "Upper yard",
  wagtail: "Upper yard",
  haywain: "Upper yard",
  foxglove: "Upper yard",
  yarrow: "Upper yard",
  turnstone: "Reservoir moorings",
  sundew: "Dinghy park",
};

const ACCESS: Readonly<Record<string, string>> = {
  teasel:
    "Bow locker key on the hook by the hatch. Heater panel behind the wardrobe: four screws, lift the shelf out first.",
  burdock: "Lower the tailboard before the service bay opens. Bed slat over the pump: two clips.",
  haywain: "Horses out first. Tack locker key with the owner.",
  dipper: "Call the duty ranger before boarding.",
};

/** Some of the findings have a picture; one of them is marked on. */
const somePictures = async (
  scope: Scope,
  found: readonly { id: string; unitId: string; what: string; at: Date }[],
  personId: string,
): Promise<void> => {
  for (const f of found) {
    const name = DEMO_PICTURES.find((d) => f.what.toLowerCase().includes(d));
    if (!name) continue;
    const { data, width, height } = await drawPicture(name);
    const id = demoId(`picture ${f.id}`);
    await scope.add(pictures, {
      id,
      unitId: f.unitId,
      personId,
      about: "finding",
      aboutId: f.id,
      caption: f.what.slice(0, 80),
      marks: [{ kind: "ring", x: 0.5, y: 0.5, r: 0.14 }],
      width,
      height,
      bytes: data.length,
      sentHash: id,
      at: f.at,
    });
    await scope.add(pictureBytes, { pictureId: id, data });
  }
};

/** A unit that came yesterday and soaks until this evening. */
const soaking = (scope: Scope, unitId: string, now: Date): Promise<void> =>
  scope.add(visits, {
    id: demoId("visit wagtail soaking"),
    unitId,
    startsAt: on(now, -1, 15),
    minutes: 300,
    bay: "yard",
    asked: "Sanitize",
    ownerSaid: "Smells like the pond.",
    state: "waiting",
    jobs: ["sanitize"],
    waitingFor: "soaking",
    waitingUntil: new Date(now.getTime() + 3 * 3600 * 1000),
    arrivedAt: on(now, -1, 15),
  });

/** Haywain was looked at again: the wash-down stop has been found, and the line measured. Its first map did not have the stop. */
const secondLook = async (
  scope: Scope,
  unitId: string,
  personId: string,
  at: Date,
): Promise<void> => {
  const map = EXAMPLE_MAPS.find((m) => m.id === "haywain");
  const before = map && removePart(map, "v2");
  if (!map || !before?.ok) return;
  const first = changePipeRun(
    before.map,
    before.map.runs.find((run) => run.to.part === "wash")?.id ?? "",
    { lengthM: 4.5, sag: null },
  );
  if (!first.ok) return;
  await scope.change(mapRevisions, { document: first.map }, eq(mapRevisions.unitId, unitId));
  await scope.add(mapRevisions, {
    unitId,
    revision: 2,
    document: map,
    personId,
    why: "Wash-down stop found behind the ramp, line measured",
    at,
  });
  await scope.change(units, { mapRevision: 2 }, eq(units.id, unitId));
};

const idOf = (signIn: string): string => demoId(`person ${signIn}`);
const unitId = (map: string): string => demoId(`unit ${map}`);
const mapOf = (id: string): WaterMap => {
  const map = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!map) throw new Error(`no example map ${id}`);
  return map;
};

/** A unit with its owner and its map as it was drawn at intake. */
const addUnit = async (scope: Scope, unit: (typeof UNITS)[number], now: Date): Promise<void> => {
  const map = mapOf(unit.map);
  const customerId = demoId(`customer ${unit.map}`);
  const email = `${unit.owner.toLowerCase().replaceAll(/\W+/gu, ".")}@example.invalid`;
  await scope.add(customers, {
    id: customerId,
    name: unit.owner,
    phone: unit.phone,
    email,
    search: searchText(unit.owner, unit.phone, email),
  });
  const { plate, berth } = unit;
  await scope.add(units, {
    id: unitId(unit.map),
    customerId,
    name: map.name,
    craft: map.craft,
    plate,
    hull: `HN ${10_000 + figure(`${unit.map} hull`, 90_000)}`,
    berth,
    accessNote: ACCESS[unit.map] ?? "",
    mapRevision: 1,
  });
  await scope.add(mapRevisions, {
    unitId: unitId(unit.map),
    revision: 1,
    document: map,
    personId: idOf("odile"),
    why: "Drawn at intake",
    at: on(now, -420, 9),
  });
  await followMap(scope, unitId(unit.map), map, demoLives(map, now));
};

/** What earlier visits have left on file of a unit. */
const addPast = async (scope: Scope, unit: (typeof UNITS)[number], now: Date): Promise<void> => {
  const names = Object.fromEntries(DEMO_PEOPLE.map((p) => [idOf(p.signInName), p.name]));
  const who = { lead: idOf("odile"), technician: idOf("amadi"), names };
  const revision = unit.map === "haywain" ? 2 : 1;
  const past = demoHistory(mapOf(unit.map), unitId(unit.map), who, revision, now);
  await scope.add(visits, past.visits);
  await scope.add(looks, past.looks);
  await scope.add(readings, past.readings);
  await scope.add(snapshots, past.snapshots);
  await scope.add(springLooks, past.spring);
  await scope.add(findings, past.findings);
  await scope.add(findingEntries, past.entries);
  await somePictures(scope, past.findings, idOf("amadi"));
};

const addVisit = (scope: Scope, { key, map, jobs, ...visit }: DemoVisit): Promise<unknown> => {
  const { startsAt, minutes, state } = visit;
  return scope.add(visits, {
    id: demoId(`visit ${key}`),
    unitId: unitId(map),
    ...visit,
    jobs: jobs ?? ["winterize"],
    ...(state === "booked" ? {} : { arrivedAt: startsAt }),
    ...(state === "gone" ? { goneAt: new Date(startsAt.getTime() + minutes * 60_000) } : {}),
  });
};

/** A winterizing done from its plan to its signature on a visit that is over. */
const addWinterizing = async (
  scope: Scope,
  map: string,
  at: Date,
  who: (typeof DEMO_PEOPLE)[number]["signInName"] = "amadi",
): Promise<void> => {
  const person = DEMO_PEOPLE.find((p) => p.signInName === who) ?? DEMO_PEOPLE[1];
  const by = { id: idOf(who), name: person.name, role: person.role };
  const id = demoId(`run ${map} 1`);
  const visitId = demoId(`visit ${map} 1`);
  const [unit] = await scope.find(units, eq(units.id, unitId(map)));
  const setup = setupBy(
    await rulesInForce(scope),
    await winterLowFor(scope, unit?.placeId ?? null),
    PRODUCT,
  );
  const mapRevision = unit?.mapRevision ?? 1;
  const { map: drawn } = await mapAt(scope, unitId(map), mapRevision);
  await beginRun(scope, by, { id, unitId: unitId(map), visitId, mapRevision, setup }, at);
  await takeEvents(scope, by, "metric", id, demoWinterizing(drawn, setup, id, by, at));
  const { short } = await getVisit(scope, visitId);
  await scope.change(
    visits,
    {
      state: "gone",
      ...(short ? { acceptedWho: "the owner, on the spot", acceptedWhy: whyAccepted(map) } : {}),
    },
    eq(visits.id, visitId),
  );
};

/** A de-winterizing or a sanitizing from its plan to its signature, from how the unit was left. */
const addWaterWork = async (
  scope: Scope,
  map: string,
  job: "spring" | "sanitize",
  at: Date,
): Promise<void> => {
  const by = { id: idOf("amadi"), name: "R. Amadi", role: "technician" };
  const id = demoId(`run ${map} ${job}`);
  const visitId = demoId(`visit ${map} spring`);
  const [unit] = await scope.find(units, eq(units.id, unitId(map)));
  const setup = jobSetupBy(
    await rulesInForce(scope),
    await winterLowFor(scope, unit?.placeId ?? null),
    job,
    { bottle: { name: "Bleach, bay 1", strength: 0.06, days: 20 } },
  );
  const mapRevision = unit?.mapRevision ?? 1;
  const { map: drawn } = await mapAt(scope, unitId(map), mapRevision);
  const run = await beginRun(
    scope,
    by,
    { id, unitId: unitId(map), visitId, mapRevision, setup },
    at,
  );
  const events = demoWinterizing(drawn, setup, id, by, at, run.begins ?? undefined);
  await takeEvents(scope, by, "metric", id, events);
  await scope.change(visits, { state: "gone" }, eq(visits.id, visitId));
};

/** Loads the demo workshop once; a database that has it already is left as it is. */
export const loadDemo = async (db: Db, password: string, now: Date): Promise<boolean> => {
  const [there] = await db.select().from(workshops).where(eq(workshops.id, DEMO_WORKSHOP));
  if (there) return false;
  const passwordHash = await hashPassword(password);
  await db.transaction(async (tx) => {
    await tx.insert(workshops).values({
      id: DEMO_WORKSHOP,
      name: "Upper Shed",
      place: "Lock head, upper basin",
      units: "metric",
      winterLowC: -18,
      isDemo: true,
    });
    const scope = scopeFor(tx, DEMO_WORKSHOP);
    await scope.add(
      people,
      DEMO_PEOPLE.map((p) => ({ ...p, id: idOf(p.signInName), passwordHash })),
    );
    for (const unit of UNITS) await addUnit(scope, unit, now);
    await secondLook(scope, unitId("haywain"), idOf("amadi"), on(now, -200, 11));
    for (const unit of UNITS) await addPast(scope, unit, now);
    for (const visit of visitsOf(now)) await addVisit(scope, visit);
    await soaking(scope, unitId("wagtail"), now);
    // Last year's finished winterizing, then a summer in use; and one of this autumn that stands.
    await addWinterizing(scope, "plover", on(now, -364, 8, 30));
    await addWaterWork(scope, "plover", "spring", on(now, -231, 15, 10));
    await addWaterWork(scope, "plover", "sanitize", on(now, -231, 17));
    await addHouse(scope, now);
    for (const [map, place] of Object.entries(STANDS))
      await scope.change(units, { placeId: demoPlaceId(place) }, eq(units.id, unitId(map)));
    await addRules(scope, idOf("odile"), on(now, -150, 9));
    await noteEntry(scope, {
      unitId: unitId("plover"),
      personId: idOf("amadi"),
      entry: { kind: "in-use", at: on(now, -229, 10).toISOString() },
    });
    await refreshState(scope, unitId("plover"));
    if (isWinter(now))
      for (const { map, days, by } of DONE) {
        await addVisit(scope, doneVisit(map, on(now, days, 8)));
        await addWinterizing(scope, map, on(now, days, 8, 30), by);
      }
    const amadi = { id: idOf("amadi"), name: "R. Amadi" };
    await addTests(scope, unitId, amadi, now, on(now, -190, 9));
    await addRefits(scope, unitId, amadi, now);
    await addWinterizing(scope, "yarrow", on(now, -20, 8, 30));
    await editionOnLeaving(scope, idOf("amadi"), demoId("visit yarrow 1"), on(now, -20, 11));
  });
  return true;
};
