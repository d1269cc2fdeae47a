import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { mapOf, show } from "../../testing/house.tsx";
import { Walk } from "./walk.tsx";

vi.mock("react-router", async (original) => ({
  ...(await original<typeof import("react-router")>()),
  useParams: () => ({ unitId: "u1" }),
}));

const UNIT = { id: "u1", name: "Teasel", craft: "canal cruiser" };
const LOOK = {
  id: "l1",
  key: "pump/Mounts firm",
  partId: "pump",
  point: "Mounts firm",
  mark: "good",
  note: "",
  readings: [],
  at: "2026-10-01T09:00:00.000Z",
  by: "R. Amadi",
};
const sent: unknown[] = [];
const answers = (url: string, body: unknown): unknown => {
  if (url.endsWith("/looks")) {
    if (body) sent.push(body);
    return { looks: [LOOK] };
  }
  if (url.endsWith("/parts")) return { parts: [], more: false };
  if (url.endsWith("/map")) return { unitId: "u1", revision: 1, at: "", by: "", why: "", document: mapOf("teasel") };
  return UNIT;
};

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  sent.length = 0;
});

const walk = async () => {
  vi.stubGlobal("fetch", async (request: Request) => {
    const body: unknown = request.method === "POST" ? await request.json() : undefined;
    return Response.json(answers(new URL(request.url).pathname, body));
  });
  await show(<Walk />);
  await screen.findByRole("heading", { level: 1, name: "Walk-round of Teasel" });
};

describe("the walk-round on screen", () => {
  it("goes by place, says how each point is looked at, and what was found last", async () => {
    await walk();
    const bow = screen.getByRole("region", { name: "Bow locker" });
    expect(within(bow).getByRole("group", { name: "Pump: Mounts firm" })).toBeTruthy();
    await waitFor(() => expect(bow.textContent).toContain("Good 1 Oct 2026, R. Amadi"));
    expect(screen.getAllByText(/Heater off at its switch and breaker/u, { selector: "span" }).length).toBeGreaterThan(1);
  });

  it("keeps a mark with one tap, with its note and its figures in SI", async () => {
    await walk();
    const rod = screen.getByRole("group", { name: "Heater: Anode thickness at three places" });
    within(rod)
      .getAllByRole("textbox", { name: /^Thickness/u })
      .forEach((field, i) => fireEvent.change(field, { target: { value: ["15 mm", "14.2 mm", "14.8 mm"][i] } }));
    fireEvent.change(within(rod).getByRole("textbox", { name: /^Note/u }), { target: { value: "pitted" } });
    fireEvent.click(within(rod).getByRole("button", { name: "Watch" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    const [{ looks }] = sent as [{ looks: { readings: number[] }[] }];
    expect(looks[0]).toMatchObject({ partId: "heater", mark: "watch", note: "pitted", point: "Anode thickness at three places" });
    for (const [i, mm] of [15, 14.2, 14.8].entries()) expect(looks[0]?.readings[i]).toBeCloseTo(mm / 1000, 9);
  });

  it("says what is no figure, and sends nothing", async () => {
    await walk();
    const rod = screen.getByRole("group", { name: "Heater: Anode thickness at three places" });
    fireEvent.change(within(rod).getAllByRole("textbox", { name: /^Thickness/u })[0] as HTMLElement, { target: { value: "thick" } });
    fireEvent.click(within(rod).getByRole("button", { name: "Good" }));
    expect((await screen.findByRole("alert")).textContent).not.toBe("");
    expect(sent).toEqual([]);
  });
});
