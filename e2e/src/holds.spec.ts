import { faults } from "./support/access.ts";
import { expect, test } from "./support/test.ts";
import type { Technician } from "./support/technician.ts";

/** Pressure tests: planned from the map, read, judged, and followed to the joint. */

const toTests = async (tech: Technician, unit: string): Promise<void> => {
  const { page } = tech;
  await tech.signIn();
  await tech.toUnits();
  await page
    .getByRole("link", { name: new RegExp(`^${unit}`, "u") })
    .first()
    .click();
  await page.getByRole("link", { name: /^Pressure tests/u }).click();
  await expect(page.getByRole("heading", { name: `Pressure tests of ${unit}` })).toBeVisible();
};

/** Readings of a file that a logger would have written. */
const csv = (rows: readonly (readonly [min: number, bar: number, celsius: number])[]): Buffer =>
  Buffer.from(
    `time min,pressure bar,temperature C,barometer mbar\n${rows
      .map(([t, p, c]) => `${t},${p.toFixed(5)},${c.toFixed(2)},1010`)
      .join("\n")}\n`,
  );

const bring = async (tech: Technician, buffer: Buffer, name = "logger.csv"): Promise<void> => {
  await tech.page
    .getByLabel("Read a logger's file")
    .setInputFiles({ name, mimeType: "text/csv", buffer });
};

