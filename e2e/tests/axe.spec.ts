import { expect, test } from "@playwright/test";
import { violations } from "./axe";
import { open } from "./bench";

// What opens over the views of the fullest build; the views themselves are asked where they are walked through.

const BUILD = "Village hall pedal stop";

test("axe finds nothing in what opens: sheets, files, the palette, a task, the drawer", async ({ page }) => {
  const check = async (where: string) => {
    await page.waitForTimeout(300);
    expect.soft(await violations(page), where).toEqual([]);
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
  await page.getByRole("button", { name: "Try it: Fold a line" }).click();
  await expect(page.getByRole("region", { name: "Task" })).toContainText("1 of");
  await check("a task");
  await page.setViewportSize({ width: 390, height: 844 });
  await page.getByRole("button", { name: /^Findings/ }).click();
  await check("the drawer");
  await page.getByRole("button", { name: "Leave it" }).click();
});
