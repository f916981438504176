import { expect, test } from "@playwright/test";
import { field, open, saved, type } from "./bench";

test("from litres to a cut list and sheets", async ({ page }) => {
  await open(page, "Flat-friendly bass");
  await page.getByRole("link", { name: /Cabinet/ }).click();
  const list = page.getByTestId("cut-list");
  await expect(list).toContainText("Left side, right side");
  const sides = list.locator("tr", { hasText: "Left side" });
  const butt = await sides.locator("td").nth(2).innerText();
  await field(page, "/cabinet/saw/joint").selectOption("mitre");
  await expect(sides).toContainText("45 degrees");
  await expect(sides.locator("td").nth(2)).not.toHaveText(butt);
  await expect(page.getByRole("img", { name: /^Sheet 1 of/ }).first()).toBeVisible();

  // a sheet that is too small is called, with what would do
  await type(page, "/cabinet/saw/sheet_length_mm", "400");
  await type(page, "/cabinet/saw/sheet_width_mm", "300");
  const misfit = page.locator('[data-kind="part_over_sheet"]');
  await expect(misfit).toContainText("A part larger than the sheet");
  await misfit.getByRole("button", { name: /Sheets of 2440 x 1220/ }).click();
  await expect(misfit).toHaveCount(0);

  // inches with what the rounding costs; the list as CSV
  await page.getByText("inch", { exact: true }).click();
  await expect(list).toContainText("off, mm");
  await expect(sides).toContainText(/\d+ \d+\/\d+ in/);
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save Cut list as CSV" }).click();
  const text = Buffer.concat(await (await (await download).createReadStream()).toArray()).toString();
  expect(text).toMatch(/^label,part,count,length_mm/);
  await page.getByText("mm", { exact: true }).first().click();
  // joint, two sizes, the remedy
  for (let i = 0; i < 4; i++) await page.getByRole("button", { name: "Undo" }).click();
  await expect(sides.locator("td").nth(2)).toHaveText(butt);
  await saved(page);
});
