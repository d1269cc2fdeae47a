import { faults } from "./support/access.ts";
import { expect, test } from "./support/test.ts";

test("the register is searched, brought in from a file, and its doubles put together", async ({
  tech,
  page,
}) => {
  const sound = async (what: string, part?: string): Promise<void> =>
    expect(await faults(page, part), what).toEqual([]);
  await tech.signIn();
  await tech.toUnits();
  await page.getByLabel("Find").fill("0555 0105");
  await expect(page.getByRole("row")).toHaveCount(2);
  await expect(page.getByRole("row", { name: /Wagtail/u })).toBeVisible();
  await page.getByLabel("Find").fill("");
  await page.getByRole("radio", { name: "unsafe" }).click();
  await expect(page.getByRole("row", { name: /Burdock.*unsafe/u })).toBeVisible();
  await sound("units");
  await page.getByRole("link", { name: "Customers" }).click();
  await page.getByRole("button", { name: "Files" }).click();
  const sheet = page.getByRole("dialog", { name: "The register in files" });
  const bring = (text: string, name = "r.csv") =>
    sheet
      .getByLabel("In: a table or cards")
      .setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await bring("owner,phone,colour\nNils Orme,1,red\n");
  await expect(sheet.getByRole("alert")).toContainText("line 1, colour: is not a column");
  await bring(
    "owner,phone,unit,what it is,plate\nS. Quennell,0555 0105,Thistle,river launch,TH 2\n",
  );
  await expect(sheet.getByRole("status")).toContainText("1 new units");
  await sound("register in files", "[role=dialog]");
  await sheet.getByRole("button", { name: "Take it in" }).click();
  await expect(sheet.getByRole("status")).toContainText("Done:");
  await page.keyboard.press("Escape");
  await page.getByLabel("Find").fill("silas");
  // The list has come: a row that moves under the hand is not pressed.
  await expect(page.getByRole("row")).toHaveCount(2);
  await page.getByRole("link", { name: "Silas Quennell" }).click();
  await page.getByRole("button", { name: "Put a double together" }).click();
  const merge = page.getByRole("dialog", { name: /^Who is the same/u });
  await merge.getByLabel("Find").fill("quennell");
  await expect(merge.getByRole("list", { name: "Customers found" }).locator("> li")).toHaveCount(1);
  await merge.getByRole("button", { name: /^S\. Quennell/u }).click();
  await merge.getByRole("button", { name: "Put together" }).click();
  await expect(page.getByRole("link", { name: "Thistle river launch" })).toBeVisible();
  await expect(page.getByText("S. Quennell, 0555 0105")).toBeVisible();
  await sound("customer");
});

test("a finding is answered, declined, stays on the sheets, and is mended with its proof", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await page.getByRole("link", { name: "Findings" }).click();
  await page
    .getByRole("region", { name: "Burdock" })
    .getByRole("button", { name: /Relief valve drips/u })
    .click();
  const sheet = page.getByRole("dialog");
  await expect(sheet).toContainText("no (the owner, by phone");
  await sheet.getByRole("button", { name: "Leave as it is" }).click();
  await sheet.getByLabel("Why it stays as it is").fill("Owner sells it");
  await sheet.getByRole("button", { name: "Keep it" }).click();
  await expect(sheet).toContainText("accepted");
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Bench" }).click();
  await expect(
    page
      .getByRole("region", { name: "Today" })
      .getByRole("link", { name: /Burdock.*unsafe finding open/u }),
  ).toBeVisible();
  await tech.toCard("Burdock");
  await expect(page.getByRole("region", { name: "Findings" })).toContainText(
    "Unsafe, and declined by the owner",
  );
  await page.getByRole("button", { name: /Relief valve drips/u }).click();
  await sheet.getByRole("button", { name: "Mended" }).click();
  await sheet.getByRole("button", { name: "Keep it" }).click();
  await expect(sheet.getByRole("alert")).toContainText(
    "say what was done; say which test proved it",
  );
  await sheet.getByLabel("What was done").fill("Valve renewed");
  await sheet.getByLabel("Which test proved it").fill("lifted three times, dry");
  await sheet.getByRole("button", { name: "Keep it" }).click();
  await expect(sheet).toContainText("proved by lifted three times, dry");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("region", { name: "Findings" })).not.toContainText(
    "Relief valve drips",
  );
});

test("gauge and meter say what their figures mean before they are kept; the unit shows them over the years", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await tech.toCard("Burdock");
  await page.getByRole("link", { name: "Take readings" }).click();
  const supply = page.getByRole("region", { name: "Supply pressure" });
  await supply.getByLabel("Still").fill("95 psi");
  await expect(supply.getByRole("status")).toContainText(
    "Unsafe. 6.6 bar is more than any unit should see",
  );
  await supply.getByRole("button", { name: "Keep the readings" }).click();
  const wires = page.getByRole("region", { name: "Wires of a pump" });
  await wires.getByLabel("The meter shows, V").fill("-12.1");
  await expect(wires.getByRole("status")).toContainText("Crossed.");
  await expect(page.getByRole("region", { name: "Taken lately" })).toContainText(
    "Supply pressure, still: 95 psi (measured, gauge",
  );
  expect(await faults(page)).toEqual([]);
  await page.getByRole("link", { name: /^Burdock/u }).click();
  await page.getByRole("link", { name: "The unit" }).click();
  await page.getByRole("tab", { name: "Readings" }).click();
  await page.getByText(/^Supply pressure, still: 95 psi/u).click();
  await expect(page.getByRole("tabpanel")).toContainText(/Apr 2025: \d\.\d bar/u);
  await page.getByRole("tab", { name: "Wear" }).click();
  await expect(page.getByRole("tabpanel")).toContainText(/Heater, anode: due/u);
  await page.getByRole("group", { name: "The years" }).getByRole("button").first().click();
  await expect(page.getByText(/^The map as on /u)).toBeVisible();
});
