import { expect, test } from "./support/test.ts";

test("signing in: a wrong password gets a clear answer; without a session every screen asks for one", async ({
  tech,
  page,
  server,
}) => {
  await page.goto(`${server.url}/units`);
  await expect(page).toHaveURL(/\/sign-in\?to=%2Funits/u);
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByText("give your password")).toBeVisible();
  await tech.tryToSignIn("amadi", "wrong");
  await expect(page.getByRole("alert")).toHaveText(
    "Name and password do not go together. Nobody was signed in.",
  );
  await page.goto(`${server.url}/sign-in?to=%2Funits`);
  await page.getByLabel("Sign-in name").fill("Amadi");
  await page.getByLabel("Password").fill("demo password of the tests");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Units" })).toBeVisible();
  await page.getByRole("button", { name: "Sign out" }).click();
  await expect(page).toHaveURL(/\/sign-in$/u);
  expect((await page.request.get(`${server.url}/api/me`)).status()).toBe(401);
});

test("a reading that cannot be is refused where it is typed, and nothing is written down", async ({
  tech,
  page,
  server,
}) => {
  await tech.signIn();
  await tech.begin("Teasel");
  await tech.doUntil(/^Make sure the heater has cooled/u);
  await tech.tickAll();
  await page.getByRole("button", { name: "Done, next step" }).click();
  await expect(page.getByRole("alert")).toContainText("needed before this step can be signed");
  await tech.read(/^Temperature/u, "62");
  await page.getByRole("button", { name: "Done, next step" }).click();
  await expect(page.getByRole("alert")).toContainText("above 40 °C. Wait and read again");
  await tech.doStep();
  await tech.doUntil(/^Drain the heater/u);
  for (const [typed, answer] of [
    ["-3 L", "A volume cannot be negative."],
    ["90 L", "It holds only 38.0 L."],
    ["a lot", "does not start with a number"],
    ["3 psi", "is a pressure; a volume is asked for"],
  ] as const) {
    await tech.read(/^How much came out/u, typed);
    await expect(page.getByRole("alert")).toContainText(answer);
  }
  await tech.doUntil(/^Deck shower, cold/u);
  await tech.read(/^Strength/u, "140 %");
  await expect(page.getByRole("alert")).toContainText("A strength lies between 0 and 100 %.");
  await expect(page.getByText("Saved", { exact: true })).toBeVisible();
  const runId = new URL(page.url()).pathname.split("/").at(-1);
  const run = (await (await page.request.get(`${server.url}/api/runs/${runId}`)).json()) as {
    events: { body: { type: string; typed?: string } }[];
  };
  expect(run.events.flatMap((e) => (e.body.type === "reading" ? [e.body.typed] : []))).toEqual([
    "62 °C",
    "22 C",
    "36.1 L",
  ]);
});

test("a plan's settings say what is wrong with them, and the plan follows those that are right", async ({
  tech,
  page,
}) => {
  await tech.signIn();
  await page.keyboard.press("/");
  await page.getByLabel("Name, owner, number, place or part").fill("indermaur");
  await page.keyboard.press("Enter");
  await page.getByRole("link", { name: "Plan a winterizing" }).click();
  await expect(page.getByRole("region", { name: "Antifreeze" })).toContainText(
    /No way round the heater on this unit: it takes 15\.0 L/u,
  );
  await page.getByLabel("Winter low here").fill("-18");
  await expect(page.getByText('"-18" needs a unit.')).toBeVisible();
  await expect(page.getByRole("button", { name: "Begin at the unit" })).toBeDisabled();
  await page.getByLabel("Winter low here").fill("-35 C");
  await expect(
    page.getByRole("alert").filter({ hasText: "Stays unprotected at −35 °C" }),
  ).toBeVisible();
  await page.getByLabel("Winter low here").fill("0 F");
  await expect(page.getByText(/Stays unprotected/u)).toHaveCount(0);
  await page.getByLabel("Strength in the jug").fill("80 %");
  await expect(page.getByRole("alert")).toContainText("the tables end at 60 %");
});

test("the bench follows the day: a visit that is here, and one handed over by the lead after an apprentice's work", async ({
  tech,
  page,
  server,
}) => {
  await tech.signIn("tam");
  const today = page.getByRole("region", { name: "Today" });
  await today.getByRole("button", { name: "It is here" }).click();
  await expect(today.getByRole("link", { name: /Burdock/u })).toContainText("here, not begun");
  await tech.begin("Teasel");
  await tech.doUntil(/^Run the pump/u);
  await page.getByRole("link", { name: "Bench" }).click();
  await expect(today.getByRole("link", { name: /Teasel/u })).toContainText(
    /Drain the fresh tank \d+:\d\d/u,
  );
  await today.getByRole("link", { name: /Teasel/u }).click();
  await page.getByRole("link", { name: "Go on with the winterizing" }).click();
  await expect(tech.title).toHaveText(/^Run the pump/u);
  await tech.finishElsewhere();
  await tech.leave();
  await expect(page.getByRole("button", { name: "Countersign" })).toHaveCount(0);
  const record = page.url();
  await page.getByRole("button", { name: "Sign out" }).click();
  await expect(page).toHaveURL(/sign-in/u);
  await tech.signIn("odile");
  await page.goto(record);
  await page.getByRole("button", { name: "Countersign" }).click();
  await expect(page.getByText("countersigned by O. Marchbank")).toBeVisible();
  await page.goto(`${server.url}/`);
  await today.getByRole("button", { name: "Handed over" }).click();
  await expect(today.getByRole("link", { name: /Teasel/u })).toContainText("gone");
});

test("last year's record of the river boat can be read, and its map as it was left", async ({
  tech,
  page,
}) => {
  await tech.signIn("tam");
  await tech.toUnits();
  await page.getByRole("link", { name: /Plover/u }).click();
  await expect(page.getByText(/In use since/u)).toBeVisible();
  await page.getByRole("button", { name: /^as left/u }).click();
  await expect(tech.onMap(/^Pump, off, .*antifreeze/u)).toBeVisible();
  await expect(
    page
      .getByRole("region", { name: "Frost ladder" })
      .getByRole("button", { name: /safe at the winter low: −2\d °C$/u })
      .first(),
  ).toBeVisible();
  await page.getByRole("link", { name: "signed sheet" }).first().click();
  await expect(tech.title).toContainText(/Plover holds to −2\d °C/u);
  await expect(page.getByRole("region", { name: "Not done" })).toContainText(
    "Strength not read at",
  );
  await expect(page.getByText("Head hose chafed at the bulkhead")).toBeVisible();
  await page
    .getByRole("button", { name: /^Correct strength at the outlet, 4\d %$/u })
    .first()
    .click();
  const sheet = page.getByRole("dialog", { name: "Correct a reading" });
  await sheet.getByLabel(/^What it should be/u).fill("47");
  await sheet.getByRole("button", { name: "Correct it" }).click();
  await expect(sheet.getByRole("alert")).toContainText("Say why");
  await sheet.getByLabel("Why?").fill("lens was fogged");
  await sheet.getByRole("button", { name: "Correct it" }).click();
  await expect(page.getByText(/: 47 % \(was 4\d %: lens was fogged\)$/u)).toBeVisible();
  await page.reload();
  await expect(page.getByText(/: 47 % \(was 4\d %: lens was fogged\)$/u)).toBeVisible();
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("button", { name: "Print" })).toBeHidden();
  await expect(page.getByRole("img", { name: "Water map of Plover, as left" })).toBeVisible();
});
