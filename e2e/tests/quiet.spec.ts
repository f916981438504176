import { expect, test, type Page } from "@playwright/test";
import { begin, field, saved, type } from "./bench";

const finding = (page: Page) => page.locator('[data-kind="standing_wave"]');

/** A tall closed box whose wave lies in the band it is sent. */
async function tall(page: Page, name: string) {
  await begin(page, name, /Kelda 10-8/, "a sealed box");
  await type(page, "/enclosure/net_volume_l", "60");
  await page.getByRole("button", { name: "State its outside" }).click();
  await page.getByText("Cabinet sizes").click();
  await type(page, "/cabinet/width_mm", "320");
  await type(page, "/cabinet/height_mm", "1000");
  await type(page, "/cabinet/depth_mm", "300");
  await page.getByRole("link", { name: /Quiet/ }).click();
  await expect(page.getByTestId("modes")).toBeVisible();
}

test("a standing wave is found, and cured by moving the woofer and by fill", async ({ page }) => {
  await tall(page, "Tower");
  await expect(page.getByTestId("all-clear")).toContainText("Nothing to do");
  await type(page, "/brief/plays_to_hz", "260 Hz");
  await expect(finding(page)).toContainText("A standing wave at 178 Hz");
  await expect(page.getByText("A long shape", { exact: false })).toBeVisible();
  await finding(page)
    .getByRole("button", { name: /Count it/ })
    .click();
  // near the top the woofer drives it
  await type(page, "/enclosure/inside/woofer_up_mm", "800");
  await expect(finding(page)).toContainText("moves the level by");

  const effect = () =>
    page.getByTestId("modes").locator("tbody tr").first().locator("td").last().innerText().then(Number);
  await expect.poll(effect).toBeGreaterThan(1.6);
  const loud = await effect();
  // pulled in the picture the woofer moves, and the wave with it
  const woofer = page.getByRole("slider", { name: "Woofer's place", exact: true });
  const before = await woofer.getAttribute("aria-valuenow");
  await woofer.focus();
  await woofer.press("Shift+ArrowUp");
  await expect(woofer).not.toHaveAttribute("aria-valuenow", before ?? "");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(effect).toBeCloseTo(loud, 1);

  await finding(page)
    .getByRole("button", { name: /^Woofer to/ })
    .click();
  await expect.poll(effect).toBeLessThan(loud * 0.5);
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect.poll(effect).toBeCloseTo(loud, 1);

  await finding(page)
    .getByRole("button", { name: /in the middle/ })
    .click();
  await expect.poll(effect).toBeLessThan(loud * 0.75);
  await page.getByRole("link", { name: "Fill", exact: true }).click();
  await expect(page.getByTestId("fill-now")).toContainText(/\d+ g/);
  await expect(page.getByTestId("fill-schools").locator("tbody tr")).toHaveCount(4);
  // a lining begins with walls that are lined
  await page.getByRole("button", { name: "state it" }).click();
  await expect(page.getByRole("checkbox", { name: "Left" })).toBeChecked();
  await page.getByRole("button", { name: "Take Half, in the middle" }).click();
  await expect(page.getByRole("complementary", { name: "Findings" }).getByRole("status")).toContainText(
    "Fill: half, in the middle",
  );
  await saved(page);
});

test("a panel is braced, clear of the magnet, and the ledger knows", async ({ page }) => {
  await tall(page, "Braced");
  await type(page, "/brief/plays_to_hz", "400 Hz");
  const sings = page.locator('[data-kind="panel_sings"]');
  await expect(sings).toContainText("Panels ring at");
  await page.getByRole("link", { name: "Panels", exact: true }).click();
  const lowest = async () =>
    Math.min(
      ...(await page.getByTestId("panels").locator("tbody td:last-child").allInnerTexts()).map((t) =>
        Number(/\d+/.exec(t)?.[0]),
      ),
    );
  await expect(page.getByTestId("panels")).toBeVisible();
  const bare = await lowest();
  await page.getByRole("region", { name: "Where braces do most" }).getByRole("button").first().click();
  await expect.poll(lowest).toBeGreaterThan(bare * 1.03);
  // through the magnet it is called, with the place that does
  const at = field(page, "/cabinet/braces/0/at_mm");
  await expect(at).toBeVisible();
  await field(page, "/cabinet/braces/0/lies").selectOption("level");
  await type(page, "/cabinet/braces/0/at_mm", "600");
  const hit = page.locator('[data-kind="brace_meets_magnet"]');
  await expect(hit).toContainText("Brace through the magnet");
  await hit
    .getByRole("button", { name: /^Move it to/ })
    .first()
    .click();
  await expect(hit).toHaveCount(0);
  await type(page, "/cabinet/braces/0/at_mm", "2000");
  await expect(page.getByText(/^brace 1: 2000 mm lies outside the box/)).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("link", { name: /Box/ }).click();
  await expect(page.getByRole("region", { name: "Air ledger" })).toContainText("brace");
  await page.getByRole("link", { name: /Quiet/ }).click();
  await page.getByRole("link", { name: "Leaks", exact: true }).click();
  await expect(page.getByTestId("leaks")).toContainText("mm² of open joint");
});
