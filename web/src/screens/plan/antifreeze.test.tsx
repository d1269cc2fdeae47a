import { cleanup, screen } from "@testing-library/react";
import { planWinterize, standardRequest, startPhysical } from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import { afterEach, describe, expect, it } from "vitest";
import { mapOf, ME, SETUP, show } from "../../testing/house.tsx";
import { AntifreezeFigure } from "./antifreeze.tsx";
import { PlanSteps } from "../../planning/plan-steps.tsx";

afterEach(cleanup);

const planned = (id: string) => {
  const network = buildNetwork(mapOf(id));
  const request = { ...standardRequest(network, startPhysical(network)), ...SETUP };
  const plan = planWinterize(request);
  return {
    network,
    plan,
    antifreeze: plan.antifreeze,
    filledM3: planWinterize({ ...request, heaterInLine: true }).antifreeze.medianM3,
  };
};
const US = { ...ME, workshop: { ...ME.workshop, units: "us" as const } };

describe("the antifreeze figure", () => {
  it("shows what the bypass saves, the working and the trade's rule", async () => {
    const { container } = await show(<AntifreezeFigure {...planned("teasel")} setup={SETUP} />);
    expect(container.textContent).toMatch(
      /Without the bypass, the heater filled: \d\d\.\d L, that is 3\d\.\d L more/u,
    );
    for (const line of [
      "Pipe and hose filled",
      "Run on to strength",
      "Traps and bowls",
      "Sum, nothing spilled or overrun",
    ])
      expect(screen.getByText(line)).toBeTruthy();
    expect(container.textContent).toContain("Rule of thumb");
    expect(container.textContent).toContain("common practice, no source");
  });

  it("says where there is no way round the heater, and what it takes", async () => {
    const { container } = await show(<AntifreezeFigure {...planned("plover")} setup={SETUP} />);
    expect(container.textContent).toContain(
      "No way round the heater on this unit: it takes 15.0 L",
    );
    expect(container.textContent).not.toContain("Without the bypass");
  });

  it("follows the workshop's units everywhere", async () => {
    const { container } = await show(<AntifreezeFigure {...planned("teasel")} setup={SETUP} />, US);
    expect(container.textContent).toContain("US gal");
    expect(container.textContent).not.toMatch(/\d L\b/u);
  });
});

describe("the steps of a plan", () => {
  it("stand by stage, numbered through, with no unset quantity in them", async () => {
    const { plan, network } = planned("teasel");
    const { container } = await show(<PlanSteps steps={plan.steps} network={network} />, US);
    for (const stage of ["Secure", "Drain", "Bypass", "Fill", "Traps", "Button up"])
      expect(screen.getByText(stage)).toBeTruthy();
    expect(container.querySelectorAll("summary")).toHaveLength(plan.steps.length);
    expect(container.textContent).not.toMatch(/\{m3:|\{c:/u);
    expect(container.textContent).not.toContain("°C");
  });
});
