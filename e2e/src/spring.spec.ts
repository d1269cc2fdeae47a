import { randomUUID } from "node:crypto";
import { faults } from "./support/access.ts";
import { expect, test } from "./support/test.ts";
import type { Technician } from "./support/technician.ts";
import { fromFamily, get, winterize } from "./support/winterized.ts";

/** De-winterizing and sanitizing: made from what was left, proved at the outlets, stood by the clock. */

const HOUR = 3_600_000;

/** From a unit's page to a sheet that has just begun, everything found as it was left. */
const begin = async (tech: Technician, unitId: string, job: "spring" | "sanitize") => {
  const { page, server } = tech;
  await page.goto(`${server.url}/units/${unitId}/plan/${job}`);
  await page.getByRole("button", { name: "Begin at the unit" }).click();
  await expect(tech.title).toHaveText("How was it found?");
  await page.getByRole("button", { name: "Found so, begin" }).click();
  await expect(tech.title).not.toHaveText("How was it found?");
};

/** What the step in hand needs to be read, and the rest of it. */
const step = async (
  tech: Technician,
  readings: Readonly<Record<string, string>> = {},
): Promise<void> => {
  const { page } = tech;
  // Between two steps the card is gone for a moment: what it asks is looked for when it stands there.
  if (Object.keys(readings).length > 0)
    await expect(page.getByText(/^Step \d+ of \d+$/u)).toBeVisible();
  for (const [label, value] of Object.entries(readings)) {
    const form = page.locator("form").filter({ hasText: new RegExp(label, "u") });
    if ((await form.count()) === 0) continue;
    await form.getByRole("textbox").fill(value);
    await form.getByRole("button", { name: "Enter" }).click();
    await expect(form.getByText(value, { exact: true })).toBeVisible();
  }
  await tech.doStep();
};

const until = async (
  tech: Technician,
  stop: RegExp,
  readings: Readonly<Record<string, string>> = {},
): Promise<string[]> => {
  const done: string[] = [];
  for (let i = 0; i < 80; i++) {
    const title = await tech.title.innerText();
    if (stop.test(title) || title === "How is it left?") return done;
    await step(tech, readings);
    done.push(title);
  }
  throw new Error("the sheet has no end");
};

