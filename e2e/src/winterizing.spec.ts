import { faults } from "./support/access.ts";
import { expect, test } from "./support/test.ts";
import { Technician } from "./support/technician.ts";

test("the canal cruiser is winterized from the bench to a record that is there tomorrow", async ({
  tech,
  page,
  browser,
  server,
}) => {
  await tech.signIn();
  await tech.toCard("Teasel");
  await page.getByRole("link", { name: "The unit" }).click();
  await expect(page.getByText(/In use, full of water \(assumed\): holds to/u)).toBeVisible();
  await expect(tech.onMap(/^V7, Bypass, shut, .*water/u)).toBeVisible();
  await tech.onMap(/^Heater, /u).click();
  await expect(page.getByRole("complementary", { name: "Plate of Heater" })).toContainText(
    "38.0 L water",
  );
  // A straight pipe has no height for a click to aim at: the pointer goes to its middle.
  const pipe = await page
    .locator('g[data-run="r-t-cold-c-t-gc-a"] path')
    .last()
    .evaluate((path) => path.getBoundingClientRect().toJSON() as DOMRect);
  await page.mouse.click(pipe.x + pipe.width / 2, pipe.y + pipe.height / 2);
  await expect(page.getByRole("complementary", { name: "Plate of pipe" })).toContainText(
    "15 mm tube, cold, 1.6 m",
  );

  await page.getByRole("link", { name: "Plan a winterizing" }).click();
  await expect(tech.title).toContainText(/When done, Teasel holds to −2\d °C/u);
  const figure = page.getByRole("region", { name: "Antifreeze" });
  await expect(figure).toContainText(/3 jugs of 5.0 L/u);
  await expect(figure).toContainText(
    /Without the bypass, the heater filled: \d\d\.\d L, that is 3\d\.\d L more/u,
  );
  await expect(figure).toContainText("Rule of thumb");
  await expect(page.getByRole("region", { name: "What to carry" })).toContainText("Refractometer");
  await page.getByRole("button", { name: "Begin at the unit" }).click();

  await expect(tech.title).toHaveText("How was it found?");
  await page.getByRole("button", { name: "Found so, begin" }).click();
  await expect(tech.title).toHaveText("Turn the heater off");
  await expect(tech.meter(/Holds to, now/u)).toContainText("0 °C");

  const drained = await tech.doUntil(/^Take the heater out of the loop/u);
  expect(drained[0]).toBe("Turn the heater off");
  await expect(page.getByText("Keeps 38.0 L of antifreeze out of the heater.")).toBeVisible();
  // Valve rows are ticked one by one, and the drawing follows the hand.
  await expect(tech.onMap(/^V5, Heater cold in, open/u)).toBeVisible();
  await page.getByRole("checkbox", { name: /V5/u }).click();
  await expect(tech.onMap(/^V5, Heater cold in, shut/u)).toBeVisible();
  await expect(tech.onMap(/^V6, Heater hot out, open/u)).toBeVisible();
  await page.getByRole("button", { name: "Done, next step" }).click();
  await expect(page.getByRole("alert")).toContainText("2 rows not ticked yet");
  await tech.doStep();

  // What only a hand pump reaches, behind the inlet's check, comes first: it draws less so.
  expect(await tech.doUntil(/^Pickup hose into the jug/u, "46 %")).toEqual([
    "Push antifreeze in at the shore inlet",
  ]);
  await tech.read(/^Antifreeze brought/u, "15 L");
  await tech.doUntil(/^Measure what is left/u, "46 %");
  await expect(tech.onMap(/^Pump, .*antifreeze/u)).toBeVisible();
  await tech.read(/^Antifreeze left/u, "6.2 L");
  await tech.doUntil(/^never$/u);
  expect(await faults(page), "as left").toEqual([]);
  await expect(tech.meter(/Antifreeze used \(measured\)/u)).toContainText("8.8");
  await expect(page.getByText(/Holds to −2\d °C/u)).toBeVisible();
  await page.getByRole("button", { name: "Left so, sign off" }).click();
  await expect(page.getByRole("alert")).toContainText("Make it good or tag it: Heater, drain plug");
  await tech.leave();

  const reads = async (who: Technician): Promise<void> => {
    await expect(who.title).toContainText(/Teasel holds to −2\d °C/u);
    await expect(who.page.getByText(/signed off .* by R. Amadi/u)).toBeVisible();
    await expect(who.page.getByText("8.8 L measured")).toBeVisible();
    await expect(who.page.getByText(/Galley tap, hot: 46 %/u)).toBeVisible();
    await expect(
      who.page.getByRole("region", { name: "As left: to turn back in spring" }),
    ).toContainText("V7 Bypass: open (in use: shut)");
    await expect(
      who.page.getByRole("region", { name: "As left: to turn back in spring" }),
    ).toContainText("red tag at the breaker");
  };
  await reads(tech);
  const address = page.url();
  await server.crash();
  await server.start();
  const other = new Technician(await (await browser.newContext()).newPage(), server);
  await other.signIn("odile");
  await other.page.goto(address);
  await reads(other);
  await other.page.goto(`${server.url}/`);
  await expect(
    other.page
      .getByRole("region", { name: "Frost ladder of the lot" })
      .getByRole("link", { name: /Teasel −2\d °C/u }),
  ).toBeVisible();
  await expect(other.page.getByRole("region", { name: "Today" })).toContainText(
    /ready to hand over: holds to −2\d °C/u,
  );
});

