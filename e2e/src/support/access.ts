import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";

/** The checks, telling only what is wrong: the rest takes most of their time to write down. There are no frames, so one page does it. */
export const axeOf = (page: Page): AxeBuilder =>
  new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ["violations"] });

/** What is wrong for people with a keyboard or a screen reader; of one part of the page where the rest was looked at before. */
export const faults = async (page: Page, part?: string): Promise<string[]> => {
  const axe = axeOf(page).withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"]);
  const { violations } = await (part ? axe.include(part) : axe).analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`);
};
