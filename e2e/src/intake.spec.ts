import sharp from "sharp";
import { faults } from "./support/access.ts";
import { expect, test } from "./support/test.ts";

/** A drawn picture, small. */
const picture = async (): Promise<{ name: string; mimeType: string; buffer: Buffer }> => ({
  name: "IMG_0001.jpg",
  mimeType: "image/jpeg",
  buffer: await sharp({ create: { width: 320, height: 240, channels: 3, background: "#8a5a2b" } })
    .jpeg()
    .toBuffer(),
});

test("an unknown unit, from the phone call to the printed report", async ({ tech, page }) => {
  await tech.signIn();
  await page.getByRole("link", { name: "Book a visit" }).click();
  await page.getByLabel("Which unit? Name, owner, phone, plate").fill("gorse");
  await expect(page.getByText("No unit fits.")).toBeVisible();
  await page.getByRole("link", { name: "It is not here yet: take it in" }).click();
  // On the telephone nobody knows the pipes.
  await page.getByLabel("Name of the unit").fill("Gorse");
  await page.getByLabel("Owner").fill("Linnet Ashdown");
  await page.getByLabel("Phone").fill("0555 0177");
  await page.getByLabel("What it is").fill("pop-top camper");
  await page.getByRole("button", { name: "Take it in, then book" }).click();
  await expect(tech.title).toHaveText("Book a visit");
  await page.getByLabel("Walk-round").check();
  await expect(page.getByLabel("Asked for")).toHaveValue("Walk-round");
  await page
    .getByLabel("What the owner says, in their words")
    .fill("Bought it last week, pump hums.");
  await page.getByLabel("Time").fill("23:00");
  await page.getByLabel("Bay or place").fill("yard");
  expect(await faults(page), "booking").toEqual([]);
  await page.getByRole("button", { name: "Book it" }).click();
  await expect(tech.title).toHaveText("Gorse: Walk-round");
  await expect(page.getByText("Bought it last week, pump hums.")).toBeVisible();

  await page.getByRole("button", { name: "It is here" }).click();
  await page.getByRole("button", { name: "Begin" }).click();
  await expect(page.getByText("It is in work")).toBeVisible();
  const card = page.url();
  await page.getByRole("link", { name: "The unit" }).click();
  await page.getByRole("link", { name: "Draw the map from a family" }).click();
  await expect(tech.title).toHaveText("The map of Gorse");
  await page
    .getByRole("radio", { name: /pop-top|small van|van/iu })
    .first()
    .check();
  await page.getByRole("button", { name: "Start the map" }).click();
  await expect(page.getByRole("toolbar", { name: "Map bench" })).toBeVisible();

  await page.goto(card);
  await page.getByRole("link", { name: "Write it down" }).first().click();
  await expect(tech.title).toHaveText("How was it found?");
  await page.getByLabel(/^Note/u).fill("Filler cap missing, rag in it.");
  await page.getByRole("button", { name: "Found so" }).click();
  await expect(page.getByText(/Filler cap missing, rag in it/u)).toBeVisible();
  expect(await faults(page), "job card").toEqual([]);

  await page
    .getByRole("listitem")
    .filter({ hasText: "Walk-round" })
    .getByRole("link", { name: "Begin" })
    .click();
  const pump = page.getByRole("group", {
    name: /^(?!.*Note).*pump.*Stops when every tap is shut/iu,
  });
  await pump.getByRole("textbox", { name: /^Note/u }).fill("starts each minute");
  await pump.getByRole("button", { name: "Bad" }).click();
  await pump.getByRole("button", { name: "Make it a finding" }).click();
  const sheet = page.getByRole("dialog", { name: "A finding" });
  await sheet.getByLabel("What was found?").fill("Pump starts each minute with every tap shut");
  await sheet.getByRole("radio", { name: /will fail/u }).check();
  await sheet.getByLabel("What is advised").fill("Renew its valve plate");
  await sheet.getByLabel("Picture of the finding").setInputFiles(await picture());
  await expect(sheet.getByRole("list", { name: "Pictures" }).getByRole("button")).toHaveCount(1);
  expect(await faults(page, "[role=dialog]"), "finding").toEqual([]);
  await sheet.getByRole("button", { name: "Write it down" }).click();
  await expect(sheet).toHaveCount(0);
  await page
    .getByRole("group")
    .filter({ has: page.getByRole("button", { name: "Not reached" }) })
    .last()
    .getByRole("button", { name: "Not reached" })
    .click();
  await expect(page.getByText(/points looked at now/u)).toContainText("2 of");

  await page.goto(card);
  await expect(page.getByRole("region", { name: "Findings" })).toContainText(
    "Pump starts each minute",
  );
  await page
    .getByRole("listitem")
    .filter({ hasText: "As left" })
    .getByRole("link", { name: "Write it down" })
    .click();
  await page.getByRole("button", { name: "Left so" }).click();
  await page.getByRole("button", { name: "Ready to hand over" }).click();
  await page.getByRole("link", { name: "Open" }).click();
  await expect(tech.title).toHaveText("Report on Gorse");
  await expect(page.getByRole("region", { name: /^What is advised/u })).toContainText(
    "Renew its valve plate",
  );
  await expect(
    page.getByRole("region", { name: /^What is advised/u }).getByRole("img", { name: /^Picture/u }),
  ).toBeVisible();
  await expect(
    page.getByRole("img", { name: /Map of Gorse with the parts marked/u }),
  ).toBeVisible();
  await expect(page.getByRole("region", { name: "What was not reached" })).toContainText(
    "could not be reached",
  );
  expect(await faults(page), "report").toEqual([]);
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("button", { name: "Print" })).toBeHidden();
  await expect(tech.title).toBeVisible();
  await page.emulateMedia({ media: "screen" });
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "PDF" }).click(),
  ]);
  const stream = await file.createReadStream();
  const chunks: Buffer[] = [];
  for await (const chunk of stream) chunks.push(chunk as Buffer);
  expect(Buffer.concat(chunks).subarray(0, 5).toString()).toBe("%PDF-");
  await expect(page.getByRole("region", { name: "Editions" })).toContainText("Edition 1");
});

