import type { PointLook } from "@uppershed/contract";
import { faults } from "./support/access.ts";
import { expect, test } from "./support/test.ts";

test("the walk-round is done by keyboard alone, from the bench to the last point", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await expect(page.getByText("To load today")).toBeVisible();
  await page.keyboard.press("/");
  await page.keyboard.type("sundew");
  await expect(
    page.getByRole("dialog", { name: "Find a unit" }).getByRole("button", { name: /^Sundew/u }),
  ).toBeVisible();
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Walk-round" }).focus();
  await page.keyboard.press("Enter");
  await expect(tech.title).toHaveText("Walk-round of Sundew");
  const count = page.getByText(/points looked at now/u);
  await expect(count).toContainText(/^0 of \d+/u);
  const inAll = Number(/of (\d+)/u.exec(await count.innerText())?.[1]);
  const inPoint = () =>
    page.evaluate(() => document.activeElement?.closest("[data-point]") !== null);
  for (let i = 0; i < 60 && !(await inPoint()); i++) await page.keyboard.press("Tab");
  expect(await inPoint()).toBe(true);
  await page.keyboard.press("n");
  await page.keyboard.type("weeps a little, 3 drops");
  await page.keyboard.press("Enter");
  await page.keyboard.press("2");
  await expect(count).toContainText(/^1 of/u);
  for (let i = 1; i < inAll; i++) {
    await page.keyboard.press("1");
    await expect(count).toContainText(new RegExp(`^${i + 1} of`, "u"));
  }
  // A few points stand for all: they are alike.
  expect(await faults(page, "section:first-of-type")).toEqual([]);
  await expect(page.getByRole("button", { name: /kept here/u })).toHaveCount(0);
  await page.reload();
  await expect(count).toContainText(new RegExp(`^${inAll} of ${inAll}`, "u"));
  await expect(page.getByText("weeps a little, 3 drops")).toBeVisible();
});

test.describe("without a signal", () => {
  test.use({ serviceWorkers: "allow" });
  test("forty points and their pictures are kept, over a reload, and arrive once with their own times", async ({
    tech,
    page,
    context,
    server,
  }) => {
    await tech.signIn();
    await tech.toUnits();
    await page.getByRole("link", { name: /^Teasel/u }).click();
    await page.waitForURL(/units\/[^/]+$/u);
    const unitId = /units\/([^/]+)$/u.exec(page.url())?.[1] ?? "";
    await page.getByRole("link", { name: "Walk-round" }).click();
    await expect(tech.title).toHaveText("Walk-round of Teasel");
    await page.evaluate(async () => {
      await navigator.serviceWorker.ready;
    });
    await context.setOffline(true);
    await page.reload();
    await expect(tech.title).toHaveText("Walk-round of Teasel");
    const began = Date.now();
    const points = page.locator("[data-point]");
    expect(await points.count()).toBeGreaterThanOrEqual(40);
    const dot = Buffer.from(
      "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
      "base64",
    );
    for (let i = 0; i < 40; i++) {
      const point = points.nth(i);
      await point.getByRole("button", { name: i % 5 === 0 ? "Watch" : "Good" }).click();
      await expect(point.getByRole("button", { pressed: true })).toHaveCount(1);
      if (i % 4 === 0) {
        await point
          .getByLabel(/^Picture of/u)
          .setInputFiles({ name: "p.png", mimeType: "image/png", buffer: dot });
        await expect(point.getByRole("list", { name: "Pictures" }).getByRole("img")).toBeVisible();
      }
    }
    await expect(page.getByText(/points looked at now/u)).toContainText("40 of");
    await expect(page.getByRole("button", { name: "50 kept here, no signal" })).toBeVisible();
    await page.reload();
    await expect(page.getByText(/points looked at now/u)).toContainText("40 of");
    await context.setOffline(false);
    await page.evaluate(() => window.dispatchEvent(new Event("online")));
    await expect(page.getByRole("button", { name: /kept here/u })).toHaveCount(0, {
      timeout: 60_000,
    });
    const { looks } = (await (
      await page.request.get(`${server.url}/api/units/${unitId}/looks`)
    ).json()) as { looks: PointLook[] };
    const fresh = looks.filter((l) => Date.parse(l.at) >= began);
    expect(fresh).toHaveLength(40);
    expect(new Set(fresh.map((l) => l.at)).size).toBe(40);
    const { pictures } = (await (
      await page.request.get(`${server.url}/api/units/${unitId}/pictures`)
    ).json()) as {
      pictures: { at: string; about: string; aboutId: string }[];
    };
    const taken = pictures.filter((p) => Date.parse(p.at) >= began);
    expect(taken).toHaveLength(10);
    expect(taken.every((p) => fresh.some((l) => l.id === p.aboutId))).toBe(true);
  });
});