const signOff = async (tech: Technician): Promise<void> => {
  await expect(tech.title).toHaveText("How is it left?");
  await expect(tech.page.getByText("None: every end is made")).toBeVisible();
  await tech.page.getByRole("button", { name: "Left so, sign off" }).click();
  await tech.page.waitForURL(/\/records\//u);
};

test("spring of a boat that was winterized here: only what autumn left is closed, heat comes last", async ({
  tech,
  page,
  server,
}) => {
  await tech.signIn();
  const { unitId } = await winterize(page, server, "Plover");
  await page.goto(`${server.url}/units/${unitId}`);
  await page.getByRole("link", { name: "Plan a de-winterizing" }).click();
  await expect(page.getByText(/^Made from how its signed sheet left it/u)).toBeVisible();
  await expect(tech.title).toContainText("in use on the tank");
  expect(await faults(page), "plan of a spring").toEqual([]);
  await begin(tech, unitId, "spring");
  const done = await until(tech, /^Prove|^Fill the heater/u);
  expect(done[0]).toBe("Keep the heater off");
  expect(done).toContain("Plug back into the heater");
  expect(done).toContain("Sink tap, cold: run until clear");
  // Filled with antifreeze in autumn, it was let out and runs clear now.
  const outlets = page.getByRole("region", { name: "At the outlets" });
  await expect(outlets.getByText("clear")).toHaveCount(4);
  expect(await faults(page), "run of a spring").toEqual([]);
  const rest = await until(tech, /^How is it left/u);
  expect(rest.at(-1)).toBe("Heat may go on at the heater");
  await signOff(tech);
  await expect(tech.title).toHaveText("Plover: de-winterized");
  const told = page.getByRole("region", { name: "In words" });
  await expect(told).toContainText("filled and proved by a hot tap without air");
  await expect(told).toContainText("Sanitizing is next");
  expect(await faults(page), "signed sheet of a spring").toEqual([]);
  await page.goto(`${server.url}/units/${unitId}`);
  await expect(page.getByText(/^De-winterized .*full of water/u)).toBeVisible();
  await expect(page.getByRole("link", { name: "Plan a sanitizing" })).toBeVisible();
});

test("spring of a unit never seen before: everything is asked, nothing is taken for water", async ({
  tech,
  page,
  server,
}) => {
  await tech.signIn("odile");
  const unitId = await fromFamily(page, server, "P01", "Lapwing");
  await page.goto(`${server.url}/units/${unitId}/plan/spring`);
  await expect(
    page.getByText(/^Nobody has written down how it was left: taken as if antifreeze/u),
  ).toBeVisible();
  await begin(tech, unitId, "spring");
  const { run } = { run: new URL(page.url()).pathname.split("/").at(-1) ?? "" };
  await until(tech, /: every tap shut, then on/u);
  // At the first pressure it does not stop: the judgement is at hand, on this map as the sheet has it by now.
  await page.getByRole("link", { name: /^It is not as expected/u }).click();
  const causes = page.getByRole("list", { name: "What may be behind it" });
  await expect(causes).toContainText("tried on this map");
  await expect(page.getByRole("region", { name: "What tells most" })).toBeVisible();
  expect(await faults(page), "something is wrong").toEqual([]);
  await page.goto(`${server.url}/runs/${run}`);
  await until(tech, /^How is it left/u);
  await signOff(tech);
  await expect(page.getByRole("region", { name: "In words" })).toContainText("Closed up, filled");
});

test("a sanitizing stands overnight, the server restarted in between; a bottle 14 months old, and a strip that says it did not hold", async ({
  tech,
  page,
  server,
}) => {
  await page.clock.install();
  await tech.signIn("odile");
  // The bottle of the kit has been open for 14 months.
  const id = randomUUID();
  const opened = new Date(Date.now() - 426 * 24 * HOUR).toISOString().slice(0, 10);
  const reply = await page.request.post(`${server.url}/api/kit`, {
    data: {
      id,
      name: "Old bottle",
      facts: { kind: "bleach", strength: 0.0825, openedOn: opened, volumeM3: 0.002 },
    },
  });
  expect(reply.ok(), await reply.text()).toBe(true);
  const [unit] = (await get<{ units: { id: string }[] }>(page, server, "/units?find=Wagtail"))
    .units;
  const unitId = unit?.id ?? "";
  await page.goto(`${server.url}/units/${unitId}/plan/sanitize`);
  await page.getByLabel("Bleach, of the workshop's own").selectOption("Old bottle");
  await expect(page.getByText(/The bottle has been open for 14 months/u)).toBeVisible();
  await expect(page.getByRole("region", { name: "The dose" })).toContainText("open 42");
  expect(await faults(page), "plan of a sanitizing").toEqual([]);
  await page.getByRole("button", { name: "Begin at the unit" }).click();
  await page.getByRole("button", { name: "Found so, begin" }).click();
  const readings = { "Temperature at a hot tap": "20 C" };
  await until(tech, /^Read a strip/u, readings);
  await step(tech, { "Free chlorine at the start": "50 mg/L" });
  await expect(tech.title).toHaveText("Let it stand");
  await step(tech);
  await expect(tech.title).toHaveText("Read it again where least had come");
  await expect(page.getByText("Has stood long enough").first()).toBeVisible();
  const file = page.waitForEvent("download");
  await page.getByRole("button", { name: "Alarm" }).click();
  expect((await file).suggestedFilename()).toBe("clocks.ics");
  await tech.tickAll();
  await tech.read(/^Free chlorine at the end/u, "12 mg/L");
  await page.getByRole("button", { name: "Done, next step" }).click();
  await expect(page.getByRole("alert")).toContainText("It has not stood long enough yet");
  const address = page.url();
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  await server.crash();
  await server.start();
  // Meanwhile other work: the Bench says what stands; when its hour has come every screen says so.
  await page.goto(server.url);
  await expect(page.getByRole("region", { name: "Clocks" })).toContainText("Wagtail");
  expect(await faults(page), "bench with clocks").toEqual([]);
  await page.clock.fastForward(13 * HOUR);
  await page.getByRole("status").filter({ hasText: "Wagtail: has stood long enough" }).click();
  await expect(page).toHaveURL(address);
  await expect(tech.title).toHaveText("Read it again where least had come");
  await page.getByRole("button", { name: "Done, next step" }).click();
  // 12 of 50: it did not hold, and it is dosed again before anything is rinsed.
  await expect(tech.title).not.toHaveText("Read it again where least had come");
  const second = await until(tech, /^Read a strip/u, readings);
  expect(second.some((t) => t.startsWith("Bleach into"))).toBe(true);
  await step(tech, { "Free chlorine at the start": "55 mg/L" });
  await step(tech);
  await page.clock.fastForward(5 * HOUR);
  await step(tech, { "Free chlorine at the end": "45 mg/L" });
  await until(tech, /^How is it left/u, { "Free chlorine left": "1 mg/L" });
  await signOff(tech);
  const told = page.getByRole("region", { name: "In words" });
  await expect(told).toContainText("12 mg/L at the end");
  await expect(told).toContainText("45 mg/L at the end");
});
