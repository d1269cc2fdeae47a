import type { Me, ProcedureRun, Rules, Unit } from "@uppershed/contract";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { type RunEvent, standardSetup, startRun, summarize } from "@uppershed/core/procedure";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { Provider } from "react-redux";
import { MemoryRouter } from "react-router";
import { api } from "../store/api.ts";
import { makeStore } from "../store/index.ts";

/** A made-up workshop for the screens' tests. */
export const ME: Me = {
  person: { id: "00000000-0000-4000-8000-000000000001", name: "R. Amadi", role: "technician" },
  workshop: {
    id: "00000000-0000-4000-8000-0000000000aa",
    name: "Upper Shed",
    place: "",
    units: "metric",
    dates: "day-month-year",
    winterLowC: -18,
    isDemo: false,
  },
};

export const SETUP = standardSetup();

/** The house rules as they were shipped. */
export const RULES: Rules = {
  now: {
    revision: 0,
    values: {},
    by: "",
    why: "As they were shipped",
    at: null,
    countersignedBy: null,
  },
  before: [
    {
      revision: 0,
      values: {},
      by: "",
      why: "As they were shipped",
      at: null,
      countersignedBy: null,
    },
  ],
};

export const mapOf = (id: string): WaterMap => {
  const found = EXAMPLE_MAPS.find((m) => m.id === id);
  if (!found) throw new Error(id);
  return found;
};

export const RUN_ID = "00000000-0000-4000-8000-0000000000bb";

export const runOf = (map: WaterMap, events: RunEvent[] = []): ProcedureRun => ({
  id: RUN_ID,
  unitId: "00000000-0000-4000-8000-0000000000cc",
  unitName: map.name,
  unitNameNow: map.name,
  visitId: null,
  begins: null,
  setAsideAt: null,
  unread: [],
  clocksAheadS: {},
  craft: map.craft,
  mapRevision: 1,
  map,
  setup: SETUP,
  startedAt: "2025-10-14T08:00:00.000Z",
  startedBy: "R. Amadi",
  closedAt: null,
  summary: { ...summarize(startRun(buildNetwork(map), SETUP)), clocks: [] },
  events: events,
});

/** A unit as the server tells it. */
export const unitOf = (map: Pick<WaterMap, "name" | "craft">, id: string): Unit => ({
  id,
  name: map.name,
  craft: map.craft,
  customerId: "00000000-0000-4000-8000-0000000000dd",
  owner: "O. Vane",
  phone: "",
  plate: "",
  hull: "",
  berth: "",
  place: null,
  accessNote: "",
  mapRevision: 1,
  siblingOf: null,
  state: {
    kind: "in-use",
    at: null,
    runId: null,
    holdsToC: 0,
    weakestPart: null,
    cannotTell: [],
    since: [],
  },
  openFindings: 0,
  unsafe: false,
});

/** Everything that a component finds round it in the application. */
export const inHouse = async (me: Me = ME) => {
  const store = makeStore();
  await store.dispatch(api.util.upsertQueryData("me", undefined, me));
  const House = ({ children }: { children: ReactNode }) => (
    <Provider store={store}>
      <MemoryRouter>{children}</MemoryRouter>
    </Provider>
  );
  return House;
};

export const show = async (element: ReactNode, me: Me = ME) =>
  render(element, { wrapper: await inHouse(me) });
