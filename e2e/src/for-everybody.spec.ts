import type AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { axeOf } from "./support/access.ts";
import { expect, test } from "./support/test.ts";

/** Readable in both lights, without a mouse, on a phone. */

const found = async (axe: AxeBuilder): Promise<string[]> => {
  const { violations } = await axe.analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`);
};

// What a screen is made of is the same in the other light; how it reads is not. The drawing is one and the same piece on every
// screen that has it: it is looked at where a unit is, with all its symbols, and passed over elsewhere.
const DRAWING = ".react-flow__viewport";
const light = (page: Page, theme: "daylight" | "lamp"): Promise<void> =>
  page.evaluate((set) => {
    document.documentElement.dataset["theme"] = set;
  }, theme);
const faults = async (page: Page, drawing = false): Promise<string[]> => {
  const look = (): AxeBuilder => (drawing ? axeOf(page) : axeOf(page).exclude(DRAWING));
  const byDay = await found(look().withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"]));
  await light(page, "lamp");
  const byLamp = await found(look().withRules(["color-contrast"]));
  await light(page, "daylight");
  return [...byDay, ...byLamp.map((fault) => `by the lamp, ${fault}`)];
};

test("every screen passes the accessibility checks, by day and by the lamp", async ({
  tech,
  page,
  server,
}) => {
  await page.goto(`${server.url}/sign-in`);
  expect(await faults(page), "sign-in").toEqual([]);
  await tech.signIn();
  await expect(page.getByText("To load today")).toBeVisible();
  // The lamp is a person's choice, and lasts; what is looked at below is the light, by the same mark on the page.
  await page.getByRole("button", { name: "Lamp" }).click();
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "lamp");
  await page.getByRole("button", { name: "Daylight" }).click();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "daylight");
  await expect(page.getByText(/jugs of antifreeze/u)).toBeVisible();
  expect(await faults(page), "bench").toEqual([]);
  await page.getByRole("link", { name: "Parts", exact: true }).click();
  // A few rows stand for all of them.
  await page.getByLabel("Find").fill("heater");
  await expect(page.getByRole("row").nth(2)).toBeVisible();
  await expect(page.getByRole("row").nth(60)).toHaveCount(0);
  expect(await faults(page), "parts").toEqual([]);
  await page.getByRole("link", { name: "Reckoner", exact: true }).click();
  await page.getByRole("link", { name: "Pressure lost along a pipe" }).click();
  await expect(page.getByRole("region", { name: "Working" })).toBeVisible();
  expect(await faults(page), "reckoner").toEqual([]);
  await tech.toUnits();
  expect(await faults(page), "units").toEqual([]);
  await page.getByRole("link", { name: "New unit" }).click();
  await page.getByRole("radio", { name: /^Dealer trailer/u }).click();
  await expect(page.getByRole("img", { name: /Water map/u })).toBeVisible();
  expect(await faults(page), "new unit").toEqual([]);
  await tech.toUnits();
  await page.getByRole("link", { name: /^Dipper/u }).click();
  await page.getByRole("link", { name: "Refits" }).click();
  await page.getByRole("link", { name: /A bypass round the heater/u }).click();
  await expect(page.getByRole("heading", { name: "What is to change" })).toBeVisible();
  expect(await faults(page), "a refit").toEqual([]);
  for (const view of ["Parts and cuts", "Work", "Commissioning"]) {
    await page.getByRole("button", { name: view, exact: true }).click();
    await expect(page.getByRole("heading", { level: 2 }).first()).toBeVisible();
    expect(await faults(page), view).toEqual([]);
  }
  await tech.toUnits();
  await page.getByRole("link", { name: /^Haywain/u }).click();
  await page.getByRole("link", { name: "Draw the map" }).click();
  await expect(page.getByRole("toolbar", { name: "Map bench" })).toBeVisible();
  expect(await faults(page), "map bench").toEqual([]);
  await page.keyboard.type("b");
  await expect(page.getByRole("listbox")).toBeVisible();
  expect(await faults(page), "palette").toEqual([]);
  await page.keyboard.press("Escape");
  await tech.onMap(/^Heater, /u).click();
  expect(await faults(page), "part's plate").toEqual([]);
  await page.getByRole("button", { name: "Try", exact: true }).click();
  await tech.onMap(/^Sink tap, /u).click();
  expect(await faults(page), "try").toEqual([]);
  await page.getByRole("button", { name: "Lineups" }).click();
  expect(await faults(page), "lineups").toEqual([]);
  await page.getByRole("button", { name: "Files" }).click();
  expect(await faults(page), "files").toEqual([]);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Try", exact: true }).click();
  await tech.onMap(/^V2, /u).click();
  await page.getByRole("button", { name: "Wait and see" }).click();
  await expect(page.getByRole("list", { name: "What was done" }).locator("> li")).toHaveCount(2);
  for (const tab of ["Steps", "Frost"]) {
    await page.getByRole("tab", { name: tab }).click();
    expect(await faults(page), `try, ${tab}`).toEqual([]);
  }
  await page.getByRole("link", { name: "revisions" }).click();
  await expect(page.getByRole("heading", { name: "Revisions of Haywain" })).toBeVisible();
  expect(await faults(page), "compare").toEqual([]);
  await tech.toUnits();
  await page.getByRole("link", { name: /Teasel/u }).click();
  await tech.onMap(/^Heater, /u).click();
  expect(await faults(page, true), "unit").toEqual([]);
  await page.getByRole("link", { name: "How its water is used" }).click();
  await expect(tech.title).toHaveText("Using the water of Teasel");
  expect(await faults(page), "how its water is used").toEqual([]);
  await page.goBack();
  await page.getByRole("link", { name: "Plan a winterizing" }).click();
  await expect(tech.title).toContainText("When done");
  expect(await faults(page), "plan").toEqual([]);
  await page.getByRole("button", { name: "Begin at the unit" }).click();
  await expect(tech.title).toHaveText("How was it found?");
  expect(await faults(page), "as found").toEqual([]);
  await page.getByRole("button", { name: "Found so, begin" }).click();
  await expect(tech.title).toHaveText("Turn the heater off");
  expect(await faults(page, true), "run sheet").toEqual([]);
  await page.getByRole("button", { name: "Can't do this" }).click();
  expect(await faults(page), "can't do this").toEqual([]);
  await page.keyboard.press("Escape");
  // How a unit is left is looked at where one is winterized to its end.
  await tech.toUnits();
  await page.getByRole("link", { name: /^Yarrow/u }).click();
  await page.getByRole("link", { name: "Year on year" }).click();
  await expect(page.getByRole("columnheader", { name: "Method" })).toBeVisible();
  expect(await faults(page), "year on year").toEqual([]);
  await page.goBack();
  await page.getByRole("link", { name: "signed sheet" }).click();
  await expect(tech.title).toContainText("Yarrow holds to");
  expect(await faults(page), "record").toEqual([]);
  await page.getByRole("link", { name: "Tag", exact: true }).click();
  await expect(page.getByRole("article", { name: "Tag" })).toContainText("Do not heat.");
  expect(await faults(page), "tag").toEqual([]);
  for (const [path, name] of [
    ["rules", "House rules"],
    ["places", "Places"],
    ["kit", "Kit"],
  ] as const) {
    await page.goto(`${server.url}/workshop/${path}`);
    await expect(tech.title).toHaveText(name);
    expect(await faults(page), name).toEqual([]);
  }
});

test("the keyboard alone opens a unit, a part's plate, and does a step", async ({ tech, page }) => {
  await tech.signIn();
  await expect(page.getByText("To load today")).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("/");
  await page.keyboard.type("tease");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Wren Hollis/u)).toBeVisible();
  await tech.onMap(/^V5, /u).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary", { name: "Plate of Heater cold in" })).toContainText(
    "Four screws",
  );
  await page.getByRole("link", { name: "Plan a winterizing" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Begin at the unit" })).toBeEnabled();
  await page.getByRole("button", { name: "Begin at the unit" }).press("Enter");
  await page.getByRole("button", { name: "Found so, begin" }).press("Enter");
  await expect(tech.title).toHaveText("Turn the heater off");
  await page.keyboard.press("a");
  await page.keyboard.press("a");
  await expect(page.getByRole("checkbox", { checked: false })).toHaveCount(0);
  await page.keyboard.press("n");
  await expect(tech.title).toHaveText("Pump off, supply hose off");
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test("a step is done with big targets, the map at a tap, nothing wider than the screen", async ({
    tech,
    page,
  }) => {
    await tech.signIn();
    await tech.begin("Teasel");
    for (const name of ["Done, next step", "Can't do this"]) {
      const box = await page.getByRole("button", { name }).boundingBox();
      expect(box?.height).toBeGreaterThanOrEqual(54);
      expect((box?.x ?? 0) + (box?.width ?? 0)).toBeLessThanOrEqual(390);
    }
    const row = await page.getByRole("checkbox").first().boundingBox();
    expect(row?.height).toBeGreaterThanOrEqual(44);
    await tech.doStep();
    await page.getByRole("button", { name: "Show the map" }).click();
    await expect(tech.onMap(/^Pump, /u)).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      390,
    );
  });
});