test("the owner's link opens without sign-in, shows only that unit, and dies when it is withdrawn", async ({
  tech,
  page,
  browser,
  server,
}) => {
  await tech.signIn();
  await tech.toCard("Burdock");
  await page.getByRole("link", { name: "Open" }).click();
  await expect(page.getByText(/^Unsafe and declined/u)).toBeVisible();
  await page.getByRole("button", { name: "Make a link" }).click();
  const address = await page.getByLabel("Address for the owner").inputValue();
  const phone = await (
    await browser.newContext({ viewport: { width: 390, height: 844 } })
  ).newPage();
  await phone.goto(address);
  await expect(phone.getByRole("heading", { level: 1 })).toHaveText("Report on Burdock");
  await expect(phone.getByRole("img", { name: /^Relief valve|^Picture/u }).first()).toBeVisible();
  await expect(phone.getByRole("navigation")).toHaveCount(0);
  await expect(phone.getByText("Teasel")).toHaveCount(0);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(await faults(phone), "owner's page").toEqual([]);
  // Nothing else opens with it.
  expect((await phone.request.get(`${server.url}/api/units`)).status()).toBe(401);
  await page.getByRole("button", { name: "Withdraw" }).click();
  await expect(page.getByText(/withdrawn/u)).toBeVisible();
  await phone.reload();
  await expect(phone.getByRole("alert")).toContainText("This page is not there any more");
  await expect(phone.getByText("Burdock")).toHaveCount(0);
});

