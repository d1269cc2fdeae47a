import { test as base } from "@playwright/test";
import { PASSWORD as DEMO_PASSWORD, openEmptyServer, openTogether } from "./support/server.ts";
import { expect, test } from "./support/test.ts";
import { faults } from "./support/access.ts";
import { finishSteps } from "./support/winterized.ts";

const PASSWORD = "ford end in winter";

base(
  "a shop that thinks in gallons begins with an empty database, and signs its first winterizing",
  async ({ page, browser }) => {
    const server = await openEmptyServer();
    try {
      await page.goto(server.url);
      await expect(page.getByRole("heading", { name: "Set up the workshop" })).toBeVisible();
      expect(await faults(page), "set-up").toEqual([]);
      const fill = async (code: string): Promise<void> => {
        await page.getByLabel("Code").fill(code);
        await page.getByLabel("Workshop's name").fill("Ford End Boats");
        await page.getByLabel("Where it is").fill("Ford End");
        await page.getByLabel(/^US gallons/u).check();
        await page.getByLabel(/^Winter low/u).fill("5");
        await page.getByLabel("Your name").fill("A. Lead");
        await page.getByLabel("Sign-in name").fill("Ada");
        await page.getByLabel("Password").fill(PASSWORD);
        await page.getByRole("button", { name: "Begin" }).click();
      };
      await fill("not-the-code");
      await expect(page.getByRole("alert")).toContainText("not the code that was printed");
      await fill(server.code);
      await expect(page.getByRole("navigation", { name: "Screens" })).toBeVisible();

      await page.goto(`${server.url}/units/new`);
      await page.getByLabel("Name of the unit").fill("Dotterel");
      await page.getByLabel("Owner").fill("Fen Alder");
      await page.getByLabel("What it is").fill("small van");
      await page
        .getByRole("radio", { name: /pop-top|small van|van/iu })
        .first()
        .check();
      await page
        .getByRole("button", { name: /Start the map|Take it in/u })
        .first()
        .click();
      await expect(page.getByRole("toolbar", { name: "Map bench" })).toBeVisible();
      const unit = page.url().replace(/\/map.*$/u, "");
      await page.goto(`${unit}/plan`);
      await expect(page.getByRole("textbox", { name: /^Winter low/u })).toHaveValue(
        /^5(\.0)? ?°F$/u,
      );
      await expect(page.getByText(/\d gal/u).first()).toBeVisible();
      await page.getByRole("button", { name: "Begin at the unit" }).click();
      await page.getByRole("button", { name: "Found so, begin" }).click();
      await page.waitForURL(/\/runs\//u);
      const runId = page.url().split("/").at(-1) ?? "";
      await expect(page.getByRole("checkbox").first()).toBeVisible();
      await finishSteps(page, server, runId);
      await page.reload();
      await expect(page.getByText("Signed by A. Lead, lead.")).toBeVisible();
      for (const tag of await page.getByPlaceholder("what hangs on it, or where it is").all())
        await tag.fill("red tag");
      await page.getByRole("button", { name: "Left so, sign off" }).click();
      await expect(page.getByText(/signed off .* by A\. Lead, lead/u)).toBeVisible();
      await expect(page.getByRole("heading", { level: 1 })).toContainText("°F");

      // Somebody new comes by a link, as what they were invited as.
      await page.getByRole("link", { name: /A\. Lead/u }).click();
      await page.getByRole("link", { name: /^the workshop, its people/u }).click();
      expect(await faults(page), "workshop").toEqual([]);
      await page.getByRole("button", { name: "Invite somebody" }).click();
      const sheet = page.getByRole("dialog", { name: "Invite somebody" });
      await sheet.getByLabel("Name").fill("T. New");
      await sheet.getByLabel("Role").selectOption("apprentice");
      await sheet.getByRole("button", { name: "Make the link" }).click();
      const link = (await page.locator("[data-link]").textContent()) ?? "";
      const theirs = await browser.newPage();
      await theirs.goto(link);
      expect(await faults(theirs), "join").toEqual([]);
      await theirs.getByLabel("Sign-in name").fill("tee");
      await theirs.getByLabel(/^Password/u).fill("another long one");
      await theirs.getByRole("button", { name: "Join" }).click();
      await expect(theirs.getByRole("navigation", { name: "Screens" })).toBeVisible();
      await theirs.goto(`${server.url}/workshop`);
      await expect(theirs.getByText(/nothing|no such/iu).first()).toBeVisible();
      await theirs.goto(`${server.url}/me`);
      expect(await faults(theirs), "yourself").toEqual([]);
      await theirs.goto(link);
      await expect(theirs.getByRole("alert")).toContainText("not good any more");
      await theirs.close();
    } finally {
      await server.close();
    }
  },
);

base("two servers begun at once on an empty database both come up, with one demo", async () => {
  const together = await openTogether(2);
  try {
    for (const url of together.urls) {
      const health = await fetch(`${url}/api/health`);
      expect(await health.json()).toEqual({ ok: true, database: "up" });
      const signedIn = await fetch(`${url}/api/sign-in`, {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ name: "odile", password: DEMO_PASSWORD }),
      });
      const cookie = signedIn.headers
        .getSetCookie()
        .map((c) => c.split(";")[0])
        .join("; ");
      const units = await fetch(`${url}/api/units`, { headers: { cookie } });
      expect(((await units.json()) as { found: number }).found).toBe(10);
    }
  } finally {
    await together.close();
  }
});

test("the demo is taken away in one step, and one's own workshop is set up after it", async ({
  tech,
  page,
}) => {
  await tech.signIn("odile");
  await page.goto(`${tech.server.url}/workshop`);
  await page.getByRole("button", { name: "Take the demo away" }).click();
  await page.getByRole("button", { name: "Take it away" }).click();
  await expect(page.getByRole("heading", { name: "Set up the workshop" })).toBeVisible();
  await expect(page.getByLabel("Code")).not.toHaveValue("");
  await page.getByLabel("Workshop's name").fill("Ford End Boats");
  await page.getByLabel(/^Winter low/u).fill("-12");
  await page.getByLabel("Your name").fill("A. Lead");
  await page.getByLabel("Sign-in name").fill("odile");
  await page.getByLabel("Password").fill(PASSWORD);
  await page.getByRole("button", { name: "Begin" }).click();
  await expect(page.getByRole("navigation", { name: "Screens" })).toBeVisible();
  await tech.toUnits();
  await expect(page.getByText("Teasel")).toHaveCount(0);
});
