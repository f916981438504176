import { expect, test, type Page } from "@playwright/test";
import { field, saved, type as typed } from "./bench";

/** The strip that says what to do. */
const strip = (page: Page) => page.getByRole("region", { name: "Task" });
const findings = (page: Page) => page.getByRole("complementary", { name: "Findings" });

async function begin(page: Page, title: string) {
  await page.goto("/");
  await page.getByText(/^Five things to try/).click();
  await page.getByRole("button", { name: `Try it: ${title}` }).click();
  await expect(strip(page)).toContainText("1 of ");
}

async function leave(page: Page) {
  const build = /builds\/([\w-]+)/.exec(page.url())?.[1];
  await strip(page).getByRole("button", { name: "Leave it" }).click();
  await expect(page.getByRole("button", { name: "Start your own" })).toBeVisible();
  // nothing of it stays on the bench
  await expect.poll(async () => (await page.request.get(`/api/builds/${build}`)).status()).toBe(404);
}

test("make it chuff, then cure it; put all back; leave", async ({ page }) => {
  await begin(page, "Make it chuff, then cure it");
  await typed(page, "/drive/volts", "24");
  await expect(strip(page)).toContainText("that is heard");
  await expect(strip(page)).toContainText("2 of 2");
  // a quieter drive is no cure
  await typed(page, "/drive/volts", "4");
  await expect(findings(page)).not.toContainText("Air is loud");
  await expect(strip(page)).toContainText("2 of 2");
  await typed(page, "/drive/volts", "24");
  await findings(page).getByRole("listitem").filter({ hasText: "Air is" }).getByRole("button").nth(1).click();
  await expect(strip(page)).toContainText(/Done in \d+ s/);
  // all of it undone in one press, and done again from the beginning
  await strip(page).getByRole("button", { name: "Put it all back" }).click();
  await expect(strip(page)).toContainText("1 of 2");
  await expect(field(page, "/drive/volts")).toHaveValue("4");
  await saved(page);
  await leave(page);
  await page.getByText(/^Five things to try/).click();
  await expect(page.getByText(/^done in \d+ s/)).toBeVisible();
});

test("lose air and find it again", async ({ page }) => {
  await begin(page, "Lose air and find it again");
  await typed(page, "/cabinet/panel_mm", "30");
  await typed(page, "/cabinet/baffle_mm", "30");
  await expect(strip(page)).toContainText("of air is gone");
  await findings(page)
    .getByRole("button", { name: /^Cabinet .* deep/ })
    .click();
  await expect(strip(page)).toContainText(/Done in/);
  // the next one takes the place of this one on the bench
  const first = /builds\/([\w-]+)/.exec(page.url())?.[1];
  await strip(page)
    .getByRole("button", { name: /^Next:/ })
    .click();
  await expect(strip(page)).toContainText("Hear what a leak does");
  await expect.poll(async () => (await page.request.get(`/api/builds/${first}`)).status()).toBe(404);
  await leave(page);
});

test("hear what a leak does to the curve", async ({ page }) => {
  await begin(page, "Hear what a leak does to the curve");
  await typed(page, "/enclosure/leak_q", "3");
  await expect(strip(page)).toContainText("that is how a leak sounds");
  for (const which of ["as it was", "as it is now"]) {
    const press = strip(page).getByRole("button", { name: `Play it ${which}` });
    await press.click();
    await expect(press).toHaveAttribute("aria-pressed", "true");
  }
  await strip(page).getByRole("button", { name: "Stop" }).click();
  await typed(page, "/enclosure/leak_q", "15");
  await expect(strip(page)).toContainText(/Done in/);
  await leave(page);
});

test("fold a line, break the fold and mend it", async ({ page }) => {
  await begin(page, "Fold a line");
  await page.getByRole("button", { name: "Slim and tall" }).click();
  await expect(strip(page)).toContainText("2 of 3");
  await page.getByText("Fold", { exact: true }).first().click();
  await field(page, "/cabinet/fold/pattern").selectOption("spiral");
  await expect(strip(page)).toContainText("3 of 3");
  await findings(page)
    .getByRole("button", { name: /^Fold it as a U/ })
    .click();
  await expect(strip(page)).toContainText(/Done in/);
  await leave(page);
});

test("save a cone from a boost", async ({ page }) => {
  await begin(page, "Save a cone from a boost");
  const peg = page.getByRole("slider", { name: /low shelf/ }).first();
  // what is pressed before the page has come to rest may be lost
  await expect(async () => {
    await peg.focus();
    for (let i = 0; i < 14; i++) await page.keyboard.press("ArrowUp");
    await expect(strip(page)).toContainText("The cone would go", { timeout: 4000 });
  }).toPass();
  for (let i = 0; i < 5 && !(await strip(page).textContent())?.includes("Done in"); i++) {
    const offer = findings(page)
      .getByRole("button", { name: /^Low cut/ })
      .first();
    if (await offer.isVisible()) await offer.click();
    await page.waitForTimeout(800);
  }
  await expect(strip(page)).toContainText(/Done in/);
  await leave(page);
});
