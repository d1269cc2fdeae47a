import type { ProcedureRun } from "@uppershed/contract";
import type { Page } from "@playwright/test";
import { faults } from "./support/access.ts";
import { expect, test } from "./support/test.ts";
import { Technician } from "./support/technician.ts";

/** What is kept on a device until the server has it. */

const keptHere = (page: Page) => page.getByRole("button", { name: /kept here/u });
const runIn = async (
  page: Page,
  url: string,
): Promise<{ id: string; read: () => Promise<ProcedureRun> }> => {
  const id = new URL(page.url()).pathname.split("/").at(-1) ?? "";
  return {
    id,
    read: async () =>
      (await (await page.request.get(`${url}/api/runs/${id}`)).json()) as ProcedureRun,
  };
};
const OFFLINE_STEPS = 20;
const signedIn = (run: ProcedureRun): string[] =>
  run.events.flatMap((e) => (e.body.type === "step-signed" ? [e.body.stepId] : []));

test("twenty steps signed without a signal, the sheet left: back on line on another screen they are sent, each once", async ({
  tech,
  page,
  context,
  server,
}) => {
  await tech.signIn();
  await tech.begin("Teasel");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  const run = await runIn(page, server.url);
  await context.setOffline(true);
  for (let i = 0; i < OFFLINE_STEPS; i++) await tech.doStep();
  await page.getByRole("link", { name: "Bench" }).click();
  await expect(page.getByRole("heading", { name: "Still here" })).toBeVisible();
  await expect(keptHere(page)).toContainText("no signal");
  await keptHere(page).click();
  const sheet = page.getByRole("dialog", { name: "Kept on this device" });
  await expect(sheet.getByText("Teasel: signature of a step").first()).toBeVisible();
  expect(await faults(page, "[role=dialog]"), "kept on this device").toEqual([]);
  await page.keyboard.press("Escape");
  await context.setOffline(false);
  await page.evaluate(() => window.dispatchEvent(new Event("online")));
  await expect(keptHere(page)).toHaveCount(0);
  const now = await run.read();
  expect(signedIn(now)).toHaveLength(OFFLINE_STEPS);
  expect(new Set(signedIn(now)).size).toBe(OFFLINE_STEPS);
  expect(now.unread).toEqual([]);
  expect(new Set(now.events.map((e) => e.id)).size).toBe(now.events.length);
  await page.goto(`${server.url}/runs/${run.id}`);
  await expect(page.getByText(`Step ${OFFLINE_STEPS + 1} of`, { exact: false })).toBeVisible();
});

test("two tabs on one sheet: each shows what the other does, and a step is signed once", async ({
  tech,
  page,
  context,
  server,
}) => {
  await tech.signIn();
  await tech.begin("Teasel");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  const run = await runIn(page, server.url);
  const other = new Technician(await context.newPage(), server);
  await other.page.goto(page.url());
  await expect(other.title).toHaveText(await tech.title.innerText());
  // Ticked here, seen there; signed there, seen here.
  await page.getByRole("checkbox").first().click();
  await expect(other.page.getByRole("checkbox").first()).toBeChecked();
  await other.tickAll();
  const first = await tech.title.innerText();
  await other.page.getByRole("button", { name: "Done, next step" }).click();
  await expect(tech.title).not.toHaveText(first);
  await expect(other.title).toHaveText(await tech.title.innerText());
  // Both at once: one signature counts, the other is kept with its reason, and nobody is told that it was saved.
  await other.tickAll();
  await expect(page.getByRole("checkbox", { checked: false })).toHaveCount(0);
  await Promise.all(
    [tech, other].map((t) => t.page.getByRole("button", { name: "Done, next step" }).click()),
  );
  await expect(page.getByText(/^Step 3 of/u)).toBeVisible();
  await expect(other.page.getByText(/^Step 3 of/u)).toBeVisible();
  await expect.poll(async () => new Set(signedIn(await run.read())).size).toBe(2);
  expect(signedIn(await run.read())).toHaveLength(2);
});

test("two technicians work one sheet, each on a tablet of their own, and see each other's ticks", async ({
  tech,
  browser,
  page,
  server,
}) => {
  await tech.signIn();
  await tech.begin("Teasel");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  const run = await runIn(page, server.url);
  const theirs = await browser.newContext();
  const other = new Technician(await theirs.newPage(), server);
  await other.signIn("odile");
  await other.page.goto(page.url());
  await expect(other.title).toHaveText(await tech.title.innerText());
  await page.getByRole("checkbox").first().click();
  await expect(other.page.getByRole("checkbox").first()).toBeChecked();
  await other.tickAll();
  await expect(page.getByRole("checkbox", { checked: false })).toHaveCount(0);
  const first = await tech.title.innerText();
  await other.page.getByRole("button", { name: "Done, next step" }).click();
  await expect(tech.title).not.toHaveText(first);
  await tech.tickAll();
  await expect(other.page.getByRole("checkbox", { checked: false })).toHaveCount(0);
  await page.getByRole("button", { name: "Done, next step" }).click();
  await expect(other.page.getByText(/^Step 3 of/u)).toBeVisible();
  const { events } = await run.read();
  const signed = events.filter((e) => e.body.type === "step-signed");
  expect(signed.map((e) => e.by.name)).toEqual(["O. Marchbank", "R. Amadi"]);
  await theirs.close();
});

test("an entry that the server refuses stays with its reason, holds nothing up, is corrected and sent", async ({
  tech,
  page,
  context,
}) => {
  await tech.signIn();
  // A device whose application thinks that a note may be longer than the server takes.
  const tooLong = /^A long story\. /u;
  await context.route("**/api/units/*/notes", async (route) => {
    const body =
      route.request().method() === "POST"
        ? (route.request().postDataJSON() as { id: string; text: string })
        : undefined;
    if (body && tooLong.test(body.text))
      await route.continue({ postData: { ...body, text: body.text.padEnd(2001, "o") } });
    else await route.continue();
  });
  await tech.toUnits();
  await page.getByRole("link", { name: /^Teasel/u }).click();
  await page.getByRole("button", { name: /^Notes/u }).click();
  const notes = page.getByRole("dialog", { name: "Notes" });
  const write = async (text: string): Promise<void> => {
    await notes.getByLabel("A new note").fill(text);
    await notes.getByRole("button", { name: "Keep it" }).click();
  };
  await write("A long story. One.");
  await write("Short and good.");
  // The one that cannot be taken holds nothing up.
  await expect(notes.getByRole("list", { name: "Notes on this unit" })).toContainText(
    "Short and good.",
  );
  await page.keyboard.press("Escape");
  await expect(keptHere(page)).toHaveAccessibleName("1 kept here, 1 not taken");
  await keptHere(page).click();
  const sheet = page.getByRole("dialog", { name: "Kept on this device" });
  await expect(sheet).toContainText("The server did not take it:");
  expect(await faults(page, "[role=dialog]"), "refused").toEqual([]);
  await sheet.getByRole("button", { name: "Correct it and send" }).click();
  await sheet.getByLabel("The note").fill("Told shorter.");
  await sheet.getByRole("button", { name: "Send it so" }).click();
  await expect(sheet).toContainText("Everything is on the server.");
  await page.keyboard.press("Escape");
  await expect(keptHere(page)).toHaveCount(0);
  await page.reload();
  await page.getByRole("button", { name: /^Notes/u }).click();
  await expect(notes.getByRole("list", { name: "Notes on this unit" })).toContainText(
    "Told shorter.",
  );
  await expect(notes.getByText("A long story.")).toHaveCount(0);
});
