import type { Page } from "@playwright/test";
import axe from "axe-core";

/** What axe finds on the page as it stands, in both themes: every rule in light, contrast again in dark; the themes differ in nothing but their colours. */
export async function violations(page: Page): Promise<string[]> {
  if (!(await page.evaluate(() => "axe" in window))) await page.evaluate(axe.source);
  const found: string[] = [];
  for (const theme of ["light", "dark"]) {
    const here = await page.evaluate(async (theme) => {
      document.documentElement.dataset.theme = theme;
      const run = (window as unknown as { axe: typeof axe }).axe.run;
      const only = theme === "dark" ? { runOnly: { type: "rule" as const, values: ["color-contrast"] } } : {};
      // no sheet of another origin and no film is asked about
      const { violations } = await run(document, { resultTypes: ["violations"], preload: false, ...only });
      return violations.flatMap((v) => v.nodes.map((node) => `${v.id}: ${node.html}`));
    }, theme);
    found.push(...here.map((what) => `${theme}, ${what}`));
  }
  await page.evaluate(() => (document.documentElement.dataset.theme = "light"));
  return found;
}
