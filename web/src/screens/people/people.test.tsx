import type { Me, People } from "@uppershed/contract";
import { act, fireEvent, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ME, show } from "../../testing/house.tsx";
import { answering } from "../../testing/server.ts";
import { PeopleList } from "./people-list.tsx";
import { WorkshopScreen } from "./workshop.tsx";

afterEach(() => vi.unstubAllGlobals());

const LEAD: Me = {
  ...ME,
  person: { ...ME.person, name: "L. Voss", role: "lead" },
};
const person = (n: number, name: string, more: object = {}) => ({
  id: `00000000-0000-4000-8000-00000000000${n}`,
  name,
  signInName: name.toLowerCase().replaceAll(/\W/gu, ""),
  role: "technician",
  leftAt: null,
  sessions: 0,
  secondFactor: false,
  ...more,
});
const HOUSE = {
  people: [
    person(1, "L. Voss", { role: "lead", sessions: 1 }),
    person(2, "R. Amadi"),
    person(3, "O. Gone", { leftAt: "2026-03-01T10:00:00.000Z" }),
  ],
  invites: [],
} as unknown as People;

describe("the people of the workshop", () => {
  it("can be let go and taken back; oneself cannot be let go", async () => {
    const asked = answering({
      "GET /people": () => ({ body: HOUSE }),
      [`PATCH /people/${HOUSE.people[1]?.id}`]: () => ({ body: HOUSE }),
    });
    await show(<PeopleList me={LEAD} />, LEAD);
    const list = await screen.findByRole("list", { name: "People of the workshop" });
    const rows = within(list).getAllByRole("listitem");
    expect(within(rows[0] as HTMLElement).queryByRole("button", { name: /leaves/u })).toBeNull();
    expect(rows[2]?.textContent).toMatch(/left 1 Mar 2026; what they signed stays/u);
    fireEvent.click(
      within(rows[1] as HTMLElement).getByRole("button", { name: "R. Amadi leaves" }),
    );
    await act(async () => undefined);
    await vi.waitFor(() =>
      expect(asked).toContainEqual({
        route: `PATCH /people/${HOUSE.people[1]?.id}`,
        body: { left: true },
      }),
    );
  });

  it("says in the server's words what cannot be", async () => {
    const message = "Nobody would be left who can invite others.";
    answering({
      "GET /people": () => ({ body: HOUSE }),
      [`PATCH /people/${HOUSE.people[0]?.id}`]: () => ({
        status: 409,
        body: { error: { code: "conflict", message } },
      }),
    });
    await show(<PeopleList me={LEAD} />, LEAD);
    fireEvent.change(await screen.findByLabelText("Role of L. Voss"), {
      target: { value: "desk" },
    });
    expect((await screen.findByRole("alert")).textContent).toBe(message);
  });

  it("are nobody's business who may not see to them", async () => {
    answering({});
    await show(<WorkshopScreen />);
    expect(screen.queryByText("Invite somebody")).toBeNull();
  });
});

describe("the workshop's own facts", () => {
  it("are kept in SI, a bare winter low in the degrees that are chosen", async () => {
    const asked = answering({
      "GET /people": () => ({ body: HOUSE }),
      "GET /me": () => ({ body: LEAD }),
      "PATCH /workshop": () => ({ body: LEAD }),
    });
    await show(<WorkshopScreen />, LEAD);
    fireEvent.click(screen.getByLabelText(/^US gallons/u));
    fireEvent.change(screen.getByLabelText("Winter low"), { target: { value: "5" } });
    fireEvent.click(screen.getByRole("button", { name: "Keep" }));
    await vi.waitFor(() =>
      expect(asked).toContainEqual({
        route: "PATCH /workshop",
        body: {
          name: "Upper Shed",
          place: "",
          units: "us",
          dates: "day-month-year",
          winterLowC: -15,
        },
      }),
    );
  });

  it("stay to the last digit where nobody touched them, however they are shown", async () => {
    const asked = answering({
      "GET /people": () => ({ body: HOUSE }),
      "PATCH /workshop": () => ({ body: LEAD }),
    });
    await show(<WorkshopScreen />, {
      ...LEAD,
      workshop: { ...LEAD.workshop, winterLowC: -17.7778 },
    });
    fireEvent.change(screen.getByLabelText("Workshop's name"), { target: { value: "Ford End" } });
    fireEvent.click(screen.getByRole("button", { name: "Keep" }));
    await vi.waitFor(() =>
      expect(asked).toEqual([
        {
          route: "PATCH /workshop",
          body: {
            name: "Ford End",
            place: "",
            units: "metric.point",
            dates: "day-month-year",
          },
        },
      ]),
    );
  });

  it.each([
    ["10 °C", /At or below freezing/u],
    ["−60 °C", /At or below freezing/u],
    ["cold", /does not start with a number/u],
  ])("are not kept with a winter low of %s", async (low, words) => {
    const asked = answering({ "GET /people": () => ({ body: HOUSE }) });
    await show(<WorkshopScreen />, LEAD);
    fireEvent.change(screen.getByLabelText("Winter low"), { target: { value: low } });
    fireEvent.click(screen.getByRole("button", { name: "Keep" }));
    expect((await screen.findByRole("alert")).textContent).toMatch(words);
    expect(asked).toEqual([]);
  });
});
