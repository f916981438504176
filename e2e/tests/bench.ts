import { expect, type Locator, type Page } from "@playwright/test";

export async function open(page: Page, name: string, station = "box") {
  await page.goto("/");
  await page.getByRole("link", { name }).click();
  await expect(page.getByRole("radiogroup", { name: "Enclosure" })).toBeVisible();
  if (station !== "box") await page.getByRole("link", { name: new RegExp(`^\\d ?${station}`, "i") }).click();
  await expect(page.locator('[data-lane="level"] canvas')).toBeVisible();
}

export function field(page: Page, pointer: string): Locator {
  return page.locator(`[data-pointer="${pointer}"]`);
}

export async function saved(page: Page) {
  await expect(page.getByTestId("save-state")).toHaveText(/^Saved/);
}

export async function type(page: Page, pointer: string, text: string) {
  await field(page, pointer).fill(text);
  await field(page, pointer).press("Enter");
}

/** A build of one's own, vented, from a woofer of the shelf. */
export async function begin(page: Page, name: string, woofer: RegExp, family = "a vented box") {
  await page.goto("/");
  await page.getByRole("button", { name: "Start your own" }).click();
  await page.getByRole("textbox", { name: "Name" }).fill(name);
  const option = page.getByRole("option", { name: woofer });
  await page.getByLabel("Woofer").selectOption(await option.first().getAttribute("value"));
  await page.getByLabel(family).check();
  await page.getByRole("button", { name: "Begin" }).click();
  await expect(page.getByRole("slider", { name: "Net volume" })).toBeVisible();
}
