import { Drafter } from "./support/drafter.ts";
import { expect, test } from "./support/test.ts";
import { winterize } from "./support/winterized.ts";

/** What was signed or handed over says for ever what it said. */

test("a report that was handed over stays as it was when something more is found", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await page.evaluate(
    () => (window.print = () => document.body.setAttribute("data-printed", "yes")),
  );
  await tech.toCard("Teasel");
  const card = page.url();
  await page
    .getByRole("listitem")
    .filter({ hasText: "Report to the owner" })
    .getByRole("link", { name: "Open" })
    .click();
  await expect(page.getByText("draft, not handed over")).toBeVisible();
  await page.getByRole("button", { name: "Print" }).click();
  await expect(page.locator("body[data-printed=yes]")).toBeAttached();
  await expect(page.getByText(/^Edition 1, handed over .*: it does not change/u)).toBeVisible();
  const edition = page.url();
  const paper = page.getByRole("article");
  const then = await paper.innerText();
  expect(then).toContain("edition 1");

  await page.goto(card);
  await page.getByRole("button", { name: "A finding" }).click();
  const sheet = page.getByRole("dialog", { name: "A finding" });
  await sheet.getByLabel("What was found?").fill("Relief valve passes");
  await sheet.getByRole("radio", { name: /^unsafe/u }).check();
  await sheet.getByRole("button", { name: "Write it down" }).click();
  await expect(page.getByRole("region", { name: "Findings" })).toContainText("Relief valve passes");
  await expect(page.getByRole("button", { name: /kept here/u })).toHaveCount(0);

  await page.goto(edition);
  await expect(paper).toContainText("edition 1");
  expect(await paper.innerText()).toBe(then);
  await page.getByRole("link", { name: "The report as it stands now" }).click();
  await expect(paper).toContainText("Relief valve passes");
  await expect(paper).toContainText("draft, not handed over");
  await page.getByRole("button", { name: "Make a link" }).click();
  const address = await page.getByLabel("Address for the owner").inputValue();
  await expect(page.getByRole("region", { name: "Editions" })).toContainText("Edition 2");
  await page.goto(address);
  await expect(paper).toContainText("edition 2");
});

test("a map that is corrected after the winterizing: the unit says so, its picture draws it, the record stays", async ({
  tech,
  page,
  server,
}) => {
  await tech.signIn();
  const { unitId, runId } = await winterize(page, server, "Teasel");
  await page.goto(`${server.url}/units/${unitId}`);
  await expect(page.getByText(/^Winterized .* holds to −2\d °C/u)).toContainText(
    "nothing written down since",
  );
  await page.getByRole("link", { name: "Draw the map" }).click();
  const d = new Drafter(page);
  await d.ready();
  await d.type("ice");
  await d.press("Enter");
  await d.clickPipe("cold pipe from Cold main tee to Heater tee, cold");
  await expect(d.part(/^Ice maker, /u)).toBeVisible();
  await d.press("Escape");
  await d.button("Save");
  await d.fill("Why it changes", "Ice maker found behind the fridge");
  await d.button("Save as the next revision");
  await expect(page.getByText("map revision 2", { exact: true })).toBeVisible();

  await page.goto(`${server.url}/units/${unitId}`);
  const sentence = page.getByText(/^Winterized .* by antifreeze/u);
  await expect(sentence).toContainText("holds to 0 °C");
  await expect(sentence).toContainText("map changed since: Ice maker, not known to hold.");
  await expect(tech.onMap(/^Ice maker, .*water/u)).toBeVisible();
  await expect(tech.onMap(/^Pump, .*antifreeze/u)).toBeVisible();
  await page.goto(`${server.url}/units`);
  await expect(page.getByRole("row", { name: /Teasel/u })).toContainText("cannot tell for all");

  await page.goto(`${server.url}/records/${runId}`);
  await expect(tech.title).toContainText(/Teasel holds to −2\d °C/u);
  await expect(page.getByText("Ice maker")).toHaveCount(0);

  // What is tried and what is found next begins from there.
  await page.goto(`${server.url}/units/${unitId}/map`);
  await page.getByRole("button", { name: "Try" }).click();
  await expect(page.getByLabel("Holds at first")).toHaveValue("now");
  await expect(page.getByLabel("Stands at first")).toHaveValue("as left");
});
