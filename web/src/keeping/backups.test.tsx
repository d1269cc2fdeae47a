import type { Me } from "@uppershed/contract";
import { screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ME, show } from "../testing/house.tsx";
import { answering } from "../testing/server.ts";
import { BackupLine } from "./backup-line.tsx";
import { Backups } from "./backups.tsx";

afterEach(() => vi.unstubAllGlobals());

const LEAD: Me = { ...ME, person: { ...ME.person, role: "lead" } };

describe("backups", () => {
  const keeping = (at: string | undefined, problem: string | null = null) => ({
    folder: "/kept",
    backups: at ? [{ name: "shed-1.shed", at, bytes: 2_400_000, units: 12 }] : [],
    problem,
  });
  const line = async (body: object, role: "lead" | "apprentice" = "lead") => {
    answering({ "GET /keeping": () => ({ body }) });
    await show(
      <>
        <BackupLine role={role} />
        <Backups />
      </>,
      LEAD,
    );
    await screen.findByText(/One a day/u);
    return screen.queryByRole("status")?.textContent;
  };
  const daysAgo = (days: number): string => new Date(Date.now() - days * 86_400_000).toISOString();

  it("are listed with how much they hold", async () => {
    expect(await line(keeping(daysAgo(1)))).toBeUndefined();
    expect(screen.getByText(/12 units, 2\.4 MB/u)).toBeTruthy();
  });
  it("are spoken of on the bench when the last is old, or could not be made", async () => {
    expect(await line(keeping(daysAgo(5)))).toMatch(/^The last backup is of .* See to it$/u);
  });
  it("are spoken of when none could be made at all, with the reason", async () => {
    expect(await line(keeping(undefined, "no space left"))).toMatch(
      /No backup could be made yet: no space left/u,
    );
  });
});
