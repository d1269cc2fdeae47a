import { expect, type Locator, type Page } from "@playwright/test";
import { PASSWORD, type Server } from "./server.ts";
import { finishSteps } from "./winterized.ts";

/** What a technician does, in a technician's words: the tests are written with this and touch the page through nothing else where it serves. */
export class Technician {
  readonly page: Page;
  readonly server: Server;
  constructor(page: Page, server: Server) {
    this.page = page;
    this.server = server;
  }

  async signIn(name = "amadi"): Promise<void> {
    await this.tryToSignIn(name, PASSWORD);
    await expect(this.page.getByRole("navigation", { name: "Screens" })).toBeVisible();
  }

  async tryToSignIn(name: string, password: string): Promise<void> {
    await this.page.goto(`${this.server.url}/sign-in`);
    await this.page.getByLabel("Sign-in name").fill(name);
    await this.page.getByLabel("Password").fill(password);
    await this.page.getByRole("button", { name: "Sign in" }).click();
  }

  get title(): Locator {
    return this.page.getByRole("heading", { level: 1 });
  }

  /** To the list of units; the screen before it stays up until its data have come, so its arrival is waited for. */
  async toUnits(): Promise<void> {
    await this.page.getByRole("link", { name: "Units" }).click();
    await expect(this.title).toHaveText("Units");
  }

  meter(label: RegExp): Locator {
    return this.page.locator("dl[aria-label=Meters] > div").filter({ hasText: label });
  }

  /** A part on the drawing, by how it is said to a screen reader. */
  onMap(said: RegExp): Locator {
    return this.page
      .getByRole("group", { name: /^Water map of/u })
      .getByRole("button", { name: said });
  }

  /** From the bench to a unit's job card. */
  async toCard(unit: string): Promise<void> {
    await this.page
      .getByRole("region", { name: "Today" })
      .getByRole("link", { name: new RegExp(unit, "u") })
      .click();
    await this.page.waitForURL(/\/visits\//u);
  }

  /** From the bench to a run that has just begun, with the lineup found as in use. */
  async begin(unit: string): Promise<void> {
    await this.toCard(unit);
    await this.page.getByRole("link", { name: "Plan a winterizing" }).click();
    await this.page.getByRole("button", { name: "Begin at the unit" }).click();
    await expect(this.title).toHaveText("How was it found?");
    await this.page.getByRole("button", { name: "Found so, begin" }).click();
    await expect(this.title).not.toHaveText("How was it found?");
  }

  async read(label: RegExp, value: string): Promise<void> {
    await this.page.getByLabel(label).fill(value);
    await this.page.getByRole("button", { name: "Enter" }).click();
  }

  /** Reads just what was worked out, as the sheet says it beside the field. */
  async readAsWorkedOut(label: RegExp): Promise<void> {
    const form = this.page.locator("form").filter({ has: this.page.getByLabel(label) });
    const said = await form.getByText(/^Worked out: /u).innerText();
    await this.read(label, /^Worked out: ([^;]+)/u.exec(said)?.[1] ?? "");
  }

  async tickAll(): Promise<void> {
    const open = this.page.getByRole("checkbox", { checked: false });
    // By the run sheet's own key, as a technician at a bench would.
    await this.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    for (let left = await open.count(); left > 0; left--) await this.page.keyboard.press("a");
    await expect(open).toHaveCount(0);
  }

  /** Does the step in hand: what must be read, every row, the signature. */
  async doStep(strength?: string): Promise<string> {
    const title = await this.title.innerText();
    if (title.startsWith("Make sure")) await this.read(/^Temperature/u, "22 C");
    else if (title.startsWith("Drain the heater"))
      await this.readAsWorkedOut(/^How much came out/u);
    else if (title.startsWith("Air ")) await this.readAsWorkedOut(/^Gauge at the unit/u);
    else if (strength && (await this.page.getByLabel(/^Strength/u).count()) > 0)
      await this.read(/^Strength/u, strength);
    const number = await this.page.getByText(/^Step \d+ of \d+$/u).innerText();
    await this.tickAll();
    await this.page.getByRole("button", { name: "Done, next step" }).click();
    await expect(this.page.getByText(number, { exact: true })).toHaveCount(0);
    return title;
  }

  /** Goes on until a step with this title is in hand, or how it is left is asked. */
  async doUntil(stop: RegExp, strength?: string): Promise<string[]> {
    const done: string[] = [];
    for (let i = 0; i < 80; i++) {
      const title = await this.title.innerText();
      if (stop.test(title) || title === "How is it left?") return done;
      done.push(await this.doStep(strength));
    }
    throw new Error("the run has no end");
  }

  /** The rest of the run in hand, done by somebody else's device, and seen here. */
  async finishElsewhere(): Promise<void> {
    await expect(this.page.getByText("Saved", { exact: true })).toBeVisible();
    await finishSteps(
      this.page,
      this.server,
      new URL(this.page.url()).pathname.split("/").at(-1) ?? "",
    );
    await this.page.reload();
    await expect(this.title).toHaveText("How is it left?");
  }

  async leave(): Promise<void> {
    await expect(this.title).toHaveText("How is it left?");
    await this.page
      .getByRole("textbox", { name: "Heater, drain plug" })
      .fill("red tag at the breaker");
    await this.page.getByRole("button", { name: "Left so, sign off" }).click();
    await this.page.waitForURL(/\/records\//u);
  }
}