test("a picture of 12 megapixels goes in small, without where it was taken, and is marked on", async ({
  tech,
  page,
  server,
}) => {
  await tech.signIn();
  await tech.toUnits();
  await page.getByRole("link", { name: /^Sundew/u }).click();
  await page.getByRole("link", { name: "Walk-round" }).click();
  const noise = { type: "gaussian" as const, mean: 128, sigma: 60 };
  const buffer = await sharp({
    create: { width: 4000, height: 3000, channels: 3, background: "#777777", noise },
  })
    .withExifMerge({
      IFD0: { Make: "Test camera" },
      IFD3: { GPSLatitudeRef: "N", GPSLatitude: "46/1 30/1 0/1" },
    })
    .jpeg({ quality: 97 })
    .toBuffer();
  expect(buffer.length).toBeGreaterThan(10_000_000);
  expect((await sharp(buffer).metadata()).exif?.includes("Test camera")).toBe(true);
  const point = page.locator("[data-point]").first();
  await point
    .getByLabel(/^Picture of/u)
    .setInputFiles({ name: "big.jpg", mimeType: "image/jpeg", buffer });
  const shown = point.getByRole("list", { name: "Pictures" }).getByRole("img");
  await expect(shown).toHaveAttribute("src", /^\/api\/pictures\//u);
  const kept = await page.request.get(`${server.url}${await shown.getAttribute("src")}`);
  const meta = await sharp(await kept.body()).metadata();
  expect([meta.width, meta.height, meta.exif]).toEqual([2048, 1536, undefined]);
  await point.getByRole("button", { name: /^Open: Picture/u }).click();
  const sheet = page.getByRole("dialog");
  await sheet.getByRole("button", { name: "Ring" }).click();
  await sheet.getByRole("application").focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("+");
  await sheet.getByLabel("What it shows").fill("Crazed bowl");
  expect(await faults(page, "[role=dialog]"), "picture").toEqual([]);
  await sheet.getByRole("button", { name: "Keep" }).click();
  await expect(
    point.getByRole("img", { name: /^Crazed bowl.*marked with one ring/u }),
  ).toBeVisible();
  // A thing that is no picture says so where it was chosen, and nothing is lost.
  await point
    .getByLabel(/^Picture of/u)
    .setInputFiles({ name: "x.jpg", mimeType: "image/jpeg", buffer: Buffer.from("<svg/>") });
  await expect(point.getByRole("alert")).toContainText("no picture that can be read");
});

test("a wrong map is corrected on the walk-round: not fitted, found another, each as a revision", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await tech.toUnits();
  await page.getByRole("link", { name: /^Burdock/u }).click();
  await page.getByRole("link", { name: "Walk-round" }).click();
  const flap = page.getByRole("group", { name: /^Outside shower: Flap seals/u });
  await flap.getByRole("button", { name: "Not fitted" }).click();
  await page
    .getByRole("dialog", { name: "Take it off the map?" })
    .getByRole("button", { name: "Take it off" })
    .click();
  await expect(flap).toHaveCount(0);
  const stop = page
    .getByRole("region")
    .filter({ has: page.getByRole("group", { name: /^Pump: / }) });
  await stop.getByRole("button", { name: /^Found another/u }).click();
  const sheet = page.getByRole("dialog", { name: "Found another" });
  await sheet.getByLabel("What is it?").selectOption({ label: "Ball valve" });
  await sheet.getByLabel("Beside").selectOption({ label: "Pump" });
  await sheet.getByLabel("Its name, if it has one").fill("Stop behind the pump");
  expect(await faults(page, "[role=dialog]"), "found another").toEqual([]);
  await sheet.getByRole("button", { name: "Put it on the map" }).click();
  await expect(
    page.getByRole("group", { name: /^Stop behind the pump: Moves and holds/u }),
  ).toBeVisible();
  await page.getByRole("link", { name: /^Burdock/u }).click();
  await expect(page.getByText(/map revision 3/u)).toBeVisible();
});
