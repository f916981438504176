import { expect, test, type Page } from "@playwright/test";
import { open } from "./bench";

/** Every view of every station, by its address. */
const VIEWS = [
  "brief",
  "woofer",
  "woofer/shelf",
  "woofer/try",
  "box",
  "box/schools",
  "box/compare",
  "box/seek",
  "airway",
  "airway/trim",
  "quiet",
  "quiet/fill",
  "quiet/panels",
  "quiet/leaks",
  "cabinet",
  "cabinet/solid",
  "cabinet/saw",
  "cabinet/drawings",
  "cabinet/build",
  "drive",
  "drive/parts",
  "drive/power",
  "drive/out",
];

/** Lines on the page that count in millimetres, litres or kilograms: what is visible, labels and titles too. */
const metric = (page: Page) =>
  page.evaluate(() => {
    const size = /\d\s?(mm|cm2|cm²|m2|m²|kg|L|litres)(?![\w/²³])/;
    const lines = document.body.innerText.split("\n");
    document.querySelectorAll("[aria-label],[title],[aria-valuetext]").forEach((e) => {
      for (const name of ["aria-label", "title", "aria-valuetext"]) lines.push(e.getAttribute(name) ?? "");
    });
    return lines.filter((line) => size.test(line));
  });

async function walk(page: Page, build: string, inches: boolean) {
  const said: string[] = [];
  let where = "workshop";
  page.on("pageerror", (e) => said.push(`${where}: ${e.message}`));
  page.on("console", (message) => {
    if (message.type() === "error") said.push(`${where}: ${message.text()}`);
  });
  await open(page, build);
  if (inches) await page.getByTitle("Units").click();
  const base = page.url().replace(/\/box.*$/, "");
  for (const view of VIEWS) {
    where = view;
    await page.goto(`${base}/${view}`);
    await expect(page.getByRole("main").first()).toBeVisible();
    // what is asked for the view has been answered and drawn
    await page.waitForLoadState("networkidle");
    await expect(page.getByText(/^Opening /)).toHaveCount(0);
    await expect(page.getByText("cannot be shown")).toHaveCount(0);
    if (inches) said.push(...(await metric(page)).map((line) => `${view}: ${line}`));
  }
  expect(said).toEqual([]);
}

test("no view says anything on the browser's console, in millimetres", async ({ page }) => {
  test.setTimeout(180_000);
  await walk(page, "Village hall pedal stop", false);
});

test("nor in inches, with a folded path; and no size is then told in millimetres", async ({ page }) => {
  test.setTimeout(180_000);
  await walk(page, "Meadow stage", true);
});
