import { Drafter } from "./support/drafter.ts";
import { expect, test } from "./support/test.ts";

/** A unit's map tried out: what would come is told, played and kept as a note, and the record is not touched. */

test("valves turned and time passed on the map: words before water moves, figures after, a note that can be tried again", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await tech.toUnits();
  await page.getByRole("link", { name: /^Teasel/u }).click();
  await page.waitForURL(/\/units\/[^/]+$/u);
  const unit = page.url();
  await page.getByRole("link", { name: "Draw the map" }).click();
  const d = new Drafter(page);
  await d.ready();
  await page.getByRole("button", { name: "Try", exact: true }).click();
  const steps = page.getByRole("list", { name: "What was done" }).locator("> li");
  const ahead = page.getByRole("region", { name: "If two minutes pass now" });

  await d.part(/^V2, /u).click();
  await d.part(/^Galley tap, /u).click();
  await page.getByRole("group", { name: "Hot" }).getByRole("button", { name: "open" }).click();
  await expect(ahead).toContainText(
    "Nothing comes at Galley tap, hot: it needs V2 tank (now pickup).",
  );
  await page.getByRole("button", { name: "Jug" }).click();
  await page.getByRole("button", { name: "Do it" }).click();
  await expect(ahead).toContainText(
    /Antifreeze goes into Heater: .* of glycol so far, it holds 38\.0 L/u,
  );

  await page.getByRole("button", { name: "Wait and see" }).click();
  await expect(steps).toHaveCount(4);
  await expect(steps.nth(3)).toContainText(
    /Wait 60 s.*L out at Galley tap, hot; .* L in.*Antifreeze goes into Heater/u,
  );
  const moment = page.getByRole("region", { name: "Moment" });
  await moment.getByRole("slider").press("End");
  await expect(moment).toContainText("00:01:00 in step 4");
  await page.getByRole("tab", { name: "Flows" }).click();
  await expect(
    page.getByRole("row", { name: /^Galley tap, hot \d.* L\/min \d+ % 15/u }),
  ).toBeVisible();
  await moment.getByRole("slider").press("Home");
  await expect(moment).toContainText("00:00:00 in step 4");
  await page.getByRole("tab", { name: "Frost" }).click();
  const night = page.getByRole("region", { name: "A night" });
  await expect(night).toContainText(/ice \d+ min, through/u);
  await night.getByRole("textbox").fill("5 C");
  await expect(night).toContainText("A temperature below freezing");
  await page.getByRole("tab", { name: "Steps" }).click();

  await page.getByRole("button", { name: "Step back" }).click();
  await expect(steps).toHaveCount(3);
  await page.getByRole("button", { name: "Keep note" }).click();
  await page.getByLabel("What it shows").fill("The jug feeds the heater while V7 is shut.");
  await page.getByRole("button", { name: "Keep the note" }).click();
  await expect(page.getByRole("dialog")).toHaveCount(0);

  await page.goto(unit);
  await expect(page.getByText(/^In use.*full of water \(assumed\)/u)).toBeVisible();
  await page.getByRole("button", { name: "Notes (1)" }).click();
  const notes = page.getByRole("list", { name: "Notes on this unit" });
  await expect(notes).toContainText("The jug feeds the heater while V7 is shut.R. Amadi");
  await notes.getByRole("link", { name: "try its 3 steps again" }).click();
  await expect(steps).toHaveCount(3);
  await expect(d.part(/^V2, Suction selector, pickup/u)).toBeVisible();
});

test("air blown in is told part by part, and what it leaves wet", async ({ tech, page }) => {
  await page.emulateMedia({ reducedMotion: "reduce" });
  await tech.signIn();
  await tech.toUnits();
  await page.getByRole("link", { name: /^Teasel/u }).click();
  await page.getByRole("link", { name: "Draw the map" }).click();
  const d = new Drafter(page);
  await d.ready();
  await page.getByRole("button", { name: "Try", exact: true }).click();
  await page.getByLabel("Stands at first").selectOption("blow");
  await d.part(/^Basin tap, /u).click();
  await page.getByRole("group", { name: "Cold" }).getByRole("button", { name: "open" }).click();
  await page.getByRole("button", { name: "Blow", exact: true }).click();
  await page.getByRole("textbox", { name: "Regulator" }).fill("900 bar");
  await page.getByRole("button", { name: "Do it" }).click();
  await expect(page.getByRole("dialog").getByRole("alert")).toBeVisible();
  await page.getByRole("textbox", { name: "Regulator" }).fill("40 psi");
  await page.getByRole("button", { name: "Do it" }).click();
  const done = page.getByRole("list", { name: "What was done" });
  await expect(done).toContainText(
    /Blow at Shore inlet, 2\.8 bar.*L out at Basin tap, cold; \d+ parts and pipes swept, \d+ pressed only, \d+ not reached/u,
  );
  await done.getByText("what moved, what stayed and why").click();
  await expect(done).toContainText(
    /Strainer: not reached: behind a shut valve or against a check/u,
  );
  await expect(done).toContainText(
    /Galley tap, hot cartridge: pressed only: a dead end keeps its water/u,
  );
});
