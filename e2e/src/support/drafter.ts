import { expect, type Locator, type Page } from "@playwright/test";

/** Somebody at the map bench: every click, tap, choice and word typed is one action. */
export class Drafter {
  readonly page: Page;
  actions = 0;
  constructor(page: Page) {
    this.page = page;
  }

  private async act(what: () => Promise<unknown>): Promise<void> {
    this.actions++;
    await what();
  }

  click = (target: Locator): Promise<void> => this.act(() => target.click());
  choose = (label: string, value: string): Promise<void> =>
    this.act(() => this.page.getByLabel(label).selectOption(value));
  fill = (label: string, text: string): Promise<void> =>
    this.act(() => this.page.getByLabel(label, { exact: true }).fill(text));
  type = (text: string): Promise<void> => this.act(() => this.page.keyboard.type(text));
  press = (key: string): Promise<void> => this.act(() => this.page.keyboard.press(key));
  button = (name: string | RegExp): Promise<void> =>
    this.click(this.page.getByRole("button", { name, exact: typeof name === "string" }));

  part(said: RegExp): Locator {
    return this.page
      .getByRole("group", { name: /^Water map of/u })
      .getByRole("button", { name: said });
  }

  /** A pipe by how it is said; straight pipes have no height, so the pointer goes to the middle of their box. */
  pipe(said: string | RegExp): Locator {
    return this.page
      .getByRole("group", { name: /^Water map of/u })
      .getByRole("button", { name: said, exact: typeof said === "string" });
  }

  async middleOf(pipe: Locator): Promise<{ x: number; y: number }> {
    const box = await pipe.evaluate((path) => path.getBoundingClientRect().toJSON() as DOMRect);
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  }

  async clickPipe(said: string | RegExp): Promise<void> {
    const pipe = this.pipe(said);
    await expect(pipe).toBeAttached();
    const { x, y } = await this.middleOf(pipe);
    await this.act(() => this.page.mouse.click(x, y));
  }

  /** A place of the drawing with nothing on it for a good way round. */
  emptyPlace(): Promise<{ x: number; y: number }> {
    return this.page.evaluate(() => {
      const box = document.querySelector(".react-flow")?.getBoundingClientRect();
      if (!box) throw new Error("no drawing");
      const bare = (x: number, y: number): boolean =>
        [-50, 0, 50].every((dx) =>
          [-50, 0, 50].every((dy) =>
            document.elementFromPoint(x + dx, y + dy)?.classList.contains("react-flow__pane"),
          ),
        );
      for (let y = box.top + 60; y < box.bottom - 60; y += 20)
        for (let x = box.left + 60; x < box.right - 120; x += 20) if (bare(x, y)) return { x, y };
      throw new Error("nothing is empty");
    });
  }

  /** The bench with a drawing that has caught up with the last edit. */
  async ready(): Promise<void> {
    await expect(this.page.getByRole("toolbar", { name: "Map bench" })).toBeVisible();
  }

  /** Tab, and Tab again, until what is wanted has the focus; the keyboard's own way. */
  async tabTo(target: Locator, key: "Tab" | "Shift+Tab" = "Tab"): Promise<void> {
    await expect(target).toBeAttached();
    for (let i = 0; i < 400; i++) {
      if (await target.evaluate((el) => el === document.activeElement)) return;
      await this.page.keyboard.press(key);
    }
    throw new Error("the focus never came there");
  }
}
