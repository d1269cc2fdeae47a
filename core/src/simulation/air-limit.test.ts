import { describe, expect, it } from "vitest";
import { teasel } from "../examples/index.ts";
import { networkOf } from "../testing/variants.ts";
import { airVerdict, simActions, simStart, simulate } from "./index.ts";

const PSI = 6894.757;
const blow = (psi: number) => ({ do: "blow" as const, at: "shore-inlet", regulatorPa: psi * PSI });
const verdictAt = (psi: number, map = teasel) => {
  const network = networkOf(map);
  return airVerdict(network, simStart(network), blow(psi)).verdict;
};
/** The shower's hot branch in a pipe of so small a rating. */
const weakBranch = (pipe: string): typeof teasel => ({
  ...teasel,
  runs: teasel.runs.map((r) =>
    r.to.part === "shower" && r.to.port === "hot" ? { ...r, pipe, name: "weak branch" } : r,
  ),
});

describe("air that is let in", () => {
  // 50 and 60 psi are the house's figures (common practice, no source).
  it("is usual at 50 psi, said above and refused over 60", () => {
    expect([40, 50, 50.1, 60, 60.1].map((psi) => verdictAt(psi))).toEqual([
      "usual",
      "usual",
      "high",
      "high",
      "refused",
    ]);
  });

  it("is said over half of what the weakest pipe bears, and refused over all of it", () => {
    // Ribbed fill hose is taken to bear 1 bar, 14.5 psi.
    const map = weakBranch("hose-38");
    expect([7, 7.5, 14, 15].map((psi) => verdictAt(psi, map))).toEqual([
      "usual",
      "high",
      "high",
      "refused",
    ]);
    const network = networkOf(map);
    expect(airVerdict(network, simStart(network), blow(15))).toMatchObject({
      why: expect.stringContaining("weak branch"),
    });
  });

  it("counts only the pipes that it would press", () => {
    const map = weakBranch("hose-38");
    const network = networkOf(map);
    const shut = simStart(network, { lineup: { v5: "shut", v6: "shut", v7: "shut" } });
    expect(airVerdict(network, shut, blow(40)).verdict).toBe("usual");
  });

  it("is refused in words before anything is done, and told afterwards where it was high", () => {
    const network = networkOf(teasel);
    const refused = simulate(network, simStart(network), simActions.parse([blow(120)]));
    expect(refused).toMatchObject({
      ok: false,
      problem: expect.stringContaining("more than any unit is given"),
    });
    const high = simulate(
      network,
      simStart(network),
      simActions.parse([{ ...blow(55), seconds: 1 }]),
    );
    expect(high.ok && high.after[0]?.notices.map((n) => n.code)).toContain("much-air");
    const usual = simulate(
      network,
      simStart(network),
      simActions.parse([{ ...blow(40), seconds: 1 }]),
    );
    expect(usual.ok && usual.after[0]?.notices.map((n) => n.code)).not.toContain("much-air");
  });
});
