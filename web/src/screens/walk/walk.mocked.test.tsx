import "fake-indexeddb/auto";
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { dropEntry, pendingNow } from "../../device/outbox.ts";
import { mapOf, show, unitOf } from "../../testing/house.tsx";
import { Walk } from "./walk.tsx";

vi.mock("react-router", async (original) => ({
  ...(await original<typeof import("react-router")>()),
  useParams: () => ({ unitId: "00000000-0000-4000-8000-0000000000cc" }),
}));

const UNIT = unitOf(mapOf("teasel"), "00000000-0000-4000-8000-0000000000cc");
const LOOK = {
  id: "00000000-0000-4000-8000-0000000000ee",
  key: "pump/mounts-firm",
  pointId: "mounts-firm",
  partId: "pump",
  point: "Mounts firm",
  mark: "good",
  note: "",
  readings: [],
  at: "2026-10-01T09:00:00.000Z",
  by: "R. Amadi",
  visitId: null,
};
const answers = (url: string): unknown => {
  if (url.endsWith("/looks")) return { looks: [LOOK] };
  if (url.endsWith("/pictures")) return { pictures: [] };
  if (url.endsWith("/findings")) return { findings: [], more: false };
  if (url.endsWith("/parts")) return { parts: [], more: false };
  if (url.endsWith("/map"))
    return {
      unitId: UNIT.id,
      revision: 1,
      at: LOOK.at,
      by: "",
      why: "",
      document: mapOf("teasel"),
    };
  return UNIT;
};

afterEach(async () => {
  cleanup();
  vi.unstubAllGlobals();
  for (const entry of pendingNow()) await dropEntry(entry.id);
});
/** What has been put aside on the device. */
const kept = async () => pendingNow().flatMap((e) => (e.kind === "looks" ? e.body.looks : []));

const walk = async () => {
  vi.stubGlobal("fetch", async (request: Request) =>
    Response.json(answers(new URL(request.url).pathname)),
  );
  await show(<Walk />);
  await screen.findByRole("heading", { level: 1, name: "Walk-round of Teasel" });
};

describe("the walk-round on screen", () => {
  it("goes by place, says how each point is looked at, and what was found last", async () => {
    await walk();
    const bow = screen.getByRole("region", { name: "Bow locker" });
    expect(within(bow).getByRole("group", { name: "Pump: Mounts firm" })).toBeTruthy();
    await waitFor(() => expect(bow.textContent).toContain("Good 1 Oct 2026, R. Amadi"));
    expect(
      screen.getAllByText(/Heater off at its switch and breaker/u, { selector: "span" }).length,
    ).toBeGreaterThan(1);
  });

  it("keeps a mark with one tap, with its note and its figures in SI", async () => {
    await walk();
    const rod = screen.getByRole("group", { name: "Heater: Anode thickness at three places" });
    within(rod)
      .getAllByRole("textbox", { name: /^Thickness/u })
      .forEach((field, i) =>
        fireEvent.change(field, { target: { value: ["15 mm", "14.2 mm", "14.8 mm"][i] } }),
      );
    fireEvent.change(within(rod).getByRole("textbox", { name: /^Note/u }), {
      target: { value: "pitted" },
    });
    fireEvent.click(within(rod).getByRole("button", { name: "Watch" }));
    await waitFor(async () => expect(await kept()).toHaveLength(1));
    const looks = await kept();
    expect(looks[0]).toMatchObject({
      partId: "heater",
      mark: "watch",
      note: "pitted",
      point: "Anode thickness at three places",
    });
    for (const [i, mm] of [15, 14.2, 14.8].entries())
      expect(looks[0]?.readings?.[i]).toBeCloseTo(mm / 1000, 9);
  });

  it("says what is no figure, and sends nothing", async () => {
    await walk();
    const rod = screen.getByRole("group", { name: "Heater: Anode thickness at three places" });
    fireEvent.change(
      within(rod).getAllByRole("textbox", { name: /^Thickness/u })[0] as HTMLElement,
      { target: { value: "thick" } },
    );
    fireEvent.click(within(rod).getByRole("button", { name: "Good" }));
    expect((await screen.findByRole("alert")).textContent).not.toBe("");
    expect(await kept()).toEqual([]);
  });

  it("marks by figure keys and goes on to the next point; what is kept here is shown at once", async () => {
    await walk();
    const bow = screen.getByRole("region", { name: "Bow locker" });
    const points = within(bow).getAllByRole("group");
    const first = within(points[0] as HTMLElement).getByRole("button", { name: "Good" });
    first.focus();
    fireEvent.keyDown(first, { key: "2" });
    await waitFor(async () => expect(await kept()).toMatchObject([{ mark: "watch" }]));
    expect(document.activeElement).toBe(
      within(points[1] as HTMLElement).getByRole("button", { name: "Good" }),
    );
    await waitFor(() =>
      expect(
        within(points[0] as HTMLElement)
          .getByRole("button", { name: "Watch" })
          .getAttribute("aria-pressed"),
      ).toBe("true"),
    );
    fireEvent.keyDown(document.activeElement as HTMLElement, { key: "n" });
    expect((document.activeElement as HTMLElement).getAttribute("aria-label")).toMatch(/^Note on/u);
    // In a field the figures are figures.
    fireEvent.keyDown(document.activeElement as HTMLElement, { key: "3" });
    expect(await kept()).toHaveLength(1);
    fireEvent.keyDown(document.activeElement as HTMLElement, { key: "Enter" });
    fireEvent.keyDown(document.activeElement as HTMLElement, { key: "k" });
    expect(document.activeElement).toBe(first);
  });
});
