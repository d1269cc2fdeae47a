import type { Me } from "@uppershed/contract";
import { fireEvent, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { ME, RULES, show } from "../testing/house.tsx";
import { answering } from "../testing/server.ts";
import { BackupLine } from "./backup-line.tsx";
import { Backups } from "./backups.tsx";

afterEach(() => vi.unstubAllGlobals());

const LEAD: Me = { ...ME, person: { ...ME.person, role: "lead" } };

describe("backups", () => {
  const keeping = (at: string | undefined, problem: string | null = null) => ({
    folder: "/kept",
    backups: at
      ? [
          {
            name: "shed-1.shed",
            at,
            bytes: 2_400_000,
            units: 12,
            workshops: 1,
            runs: 30,
            people: 4,
            beforeUpgrade: false,
          },
        ]
      : [],
    problem,
  });
  const line = async (body: object, isOld = false, role: "lead" | "apprentice" = "lead") => {
    const asked = answering({
      "GET /keeping": () => ({ body }),
      "GET /rules": () => ({ body: RULES }),
      "POST /keeping/shed-1.shed/restore": () => ({
        body: { at: daysAgo(1), before: "shed_before_1" },
      }),
    });
    await show(
      <>
        <BackupLine role={role} />
        <Backups />
      </>,
      LEAD,
    );
    await screen.findByText(/One a day/u);
    if (isOld) await screen.findByRole("status");
    return { says: screen.queryByRole("status")?.textContent, asked };
  };
  const daysAgo = (days: number): string => new Date(Date.now() - days * 86_400_000).toISOString();

  it("are listed with how much they hold", async () => {
    expect((await line(keeping(daysAgo(1)))).says).toBeUndefined();
    expect(screen.getByText(/12 units, 30 runs, 4 people, 2\.4 MB/u)).toBeTruthy();
  });
  it("are spoken of on the bench when the last is old, or could not be made", async () => {
    expect((await line(keeping(daysAgo(5)), true)).says).toMatch(
      /^The last backup is of .* See to it$/u,
    );
  });
  it("are spoken of when none could be made at all, with the reason", async () => {
    expect((await line(keeping(undefined, "no space left"), true)).says).toMatch(
      /No backup could be made yet: no space left/u,
    );
  });
  it("are brought back only when that was typed, and say what becomes of what is here", async () => {
    const { asked } = await line(keeping(daysAgo(1)));
    fireEvent.click(screen.getByRole("button", { name: "Bring back" }));
    fireEvent.click(await screen.findByRole("button", { name: "Bring it back" }));
    expect((await screen.findByRole("alert")).textContent).toContain('Type "bring back"');
    expect(asked.some((a) => a.route.startsWith("POST"))).toBe(false);
    fireEvent.change(screen.getByLabelText(/^Type/u), { target: { value: "Bring back" } });
    fireEvent.click(screen.getByRole("button", { name: "Bring it back" }));
    expect(
      await screen.findByText(/stays on the server as the database shed_before_1/u),
    ).toBeTruthy();
  });
});
