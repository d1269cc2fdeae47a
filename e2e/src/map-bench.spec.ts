import type { Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import { Drafter } from "./support/drafter.ts";
import { expect, test } from "./support/test.ts";

/** Drawing and correcting a water map. */

const problems = (page: Page) => page.getByRole("region", { name: "Problems" });

test("the small trailer with an outside shower, an ice maker and four tagged valves takes at most 30 actions", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  const d = new Drafter(page);
  await d.click(page.getByRole("link", { name: "Units" }));
  await d.click(page.getByRole("link", { name: "New unit" }));
  await d.click(page.getByRole("radio", { name: /^Small trailer, outside panel/u }));
  await d.choose("Outside shower?", "no");
  await d.fill("Name of the unit", "Bramble");
  await d.fill("Owner", "Tess Arkwright");
  await d.button("Start the map");
  await d.ready();

  await d.type("outs");
  await d.press("Enter");
  await d.clickPipe("cold pipe from Bath tap tee, cold to Bath tap");
  await expect(d.part(/^Outside shower, /u)).toBeVisible();
  await d.click(problems(page).getByRole("button", { name: "Tee it into the hot line" }));
  await expect(problems(page)).not.toContainText("leads nowhere");
  await d.press("Escape");
  await d.type("ice");
  await d.press("Enter");
  await d.clickPipe("cold pipe from Kitchen tap tee, cold to Kitchen tap");
  await expect(d.part(/^Ice maker, /u)).toBeVisible();

  await d.button("Tag valves");
  for (const valve of [/^Sc, /u, /^Sh, /u, /^P, /u, /^Vd, /u]) {
    // The pattern's own tags come off at the first tap; the second gives the next of the series.
    await d.click(d.part(valve));
  }
  await expect(d.part(/^Heater stop, cold, /u)).toBeVisible();
  for (const [said, tag] of [
    [/^Heater stop, cold, /u, "V1"],
    [/^Heater stop, hot, /u, "V2"],
    [/^Diverter panel, /u, "V3"],
    [/^Tank drain, /u, "D1"],
  ] as const) {
    await d.click(d.part(said));
    await expect(d.part(new RegExp(`^${tag}, `, "u"))).toBeVisible();
  }
  await d.button("Save");
  await d.fill("Why it changes", "Shower and ice maker found, valves tagged");
  await d.button("Save as the next revision");
  await expect(page.getByText("map revision 2", { exact: true })).toBeVisible();
  expect(d.actions).toBeLessThanOrEqual(30);

  await page.reload();
  await d.ready();
  for (const said of [
    /^V1, Heater stop, cold/u,
    /^D1, Tank drain/u,
    /^Outside shower, /u,
    /^Ice maker, /u,
  ])
    await expect(d.part(said)).toBeVisible();
});

test("the keyboard alone makes a unit, adds, tags, types a length, mends, undoes and saves", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  const d = new Drafter(page);
  await page.keyboard.press("g");
  await page.keyboard.press("u");
  await d.tabTo(page.getByRole("link", { name: "New unit" }));
  await page.keyboard.press("Enter");
  await expect(tech.title).toHaveText("New unit");
  await d.tabTo(page.getByRole("radio").first());
  await page.keyboard.press("Space");
  for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowDown");
  await expect(page.getByRole("radio", { name: /^Small trailer, outside panel/u })).toBeChecked();
  await d.tabTo(page.getByLabel("Outside shower?"));
  await page.keyboard.type("No");
  await d.tabTo(page.getByLabel("Name of the unit"));
  await page.keyboard.type("Bracken");
  await page.keyboard.press("Tab");
  await page.keyboard.type("Tess Arkwright");
  await page.keyboard.press("Enter");
  await d.ready();

  await page.keyboard.type("outs");
  await page.keyboard.press("Enter");
  await d.tabTo(d.pipe("cold pipe from Bath tap tee, cold to Bath tap"));
  await page.keyboard.press("Enter");
  await expect(d.part(/^Outside shower, /u)).toBeVisible();
  await d.tabTo(problems(page).getByRole("button", { name: "Tee it into the hot line" }));
  await page.keyboard.press("Enter");
  await expect(problems(page)).not.toContainText("leads nowhere");

  await page.keyboard.press("Escape");
  await page.keyboard.press("t");
  await d.tabTo(d.part(/^Vd, /u));
  await page.keyboard.press("Enter");
  await d.tabTo(d.part(/^Tank drain, /u));
  await page.keyboard.press("Enter");
  await expect(d.part(/^D1, Tank drain/u)).toBeVisible();
  await page.keyboard.press("Escape");

  await d.tabTo(d.pipe("cold pipe from Kitchen tap tee, cold to Kitchen tap"));
  await page.keyboard.press("Enter");
  const length = page.getByRole("textbox", { name: "Length" });
  await expect(length).toBeFocused();
  await page.keyboard.type("1.25 m");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary", { name: /^Plate of pipe/iu })).not.toContainText(
    "assumed: type what is there At",
  );
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");

  await d.tabTo(d.part(/^Toilet, /u));
  await page.keyboard.press("Enter");
  await expect(page.getByRole("complementary", { name: "Plate of Toilet" })).toBeVisible();
  await page.keyboard.press("Delete");
  await expect(d.part(/^Toilet, /u)).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(d.part(/^Toilet, /u)).toBeVisible();
  await page.keyboard.press("Control+y");
  await expect(d.part(/^Toilet, /u)).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(d.part(/^Toilet, /u)).toBeVisible();

  await page.keyboard.press("Control+s");
  await page.keyboard.type("Drawn without a mouse");
  await page.keyboard.press("Enter");
  await expect(page.getByText("map revision 2", { exact: true })).toBeVisible();
});

