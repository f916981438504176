import AxeBuilder from "@axe-core/playwright";
import { expect, test, type Page } from "@playwright/test";
import { open } from "./bench";

// Every station and view of the fullest build of the demo, the workshop and the page of terms, at a desk and on a phone, in both themes: no
// violation of any rule. The themes differ in nothing but their colours.

const BUILD = "Village hall pedal stop";

/** Addresses of all views, as the rail and the tabs lead to them. */
async function views(page: Page): Promise<string[]> {
  await page.goto("/");
  await page.getByRole("link", { name: BUILD }).click();
  const rail = page.getByRole("navigation", { name: "Stations" }).getByRole("link");
  await expect(rail).toHaveCount(11);
  const stations = await rail.evaluateAll((links) => links.map((a) => (a as HTMLAnchorElement).pathname));
  const list = [...stations];
  for (const station of stations) {
    await page.goto(station);
    await expect(page.getByRole("main")).toBeVisible();
    const tabs = page.getByRole("navigation", { name: /^Views of/ }).getByRole("link");
    const more = await tabs.evaluateAll((links) => links.map((a) => (a as HTMLAnchorElement).pathname));
    list.push(...more.filter((path) => !list.includes(path)));
  }
  return ["/", "/terms", ...list];
}

/** What axe finds on the page as it stands, in both themes. */
async function violations(page: Page, where: string): Promise<string[]> {
  const found: string[] = [];
  for (const theme of ["light", "dark"]) {
    await page.evaluate((t) => (document.documentElement.dataset.theme = t), theme);
    const axe = new AxeBuilder({ page }).setLegacyMode();
    const { violations } = await (theme === "light" ? axe : axe.withRules(["color-contrast"])).analyze();
    found.push(...violations.map((v) => `${where} ${theme}, ${v.id}: ${v.nodes[0]?.html}`));
  }
  return found;
}

for (const [name, width, height] of [
  ["at a desk", 1280, 800],
  ["on a phone", 390, 844],
] as const) {
  for (const half of [0, 1]) {
    test(`axe finds nothing ${name}, ${half ? "second" : "first"} half of the views`, async ({ page }) => {
      test.setTimeout(600_000);
      await page.setViewportSize({ width, height });
      const all = await views(page);
      expect(all.length).toBeGreaterThan(35);
      for (const path of all.filter((_, i) => i % 2 === half)) {
        await page.goto(path);
        await expect(page.getByRole("main")).toBeVisible();
        await page.waitForLoadState("networkidle");
        const found: string[] = [];
        for (const theme of ["light", "dark"]) {
          await page.evaluate((t) => (document.documentElement.dataset.theme = t), theme);
          const axe = new AxeBuilder({ page }).setLegacyMode();
          const { violations } = await (
            theme === "light" ? axe : axe.withRules(["color-contrast"])
          ).analyze();
          found.push(...violations.map((v) => `${path} ${theme}, ${v.id}: ${v.nodes[0]?.html}`));
        }
        expect.soft(found).toEqual([]);
      }
    });
  }
}

test("axe finds nothing in what opens: sheets, files, the palette, a task, the drawer", async ({ page }) => {
  const check = async (where: string) => {
    await page.waitForTimeout(300);
    expect.soft(await violations(page, where)).toEqual([]);
  };
  await open(page, BUILD, "woofer");
  await page.getByRole("link", { name: "Shelf", exact: true }).click();
  const marl = page.getByRole("button", { name: /^Marl 12-D/ });
  await marl.click();
  await expect(page.getByTestId("log")).toContainText("measured new");
  await check("a sheet");
  await page.getByRole("button", { name: "Back to the shelf" }).click();
  await page.getByLabel("Pick Marl 12-D").check();
  await page.getByLabel("Pick Kelda 10-8").check();
  await page.getByRole("button", { name: "Lay side by side" }).click();
  await expect(page.locator('[data-lane="level"] canvas')).toBeVisible();
  await check("side by side");
  await page.goto(`${page.url().split("?")[0]}?file=1`);
  await check("a file");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("tun");
  await check("the palette");
  await page.goto("/");
  await page.getByRole("button", { name: "Start your own" }).click();
  await check("a build of your own");
  await page.keyboard.press("Escape");
  await page.getByText(/^Five things to try/).click();
  await check("the tasks");
  await page.getByRole("button", { name: "Try: Fold a line" }).click();
  await expect(page.getByRole("region", { name: "Task" })).toContainText("1 of");
  await check("a task");
  await page.setViewportSize({ width: 390, height: 844 });
  await page.getByRole("button", { name: /^Findings/ }).click();
  await check("the drawer");
  await page.getByRole("button", { name: "Leave it" }).click();
});
