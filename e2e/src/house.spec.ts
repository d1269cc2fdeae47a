import { test as base } from "@playwright/test";
import { TOTP } from "otpauth";
import { faults } from "./support/access.ts";
import { openKeptServer, PASSWORD } from "./support/server.ts";
import { Technician } from "./support/technician.ts";
import { expect, test } from "./support/test.ts";

/** The house: its rules and what prints them, its places and kit, its doors and its backups. */

/** To the newest record of a unit. */
const toRecord = async (tech: Technician, unit: string): Promise<void> => {
  await tech.toUnits();
  await tech.page
    .getByRole("link", { name: new RegExp(unit, "u") })
    .first()
    .click();
  await expect(tech.title).toContainText(unit);
  await tech.page.locator("a[href^='/records/']").first().click();
  await tech.page.waitForURL(/\/records\//u);
};

test("a rule is changed: plans go by it from then on, and old records print the rules of their day", async ({
  tech,
  page,
}) => {
  await tech.signIn("odile");
  await toRecord(tech, "Turnstone");
  await expect(page.getByText(/^Revision 1 of the house rules\./u)).toBeVisible();
  const record = page.url();

  await page.goto(`${tech.server.url}/workshop/rules`);
  expect(await faults(page), "house rules").toEqual([]);
  await page.getByLabel(/^How far below the winter low/u).fill("2");
  await page.getByRole("button", { name: "Keep as revision 2" }).click();
  await expect(page.getByRole("alert")).toContainText("Say why.");
  await page.getByLabel("Why this changes").fill("Nothing froze at five in ten years");
  await page.getByRole("button", { name: "Keep as revision 2" }).click();
  await expect(page.getByRole("region", { name: "Revisions" })).toContainText("2 K, before: 5 K");

  await page.goto(record);
  await expect(page.getByText(/^Revision 1 of the house rules\./u)).toBeVisible();
  await page.getByText("Each rule").click();
  await expect(page.getByText("5 K", { exact: true })).toBeVisible();
  await expect(page.getByText("2 K", { exact: true })).toHaveCount(0);

  await page.goto(`${tech.server.url}/`);
  await tech.toCard("Teasel");
  await page.getByRole("link", { name: "Plan a winterizing" }).click();
  await expect(page.getByRole("region", { name: "House rules" })).toContainText("Revision 2");
  await expect(page.getByText("with 2 K in hand")).toBeVisible();
});

test("a job that departs from the house's winter low asks why, and its record prints who and why", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await tech.toCard("Burdock");
  await page.getByRole("link", { name: "Plan a winterizing" }).click();
  const begin = page.getByRole("button", { name: "Begin at the unit" });
  await expect(begin).toBeEnabled();
  await page.getByLabel("Winter low here").fill("-10 °C");
  await expect(page.getByRole("region", { name: "Departs from the house rules" })).toContainText(
    "the house says −18 °C",
  );
  await expect(begin).toBeDisabled();
  await page.getByLabel("Why, on this job?").fill("It stands in a heated hall");
  await begin.click();
  await page.waitForURL(/\/runs\//u);
  await page.goto(page.url().replace("/runs/", "/records/"));
  await expect(page.getByText(/instead of −18 °C: It stands in a heated hall/u)).toContainText(
    "R. Amadi",
  );
});

test("places and kit are written down, and a plan goes by them", async ({ tech, page }) => {
  await tech.signIn("odile");
  await page.goto(`${tech.server.url}/workshop/places`);
  expect(await faults(page), "places").toEqual([]);
  await page.getByRole("button", { name: "Add a place" }).click();
  const sheet = page.getByRole("dialog");
  await sheet.getByLabel("Name").fill("Top pasture");
  await sheet.getByLabel("Winter low there").fill("-27 °C");
  await sheet.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("list", { name: "Places" })).toContainText("Top pasture");

  await page.goto(`${tech.server.url}/workshop/kit`);
  expect(await faults(page), "kit").toEqual([]);
  await expect(page.getByText(/dries and swells rubber seals/u)).toBeVisible();
  const key = page.getByRole("listitem").filter({ hasText: "Heater key" });
  await key.getByRole("button", { name: "Not here any more" }).click();
  await expect(key).toContainText("(not here any more)");

  await page.goto(`${tech.server.url}/`);
  await tech.toCard("Burdock");
  await page.getByRole("link", { name: "Burdock" }).first().click();
  await page.waitForURL(/\/units\/[^/]+$/u);
  const unit = page.url();
  await page.goto(`${unit}/edit`);
  await page.getByLabel(/^Place: its winter low/u).selectOption({ label: "Top pasture, −27 °C" });
  await page.getByRole("button", { name: "Keep" }).click();
  await page.waitForURL(/\/units\/[^/]+$/u);
  await page.goto(`${unit}/plan`);
  await expect(page.getByLabel("Winter low here")).toHaveValue("−27 °C");
  await expect(page.getByRole("region", { name: "What to carry" })).toContainText(
    "(not in the kit)",
  );
  await page.getByLabel("From the kit").selectOption({ label: "Shed antifreeze 35, 5.0 L" });
  await expect(page.getByLabel("Strength in the jug")).toHaveValue("35 %");
});

