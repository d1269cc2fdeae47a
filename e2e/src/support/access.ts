import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";

/** What is wrong for people with a keyboard or a screen reader; of one part of the page where the rest was looked at before. */
export const faults = async (page: Page, part?: string): Promise<string[]> => {
  const axe = new AxeBuilder({ page }).withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"]);
  const { violations } = await (part ? axe.include(part) : axe).analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`);
};