test("air on a tank is refused without a limit; with one, drift that looks like a leak is judged tight", async ({
  tech,
  page,
}) => {
  await toTests(tech, "Haywain");
  expect(await faults(page), "pressure tests").toEqual([]);
  await page.getByLabel("What is tested").selectOption({ label: "Fresh tank" });
  await page.getByLabel("With what").selectOption({ label: "low air" });
  await expect(page.getByRole("alert")).toContainText("maker's limit");
  await expect(page.getByRole("button", { name: "Begin this test" })).toHaveCount(0);
  await page.getByLabel("What its maker allows, or its owner has signed for").fill("100 mbar");
  await expect(page.getByLabel("Gauge")).toHaveValue("Tank gauge, 160 mbar");
  await expect(page.getByText("On the largest panel")).toBeVisible();
  await page.getByRole("button", { name: "Begin this test" }).click();
  await expect(page.getByRole("list", { name: "Steps" })).toContainText("What makes air safe");
  await expect(page.getByText(/^Nothing is pressed with air before/u)).toBeVisible();
  await expect(page.getByRole("form", { name: "A reading" })).toHaveCount(0);
  const steps = page.getByRole("list", { name: "Steps" });
  for (const step of ["Make it ready", "What makes air safe"]) {
    if (step === "What makes air safe")
      await expect(steps).toContainText(/Plugged, each written down to be undone again: vent/u);
    for (const row of await steps.getByRole("checkbox").all()) await row.check();
    await steps.getByRole("button", { name: "Done" }).click();
    await expect(steps).toContainText(`✓ ${step}`);
  }
  // Two degrees of cooling over four hours: 7.5 mbar of 100 are gone, and nothing has leaked.
  const rows = Array.from({ length: 121 }, (_, i) => {
    const celsius = 20 - (2 * i) / 120;
    return [i * 2, (1.11 * (celsius + 273.15)) / 293.15 - 1.01, celsius] as const;
  });
  await bring(tech, csv(rows));
  await expect(page.getByText("121 readings of logger.csv kept.")).toBeVisible();
  const verdict = page.getByRole("region", { name: "Verdict" });
  await expect(verdict).toContainText("tight");
  await verdict.getByText("Where this comes from").click();
  await expect(verdict).toContainText("First less last would have said");
  expect(await faults(page), "a hold").toEqual([]);
  await page.getByRole("button", { name: /^End it, signed/u }).click();
  await page.getByRole("link", { name: "Certificate" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("tight");
  await expect(page.getByText("If nothing had left:")).toBeVisible();
  const file = page.waitForEvent("download");
  await page.getByRole("button", { name: "Readings as CSV" }).click();
  expect((await file).suggestedFilename()).toContain("Haywain");
  const paper = page.waitForEvent("download");
  await page.getByRole("link", { name: "Certificate as PDF" }).click();
  expect((await paper).suggestedFilename()).toBe("certificate.pdf");
  expect(await faults(page), "certificate").toEqual([]);
});

test("a true leak is found down to its joint: the valves halve what is left, soap shows the place, a finding stands", async ({
  tech,
  page,
}) => {
  await toTests(tech, "Turnstone");
  await page.getByLabel(/^Must stay open/u).fill("panel in the galley");
  const behind = page.getByRole("group", { name: "Behind it lie: marked on the map" });
  await behind.getByRole("checkbox").first().check();
  await page.getByRole("button", { name: "Begin this test" }).click();
  await expect(
    page.getByText("Stays open until this has passed: panel in the galley."),
  ).toBeVisible();
  await bring(
    tech,
    csv(Array.from({ length: 121 }, (_, i) => [i * 2, 3.1 * 0.985 ** i, 18] as const)),
  );
  await expect(page.getByRole("region", { name: "Verdict" })).toContainText("leaking");
  const find = page.getByRole("region", { name: "Find the leak" });
  const left = async (): Promise<number> =>
    Number(/^(\d+) of/u.exec(await find.getByRole("heading", { level: 2 }).innerText())?.[1]);
  let before = await left();
  expect(before).toBeGreaterThan(8);
  let holds = 0;
  while (before > 1) {
    await find.getByRole("button", { name: "It fell" }).click();
    await expect.poll(left).toBeLessThan(before);
    before = await left();
    holds++;
  }
  // Fifteen sections: never more than ceil(log2 15) + 1 holds.
  expect(holds).toBeLessThanOrEqual(5);
  expect(before).toBe(1);
  const joints = find.getByRole("list", { name: "Joints" });
  await joints.getByRole("button", { name: "dry" }).first().click();
  await joints.getByRole("button", { name: "bubbles" }).nth(1).click();
  await expect(find.getByRole("heading", { level: 2 })).toContainText("It leaks at:");
  await page.getByRole("button", { name: /^End it, signed/u }).click();
  await expect(find).toContainText("test again");
  await tech.toUnits();
  await page
    .getByRole("link", { name: /^Turnstone/u })
    .first()
    .click();
  await expect(page.getByText(/^Must stay open until a pressure test/u)).toContainText(
    "panel in the galley",
  );
  // What lies behind it says so on the map.
  await expect(
    page.getByRole("button", { name: /stays open until its pressure test has passed/u }),
  ).toHaveCount(1);
  await page.getByRole("link", { name: /^Pressure tests/u }).click();
  await page
    .getByRole("link", { name: /leaking/u })
    .first()
    .click();
  await page.getByRole("link", { name: "Test again", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Test again, after the mend" })).toBeVisible();
  await expect(page.getByLabel(/^Must stay open/u)).toHaveValue("panel in the galley");
  await expect(behind.getByRole("checkbox", { checked: true })).toHaveCount(1);
  await page.goBack();
  await page.goBack();
  await page.goBack();
  await page.getByRole("link", { name: "Findings", exact: true }).click();
  await expect(page.getByText(/Leaks under test:/u).first()).toBeVisible();
});

test("a hold goes on without signal and with the page closed, and no reading is lost", async ({
  tech,
  page,
  context,
}) => {
  await toTests(tech, "Haywain");
  await page.getByRole("button", { name: "Begin this test" }).click();
  const form = page.getByRole("form", { name: "A reading" });
  const read = async (bar: string): Promise<void> => {
    await form.getByLabel("Gauge").fill(bar);
    await form.getByLabel("Temperature of it").fill("18 C");
    await form.getByLabel("Barometer").fill("1010 mbar");
    await form.getByRole("button", { name: "Keep this reading" }).click();
    await expect(form.getByLabel("Gauge")).toHaveValue("");
  };
  await read("3.10 bar");
  await form.getByLabel("Gauge").fill("-1 bar");
  await form.getByRole("button", { name: "Keep this reading" }).click();
  await expect(form.getByRole("alert")).toBeVisible();
  await context.setOffline(true);
  await read("3.09 bar");
  await read("3.08 bar");
  await expect(page.getByText(/2 kept here, not sent yet/u)).toBeVisible();
  const address = page.url();
  await context.setOffline(false);
  await page.close();
  const again = await context.newPage();
  await again.goto(address);
  await expect(again.getByText(/not sent yet/u)).toHaveCount(0);
  await again.getByText("Where this comes from").click();
  await expect(again.getByRole("region", { name: "Verdict" })).toContainText("3 in");
});

test("the stand-in for a logger streams a trace, marked as simulated, and comes back where it was", async ({
  tech,
  page,
}) => {
  await toTests(tech, "Haywain");
  await page.getByRole("button", { name: "Begin this test" }).click();
  await page.getByRole("button", { name: /^Stand-in for a logger/u }).click();
  await expect(page.getByText(/^Simulated:/u)).toBeVisible();
  const held = page.getByRole("timer");
  await expect.poll(async () => /Held (\d+) min/u.exec(await held.innerText())?.[1]).not.toBe("0");
  await page.reload();
  await expect
    .poll(async () => Number(/Held (\d+) min/u.exec(await held.innerText())?.[1]))
    .toBeGreaterThan(1);
});
