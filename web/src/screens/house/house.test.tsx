import type { KitItem, Me, Place, Rules, Waiting } from "@uppershed/contract";
import { fireEvent, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { WaitingLine } from "../../keeping/waiting-line.tsx";
import { ME, RULES, show } from "../../testing/house.tsx";
import { answering } from "../../testing/server.ts";
import { KitScreen } from "./kit.tsx";
import { PlacesScreen } from "./places.tsx";
import { RulesScreen } from "./rules.tsx";

afterEach(() => vi.unstubAllGlobals());

const as = (role: Me["person"]["role"], units: Me["workshop"]["units"] = "metric"): Me => ({
  ...ME,
  person: { ...ME.person, role },
  workshop: { ...ME.workshop, units },
});
const type = (label: string | RegExp, value: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
};
const press = (name: string | RegExp): void => {
  fireEvent.click(screen.getByRole("button", { name }));
};
const sent = (asked: readonly { route: string; body?: unknown }[], route: string): unknown =>
  asked.find((a) => a.route === route)?.body;

describe("the house rules on the screen", () => {
  const open = async (me: Me, rules: Rules = RULES, changed: object = {}) => {
    const asked = answering({
      "GET /rules": () => ({ body: rules }),
      "POST /rules": () => ({ body: { ...rules, waits: false, ...changed } }),
    });
    await show(<RulesScreen />, me);
    await screen.findByRole("heading", { name: "House rules" });
    return asked;
  };

  it("are kept as the next revision, with a reason, in SI, and only what differs from what was shipped", async () => {
    const asked = await open(as("lead", "us"));
    expect(screen.queryByRole("button", { name: /Keep as revision/u })).toBeNull();
    type(/^At which temperature may a heater/u, "95");
    fireEvent.click(screen.getByLabelText(/^Burst everywhere/u));
    press("Keep as revision 1");
    expect((await screen.findByText("Say why.")).textContent).toBe("Say why.");
    expect(screen.getByText(/"95" needs a unit/u)).toBeTruthy();
    expect(sent(asked, "POST /rules")).toBeUndefined();
    type(/^At which temperature may a heater/u, "95 °F");
    type(/^Why these 2 change/u, "a scald in May");
    press("Keep as revision 1");
    await vi.waitFor(() => expect(sent(asked, "POST /rules")).toBeDefined());
    expect(sent(asked, "POST /rules")).toMatchObject({
      basedOn: 0,
      why: "a scald in May",
      values: { "heater.openAt": expect.closeTo(35, 6) as number, "frost.basis": "burst" },
    });
  });

  it("say beside a figure that it is out of its range, in the reader's own units", async () => {
    await open(as("lead"));
    type(/^What pressure may air never pass/u, "9 bar");
    type(/^Why this changes/u, "more is more");
    press("Keep as revision 1");
    expect(await screen.findByText("Between 0.7 bar and 3.4 bar.")).toBeTruthy();
  });

  it("are read by everybody, and changed by the lead only", async () => {
    await open(as("apprentice"));
    for (const radio of screen.getAllByRole<HTMLInputElement>("radio"))
      expect(radio.matches(":disabled")).toBe(true);
    expect(screen.getByText(/The lead changes them/u)).toBeTruthy();
  });

  it("say that a change waits, and what every revision changed", async () => {
    const [shipped] = RULES.before;
    const now = {
      revision: 1,
      values: { "frost.margin": 2 },
      by: "O. Marchbank",
      why: "mild place",
      at: "2026-05-01T08:00:00.000Z",
      countersignedBy: "L. Voss",
    };
    await open(as("lead"), { now, before: [now, ...(shipped ? [shipped] : [])] }, { waits: true });
    const revisions = screen.getByRole("region", { name: "Revisions" });
    expect(revisions.textContent).toContain("countersigned by L. Voss: mild place");
    expect(revisions.textContent).toContain("2 K, before: 5 K");
    type(/^How far below the winter low/u, "4");
    type(/^Why this changes/u, "less mild");
    press("Keep as revision 2");
    expect(await screen.findByText(/when somebody else has countersigned it/u)).toBeTruthy();
  });
});

describe("places on the screen", () => {
  const YARD: Place = {
    id: "00000000-0000-4000-8000-0000000000e1",
    name: "Upper yard",
    kind: "yard",
    winterLowC: -17.77778,
    firstFrost: "10-14",
    lastFrost: null,
    heightM: 212.4,
    wasteTo: "the sewer",
    antifreezeTo: "",
    chlorineTo: "",
    givenUp: false,
    units: 2,
  };
  const open = async (me: Me) => {
    const asked = answering({
      "GET /places": () => ({ body: { places: [YARD] } }),
      "POST /places": () => ({ body: { places: [YARD] } }),
      [`PATCH /places/${YARD.id}`]: () => ({ body: { places: [YARD] } }),
    });
    await show(<PlacesScreen />, me);
    await screen.findByRole("heading", { name: "Places" });
    return asked;
  };

  it("are written down in SI; what cannot be is said beside its field", async () => {
    const asked = await open(as("lead"));
    press("Add a place");
    type("Name", "Reservoir");
    type("Winter low there", "4 °C");
    type(/^First frost/u, "14 October");
    press("Keep");
    const sheet = within(screen.getByRole("dialog"));
    expect(await sheet.findByText(/^At or below freezing/u)).toBeTruthy();
    expect(sheet.getByText("Month and day: 10-14.")).toBeTruthy();
    type("Winter low there", "14 °F");
    type(/^First frost/u, "11-02");
    press("Keep");
    await vi.waitFor(() => expect(sent(asked, "POST /places")).toBeDefined());
    expect(sent(asked, "POST /places")).toMatchObject({
      name: "Reservoir",
      kind: "yard",
      winterLowC: -10,
      firstFrost: "11-02",
      lastFrost: null,
      heightM: null,
    });
  });

  it("changed, keep to the last digit what nobody touched", async () => {
    const asked = await open(as("lead"));
    press("Change");
    type("Name", "Top yard");
    press("Keep");
    await vi.waitFor(() => expect(sent(asked, `PATCH /places/${YARD.id}`)).toBeDefined());
    expect(sent(asked, `PATCH /places/${YARD.id}`)).toMatchObject({
      name: "Top yard",
      winterLowC: -17.77778,
      heightM: 212.4,
    });
  });

  it("are only read by whoever is not the lead", async () => {
    await open(as("technician"));
    expect(screen.queryByRole("button", { name: "Change" })).toBeNull();
  });
});

describe("the kit on the screen", () => {
  const PINK: KitItem = {
    id: "00000000-0000-4000-8000-0000000000e2",
    name: "Pink 50",
    note: "",
    kind: "antifreeze",
    givenUp: false,
    here: 3,
    least: null,
    facts: {
      kind: "antifreeze",
      base: "propylene-glycol",
      strength: 0.5,
      jugsM3: [0.005, 0.02],
      lot: "25-07",
    },
    warnings: ["Its label says no ice to {c:-46}"],
  };
  const open = async (me: Me) => {
    const asked = answering({
      "GET /kit": () => ({ body: { kit: [PINK] } }),
      "POST /kit": () => ({ body: { kit: [PINK] } }),
    });
    await show(<KitScreen />, me);
    await screen.findByRole("heading", { name: "Kit" });
    return asked;
  };

  it("says what is known of each thing, and what is to be said of it, in the reader's units", async () => {
    await open(as("technician", "us"));
    const list = screen.getByRole("region", { name: "Antifreeze" });
    expect(list.textContent).toContain("jugs it comes in 1.3 US gal; 5.3 US gal");
    expect(list.textContent).toContain("no ice to −51 °F");
  });

  it("refuses automotive antifreeze where it is entered", async () => {
    const asked = await open(as("technician"));
    press("Add a thing");
    type("Name", "Blue");
    type("Made of", "ethylene-glycol");
    type("Strength as sold", "50 %");
    type("Jugs it comes in", "5 L");
    press("Keep");
    expect((await screen.findByRole("alert")).textContent).toContain("is poison");
    expect(sent(asked, "POST /kit")).toBeUndefined();
    type("Made of", "propylene-glycol");
    press("Keep");
    await vi.waitFor(() => expect(sent(asked, "POST /kit")).toBeDefined());
    expect(sent(asked, "POST /kit")).toMatchObject({
      name: "Blue",
      facts: { kind: "antifreeze", base: "propylene-glycol", strength: 0.5, jugsM3: [0.005] },
    });
  });
});

describe("what waits for a countersign", () => {
  const WAITS: Waiting = {
    proposals: [
      {
        id: "00000000-0000-4000-8000-0000000000e3",
        kind: "merge-unit",
        what: "Put Sedge together with Reed, which stays",
        by: "T. Ech",
        personId: "00000000-0000-4000-8000-0000000000ee",
        at: "2026-11-01T08:00:00.000Z",
      },
    ],
    records: [],
  };
  const open = async (me: Me, waiting = WAITS) => {
    const asked = answering({
      "GET /waiting": () => ({ body: waiting }),
      [`POST /waiting/${WAITS.proposals[0]?.id}`]: () => ({ body: { proposals: [], records: [] } }),
    });
    await show(<WaitingLine me={me} />, me);
    await screen.findByRole("region", { name: "Waits for a countersign" });
    return asked;
  };

  it("is countersigned by somebody else who may", async () => {
    const asked = await open(as("technician"));
    press("Countersign");
    await vi.waitFor(() =>
      expect(sent(asked, `POST /waiting/${WAITS.proposals[0]?.id}`)).toEqual({
        answer: "countersign",
      }),
    );
  });

  it("is not offered to whoever asked for it, nor to whoever may not", async () => {
    const [first] = WAITS.proposals;
    await open(as("technician"), {
      ...WAITS,
      proposals: first ? [{ ...first, personId: ME.person.id }] : [],
    });
    expect(screen.queryByRole("button", { name: "Countersign" })).toBeNull();
    expect(screen.getByRole("button", { name: "Take it back" })).toBeTruthy();
  });

  it("is only seen by an apprentice", async () => {
    await open(as("apprentice"));
    expect(screen.queryByRole("button")).toBeNull();
  });
});
