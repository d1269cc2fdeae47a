import type { FrostWatch as Watch } from "@uppershed/contract";
import { screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ME, show } from "../testing/house.tsx";
import { answering } from "../testing/server.ts";
import { FrostWatch } from "./watch.tsx";

afterEach(() => vi.unstubAllGlobals());

const risk = (n: number, more: object = {}): Watch["risks"][number] => ({
  unitId: `00000000-0000-4000-8000-0000000000f${n}` as Watch["risks"][number]["unitId"],
  unit: `Unit ${n}`,
  place: "Upper yard",
  simulated: true,
  holdsToC: 0,
  night: { day: "2026-12-01", lowC: -6 },
  hours: 2.5,
  part: "Pump head",
  minutes: 95,
  ...more,
});
const open = async (watch: Partial<Watch>, units: "metric" | "us" = "metric") => {
  const asked: string[] = [];
  answering({
    "GET /frost-watch": () => {
      asked.push("GET /frost-watch");
      return { body: { places: [], risks: [], more: 0, ...watch } };
    },
  });
  const shown = await show(<FrostWatch />, { ...ME, workshop: { ...ME.workshop, units } });
  return { ...shown, asked };
};

describe("frost watch on the Bench", () => {
  it("says what freezes first and when, how long making safe took, and that the forecast is made up", async () => {
    await open({ risks: [risk(1)] }, "us");
    const watch = await screen.findByRole("region", { name: "Frost watch" });
    expect(watch.textContent).toMatch(/Tue 1 Dec, 21 °F at Upper yard: holds to 32 °F/u);
    expect(watch.textContent).toContain("Pump head, after 2:30 h");
    expect(watch.textContent).toContain("took 1:35 h last time");
    expect(watch.textContent).toContain("simulated: nobody has brought a forecast");
  });

  it("shows the first few, and counts the rest", async () => {
    await open({
      risks: [1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => risk(n, { simulated: false })),
      more: 3,
    });
    const watch = await screen.findByRole("region", { name: "Frost watch" });
    expect(watch.textContent).toContain("12 do not hold the nights to come");
    expect(watch.textContent).toContain("and 4 more");
    expect(watch.textContent).not.toContain("simulated");
  });

  it("is not there where every unit holds", async () => {
    const { container, asked } = await open({});
    await vi.waitFor(() => expect(asked).toContain("GET /frost-watch"));
    expect(container.textContent).toBe("");
  });
});
