import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "./support/test.ts";

test("the walk-round is made from the map; a mark is one press of a key and is there tomorrow", async ({ tech, page }) => {
  await tech.signIn();
  await tech.toUnits();
  await page.getByRole("link", { name: /^Sundew/u }).click();
  await page.getByRole("link", { name: "Walk-round" }).click();
  await expect(tech.title).toHaveText("Walk-round of Sundew");
  const count = page.getByText(/of \d+ points looked at, ever/u);
  await expect(count).toContainText(/^0 of/u);
  const first = page
    .getByRole("group")
    .filter({ has: page.getByRole("button", { name: "Watch" }) })
    .first();
  await first.getByRole("textbox", { name: /^Note/u }).fill("weeps a little");
  await first.getByRole("button", { name: "Watch" }).focus();
  await page.keyboard.press("Enter");
  await expect(count).toContainText(/^1 of/u);
  const { violations } = await new AxeBuilder({ page }).withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"]).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`)).toEqual([]);
  await page.reload();
  await expect(count).toContainText(/^1 of/u);
  await expect(first.getByRole("button", { name: "Watch" })).toHaveAttribute("aria-pressed", "true");
  await expect(page.getByText("weeps a little")).toBeVisible();
});