test("a deck shower that can't be done keeps the boat at 0 °C, by name, to the end and on the record", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await tech.begin("Teasel");
  await tech.doUntil(/^Open every tap, drain and inlet/u);
  await page.getByRole("button", { name: "Can't do this" }).click();
  const sheet = page.getByRole("dialog", { name: "What can't be done here?" });
  await sheet.getByRole("checkbox", { name: "Deck shower" }).check();
  await sheet.getByRole("button", { name: "Plan again without it" }).click();
  await expect(sheet.getByRole("alert")).toContainText("Say why");
  await sheet.getByLabel("Why?").fill("flap rusted shut");
  await sheet.getByRole("button", { name: "Plan again without it" }).click();
  await expect(sheet).toHaveCount(0);
  await expect(tech.meter(/Holds to, now/u)).toContainText("0 °C when done");
  await expect(page.getByText(/^Stays unprotected: .*Deck shower/u)).toBeVisible();
  await expect(page.getByRole("checkbox", { name: /Deck shower/u })).toHaveCount(0);

  await tech.doStep();
  await tech.finishElsewhere();
  await expect(tech.meter(/Holds to, now/u)).toContainText(/0 °C Deck shower/u);
  await tech.leave();
  await expect(tech.title).toHaveText("Teasel holds to 0 °C");
  await expect(page.getByRole("cell", { name: /^Deck shower/u })).toHaveCount(0);
  await expect(page.getByText(/Weakest part: Deck shower/u)).toBeVisible();
  const left = page.getByRole("region", { name: "Not done" });
  await expect(left).toContainText(
    "Open every tap, drain and inlet: Deck shower; flap rusted shut (R. Amadi)",
  );
  await expect(left).toContainText(/Unprotected: Deck shower/u);

  // Nobody hands that over by a tap: somebody accepts it by name, and the report says so.
  await page.goto(tech.server.url);
  await tech.toCard("Teasel");
  await expect(page.getByText("not ready before somebody accepts that by name")).toBeVisible();
  await page.getByRole("button", { name: "Ready to hand over" }).click();
  const accept = page.getByRole("dialog", { name: "Who accepts that?" });
  await accept.getByRole("button", { name: "Accepted so" }).click();
  await expect(accept.getByText("Say who accepts it.")).toBeVisible();
  await accept.getByLabel("Who accepts it").fill("Wren Hollis, by telephone");
  await accept.getByLabel("Why").fill("goes under cover tonight");
  await accept.getByRole("button", { name: "Accepted so" }).click();
  await expect(page.getByText(/accepted by Wren Hollis, by telephone/u)).toBeVisible();
  await page
    .getByRole("listitem")
    .filter({ hasText: "Report to the owner" })
    .getByRole("link", { name: "Open" })
    .click();
  await expect(page.getByRole("article")).toContainText(/Not protected: Deck shower/u);
  await expect(page.getByRole("article")).toContainText("goes under cover tonight");
});

test("a server killed in mid-run loses no signed step, and what was done meanwhile arrives once", async ({
  tech,
  page,
  server,
}) => {
  await tech.signIn();
  await tech.begin("Teasel");
  const before = await tech.doUntil(/^Drain the fresh tank/u);
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await server.crash();
  await page.getByRole("checkbox").first().click();
  await expect(page.getByText(/kept here, no signal/u)).toBeVisible();
  await tech.doStep();
  await expect(tech.title).toHaveText("Run the pump until it spits");
  await page.getByRole("button", { name: "Sign out" }).click();
  const unsent = page.getByRole("dialog", { name: "Not everything is sent yet" });
  await expect(unsent).toContainText(/\d entries are kept on this device/u);
  await unsent.getByRole("button", { name: "Stay" }).click();
  await server.start();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();

  await page.reload();
  await expect(tech.title).toHaveText("Run the pump until it spits");
  const runId = new URL(page.url()).pathname.split("/").at(-1);
  const run = (await (await page.request.get(`${server.url}/api/runs/${runId}`)).json()) as {
    events: { id: string; body: { type: string } }[];
    summary: { stepsDone: number };
  };
  expect(run.summary.stepsDone).toBe(before.length + 1);
  expect(run.events.filter((e) => e.body.type === "step-signed")).toHaveLength(before.length + 1);
  expect(new Set(run.events.map((e) => e.id)).size).toBe(run.events.length);
});
