import { expect, test } from "@playwright/test";
import { open, station } from "./bench";

test.describe("on a wide page", () => {
  test.use({ viewport: { width: 1920, height: 1080 } });

  test("the curves stand beside a picture, and a second station beside the first", async ({ page }) => {
    await open(page, "Village hall pedal stop");
    await station(page, "airway");
    const drawn = page.getByRole("region", { name: "Airway drawn" });
    const curves = page.getByRole("region", { name: "Curves" });
    await expect(curves.locator('[data-lane="level"] canvas')).toBeVisible();
    const [left, right] = [await drawn.boundingBox(), await curves.boundingBox()];
    expect((left?.x ?? 0) + (left?.width ?? 0)).toBeLessThanOrEqual((right?.x ?? 0) + 1);
    expect(right?.width).toBeGreaterThan(450);

    await page.getByLabel("Beside it").selectOption({ label: "Cabinet" });
    const beside = page.getByRole("region", { name: "Beside it: Cabinet" });
    await expect(beside).toContainText("Clearances");
    await expect(drawn).toContainText("Air at this drive");
    // it stays so, and where it leads nothing stands twice
    await page.reload();
    await expect(beside).toContainText("Clearances");
    await beside.getByRole("link", { name: "go there" }).click();
    await expect(page.getByRole("region", { name: "Cabinet drawn" })).toBeVisible();
    await expect(beside).toHaveCount(0);
    await page.getByLabel("Beside it").selectOption({ label: "the curves" });
    await expect(curves.locator('[data-lane="level"] canvas')).toBeVisible();
  });
});

test("the workshop has the same key: a build, a setting, what stands on the page", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: "Whale-song room" })).toBeVisible();
  await page.getByRole("button", { name: "Find", exact: true }).click();
  // whole names: builds of other tests are found here too
  await page.keyboard.type("sizes in inches");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/ x .* in$/).first()).toBeVisible();
  await page.keyboard.press("Control+k");
  await page.keyboard.type("start your own");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toContainText("What have you?");
  await page.getByRole("button", { name: "Not now" }).click();
  await page.keyboard.press("Control+k");
  await page.keyboard.type("whale-song room");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/builds\/.*\/box$/);
  await expect(page.getByRole("textbox", { name: "Name of the build" })).toHaveValue(/Whale-song/);
});

test("any field, view and button is reached by its name", async ({ page }) => {
  await open(page, "Whale-song room");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("group delay");
  await expect(page.getByRole("option", { name: /Group delay/ }).first()).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("budget");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/brief$/);
  await expect(page.getByRole("textbox", { name: "Budget" })).toBeFocused();
  await page.keyboard.press("Control+k");
  await page.keyboard.type("drawings");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/cabinet\/drawings$/);
  // what stands on the page is there too
  await expect(page.getByRole("button", { name: "Print the whole plan (PDF)" })).toBeVisible();
  await page.keyboard.press("Control+k");
  await page.keyboard.type("print the whole");
  await expect(page.getByRole("option", { name: "Print the whole plan (PDF)" })).toBeVisible();
});