test.describe("a unit's map", () => {
  test.beforeEach(async ({ tech }) => {
    await tech.signIn();
    await tech.toUnits();
  });

  test("pipes are drawn by dragging from port to port and onto a pipe; a dragged part stays where it was put", async ({
    page,
  }) => {
    const d = new Drafter(page);
    await page.getByRole("link", { name: /^Burdock/u }).click();
    await page.getByRole("link", { name: "Draw the map" }).click();
    await d.ready();
    // A loose tap, dropped on an empty place.
    await page.keyboard.type("single");
    await page.keyboard.press("Enter");
    const empty = await d.emptyPlace();
    await page.mouse.click(empty.x, empty.y);
    await expect(problems(page)).toContainText("Single tap joins nothing");
    await page.keyboard.press("Escape");
    const tap = d.part(/^Single tap, /u);
    const port = page.locator('[data-port="single-tap.in"]');
    const from = await port.evaluate((el) => el.getBoundingClientRect().toJSON() as DOMRect);
    const to = await d.middleOf(d.pipe("cold cold main"));
    await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
    await page.mouse.down();
    await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
    await page.mouse.move(to.x, to.y, { steps: 4 });
    await page.mouse.up();
    await expect(problems(page)).not.toContainText("joins nothing");
    await expect(d.pipe(/^cold pipe from Tee to Single tap$/u)).toBeAttached();

    await page.keyboard.press("Escape");
    await expect(page.getByRole("complementary", { name: /^Plate of/u })).toHaveCount(0);
    /** Where the tap stands from the heater, in heater widths: the same at any zoom. */
    const stands = async (): Promise<string> => {
      const [t, h] = [await tap.boundingBox(), await d.part(/^Heater, /u).boundingBox()];
      if (!t || !h) throw new Error("not drawn");
      return [(t.x - h.x) / h.width, (t.y - h.y) / h.width].map((v) => v.toFixed(1)).join(" ");
    };
    const first = await stands();
    const at = await tap.boundingBox();
    await page.mouse.move((at?.x ?? 0) + 15, (at?.y ?? 0) + 15);
    await page.mouse.down();
    await page.mouse.move((at?.x ?? 0) + 70, (at?.y ?? 0) + 75, { steps: 8 });
    await page.mouse.up();
    await expect.poll(stands).not.toBe(first);
    await page.keyboard.press("Control+z");
    await expect.poll(stands).toBe(first);
    await page.keyboard.press("Control+y");
    await expect.poll(stands).not.toBe(first);
    const put = await stands();
    await page.getByRole("button", { name: "Save" }).click();
    await page.getByLabel("Why it changes").fill("Tap at the bay");
    await page.getByRole("button", { name: "Save as the next revision" }).click();
    await expect(page.getByText("map revision 2", { exact: true })).toBeVisible();
    await page.reload();
    await d.ready();
    await expect.poll(stands).toBe(put);
  });

  test("two revisions are compared on the drawing and as a list", async ({ page }) => {
    await page.getByRole("link", { name: /^Haywain/u }).click();
    await page.getByRole("link", { name: "Draw the map" }).click();
    await page.getByRole("link", { name: "revisions" }).click();
    await expect(page.getByRole("heading", { name: "Revisions of Haywain" })).toBeVisible();
    await expect(page.getByText("Wash-down stop added")).toBeVisible();
    await expect(page.getByText(/Wash-down stop found behind the ramp/u)).toBeVisible();
    await page.getByLabel("From").selectOption("2");
    await expect(page.getByText("Nothing differs.")).toBeVisible();
  });

  test("tried out, water lights its way; lineups are a list of turns, and a correction is kept", async ({
    page,
  }) => {
    const d = new Drafter(page);
    await page.getByRole("link", { name: /^Teasel/u }).click();
    await page.getByRole("link", { name: "Draw the map" }).click();
    await d.ready();
    await page.getByRole("button", { name: "Try", exact: true }).click();
    await page.getByRole("tab", { name: "Reach" }).click();
    await d.part(/^Toilet, /u).click();
    const reach = page.getByRole("region", { name: "Reach" });
    await expect(reach).toContainText(/Toilet.*from Fresh tank: .* over .*\(worked out\)/u);
    await d.part(/^V2, /u).click();
    await expect(reach).toContainText(/Nothing comes: needs V2.* tank \(now pickup\)/u);
    await page.getByRole("button", { name: "Again" }).click();
    await expect(reach).toContainText("Nothing stands open");

    await page.getByRole("button", { name: "Lineups" }).click();
    const lineups = page.getByRole("region", { name: "Lineups" });
    await expect(lineups.getByRole("listitem")).toHaveCount(5);
    await d.part(/^V7, Bypass, open/u).click();
    await expect(lineups.getByRole("listitem")).toHaveCount(4);
    await expect(lineups).toContainText("1 correction by hand");
    await lineups.getByLabel("To", { exact: true }).selectOption("as found");
    await lineups.getByLabel("From", { exact: true }).selectOption("in use");
    await d.part(/^V5, /u).click();
    await expect(lineups).toContainText(/V5, Heater cold in: open → shut \(handle across\)/u);
  });

  test("files: what they would change is shown first, what is wrong changes nothing, what is taken can be undone", async ({
    page,
  }) => {
    const d = new Drafter(page);
    await page.getByRole("link", { name: /^Plover/u }).click();
    await page.getByRole("link", { name: "Draw the map" }).click();
    await d.ready();
    await page.getByRole("button", { name: "Files" }).click();
    const download = page.waitForEvent("download");
    await page.getByRole("button", { name: "Map, JSON" }).click();
    const text = readFileSync(await (await download).path(), "utf8");
    const dialog = page.getByRole("dialog", { name: "Files" });
    const give = (name: string, content: string) =>
      dialog
        .locator("input[type=file]")
        .setInputFiles({ name, mimeType: "text/plain", buffer: Buffer.from(content) });
    await give("bad.json", text.replace('"kind": "strainer"', '"kind": "teapot"'));
    await expect(dialog.getByRole("alert")).toContainText(
      /line \d+, parts\[\d+\]\.kind: no part kind is called "teapot"/u,
    );
    await give("worse.csv", "id,kind,name\npump,diaphragm-pump,=1+1\n");
    await expect(dialog.getByRole("alert")).toContainText("looks like a formula");
    await give("good.json", text.replace('"name": "Strainer"', '"name": "Bowl"'));
    await expect(dialog).toContainText("This would change:");
    await expect(dialog).toContainText("name Strainer → Bowl");
    await dialog.getByRole("button", { name: "Put it on the bench" }).click();
    await expect(d.part(/^Bowl, /u)).toBeVisible();
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(d.part(/^Strainer, /u)).toBeVisible();
  });

  test("a sister unit gets the map, keeps what differs and takes over later changes", async ({
    page,
  }) => {
    const d = new Drafter(page);
    const save = async (why: string): Promise<void> => {
      await page.getByRole("button", { name: "Save" }).click();
      await page.getByLabel("Why it changes").fill(why);
      await page.getByRole("button", { name: "Save as the next revision" }).click();
      await expect(page.getByText("map revision 2", { exact: true })).toBeVisible();
    };
    const rename = async (part: RegExp, name: string): Promise<void> => {
      await d.part(part).click();
      await page.getByLabel("Name", { exact: true }).fill(name);
      await page.getByLabel("Name", { exact: true }).press("Enter");
      await page.keyboard.press("Escape");
      await page.keyboard.press("Escape");
    };
    await page.getByRole("link", { name: /^Burdock/u }).click();
    await page.waitForURL(/\/units\/[^/]+$/u);
    const burdock = page.url();
    await page.getByRole("link", { name: "Draw the map" }).click();
    await d.ready();
    await page.getByRole("button", { name: "sister unit" }).click();
    await page.getByRole("link", { name: "Take in a sister of Burdock" }).click();
    await page.getByLabel("Name of the unit").fill("Bramble");
    await page.getByLabel("Owner").fill("Tess Arkwright");
    await page.getByRole("button", { name: "Start the map" }).click();
    await page.waitForURL(/\/map$/u);
    await d.ready();
    const sister = page.url();
    await rename(/^Heater, /u, "Boiler");
    await save("Another heater");
    await page.goto(`${burdock}/map`);
    await d.ready();
    await rename(/^Strainer, /u, "Mesh bowl");
    await save("Strainer renamed");
    await page.goto(sister);
    await d.ready();
    await page.getByRole("button", { name: "sister unit" }).click();
    await expect(page.getByRole("dialog")).toContainText("name Heater → Boiler");
    await page.getByRole("button", { name: "Bring its changes over, keep what differs" }).click();
    await expect(d.part(/^Mesh bowl, /u)).toBeVisible();
    await expect(d.part(/^Boiler, /u)).toBeVisible();
  });

  test("the parts register finds every steel heater with an anode over two years, and a part's life can be changed", async ({
    page,
  }) => {
    await page.getByRole("link", { name: "Parts", exact: true }).click();
    await page.getByLabel("Find").fill("steel heater anode");
    const rows = page.getByRole("row").filter({ hasText: ", anode" });
    await expect(rows.first()).toBeVisible();
    await expect(rows).toHaveCount(2);
    await page
      .getByRole("button", { name: /^Heater, anode/u })
      .first()
      .click();
    await page.getByLabel("Fitted on").fill("2020-05-01");
    await page.getByLabel("Serial number").fill("AN-9");
    await page.getByRole("button", { name: "Keep" }).click();
    await page.getByLabel("Age").selectOption("24");
    await expect(page.getByRole("row").filter({ hasText: "AN-9" })).toContainText(
      "since 1 May 2020",
    );
  });
});