test("a second factor: taken up, asked for with the next signing in, and a recovery code in its place", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await page.goto(`${tech.server.url}/me`);
  await page.getByRole("button", { name: "Ask for a second factor" }).click();
  const sheet = page.getByRole("dialog", { name: "A second factor" });
  await sheet.getByLabel("Your password").fill(PASSWORD);
  await sheet.getByRole("button", { name: "Go on" }).click();
  await expect(sheet.getByRole("img")).toBeVisible();
  expect(await faults(page, "[role=dialog]"), "second factor").toEqual([]);
  const secret = await sheet.locator("p b").innerText();
  const code = (ahead = 0): string =>
    new TOTP({ secret }).generate({ timestamp: Date.now() + ahead * 30_000 });
  await sheet.getByLabel("What it shows now").fill("000000");
  await sheet.getByRole("button", { name: "Ask for it from now on" }).click();
  await expect(sheet.getByRole("alert")).toContainText("not the code of now");
  await sheet.getByLabel("What it shows now").fill(code());
  await sheet.getByRole("button", { name: "Ask for it from now on" }).click();
  const codes = sheet.getByRole("list", { name: "Recovery codes" }).getByRole("listitem");
  await expect(codes).toHaveCount(8);
  const recovery = await codes.allInnerTexts();
  await sheet.getByRole("button", { name: "They are written down" }).click();
  await expect(page.getByText("8 recovery codes are left")).toBeVisible();

  await page.getByRole("button", { name: "Sign out" }).click();
  await page.waitForURL(/\/sign-in$/u);
  await tech.tryToSignIn("amadi", PASSWORD);
  await expect(page.getByRole("alert")).toContainText("six figures of your authenticator");
  await page.getByLabel(/^Code of your authenticator/u).fill(code(1));
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("navigation", { name: "Screens" })).toBeVisible();

  await page.getByRole("button", { name: "Sign out" }).click();
  await page.waitForURL(/\/sign-in$/u);
  await tech.tryToSignIn("amadi", PASSWORD);
  await page.getByLabel(/^Code of your authenticator/u).fill(recovery[0] ?? "");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("navigation", { name: "Screens" })).toBeVisible();
  await page.goto(`${tech.server.url}/me`);
  await expect(page.getByText("7 recovery codes are left")).toBeVisible();
});

base("a backup, a database that is wiped, and the same record on the screen", async ({ page }) => {
  const server = await openKeptServer();
  try {
    const tech = new Technician(page, server);
    await tech.signIn("odile");
    await toRecord(tech, "Turnstone");
    const record = page.url();
    const paper = page.getByRole("article");
    await expect(paper).toContainText("signed off");
    const then = await paper.innerText();

    await page.goto(`${server.url}/workshop`);
    await page.getByRole("button", { name: "Make one now" }).click();
    await expect(page.getByRole("list", { name: /^Backups/u }).getByRole("listitem")).toContainText(
      "10 units",
    );
    const file = await server.newest();
    await server.wipe();
    await page.goto(record);
    await expect(page.getByRole("heading", { name: "Set up the workshop" })).toBeVisible();

    expect(await server.shed("restore", file)).toContain("what was there is kept");
    await page.goto(`${server.url}/sign-in`);
    await tech.signIn("odile");
    await page.goto(record);
    await expect(paper).toContainText("signed off");
    expect(await paper.innerText()).toBe(then);
  } finally {
    await server.close();
  }
});