test("a map changed by somebody else in the meantime is not overwritten, and leaving unsaved asks first", async ({
  tech,
  page,
  browser,
  server,
}) => {
  await tech.signIn();
  await tech.toUnits();
  await page.getByRole("link", { name: /^Sundew/u }).click();
  await page.getByRole("link", { name: "Draw the map" }).click();
  const d = new Drafter(page);
  await d.ready();
  const url = page.url();
  const other = await browser.newPage();
  const { Technician } = await import("./support/technician.ts");
  const they = new Technician(other, server);
  await they.signIn("odile");
  await other.goto(url);
  const o = new Drafter(other);
  await o.ready();
  for (const [drafter, name] of [
    [o, "Theirs"],
    [d, "Mine"],
  ] as const) {
    await drafter.part(/^Quick coupling, /u).click();
    await drafter.page.getByLabel("Name", { exact: true }).fill(name);
    await drafter.page.getByLabel("Name", { exact: true }).press("Enter");
    await drafter.page.getByRole("button", { name: "Save" }).click();
    await drafter.page.getByLabel("Why it changes").fill("renamed");
    await drafter.page.getByRole("button", { name: "Save as the next revision" }).click();
  }
  await expect(other.getByText("map revision 2", { exact: true })).toBeVisible();
  await expect(page.getByRole("alert")).toContainText(
    "changed since: it is at revision 2, yours was made from 1",
  );
  await page.getByRole("button", { name: "Back" }).click();
  await page.getByRole("link", { name: "Bench" }).click();
  await expect(page.getByRole("dialog", { name: "The map is not saved" })).toBeVisible();
  await page.getByRole("button", { name: "Stay" }).click();
  await expect(d.part(/^Mine, /u)).toBeVisible();
  await other.close();
});

test.describe("on a tablet", () => {
  test.use({ viewport: { width: 800, height: 1280 }, hasTouch: true });
  test("a part is added with taps alone, and nothing is wider than the screen", async ({
    tech,
    page,
  }) => {
    await tech.signIn();
    await page.getByRole("link", { name: "Units" }).tap();
    await expect(tech.title).toHaveText("Units");
    await page.getByRole("link", { name: /^Sundew/u }).tap();
    await page.getByRole("link", { name: "Draw the map" }).tap();
    const d = new Drafter(page);
    await d.ready();
    await page.getByRole("button", { name: "Add a part" }).tap();
    await page.getByPlaceholder("Part, by its first letters").fill("ball");
    await page.getByRole("option", { name: "Ball valve" }).tap();
    const { x, y } = await d.middleOf(d.pipe("cold riser to the tap"));
    await page.touchscreen.tap(x, y);
    await expect(d.part(/^Ball valve, /u)).toBeVisible();
    await page.getByLabel("Tag", { exact: true }).fill("V1");
    await page.getByLabel("Tag", { exact: true }).press("Enter");
    await expect(d.part(/^V1, Ball valve/u)).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(
      800,
    );
  });
});
