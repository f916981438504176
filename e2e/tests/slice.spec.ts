import { expect, test } from "@playwright/test";
import { begin, field, open, saved, type } from "./bench";

test("a new build: woofer, vented, drag the tuning, take a remedy and take it back, a copy laid over", async ({
  page,
}) => {
  const errors: string[] = [];
  page.on("pageerror", (e) => errors.push(e.message));
  await begin(page, "Attic sub", /Kelda 10 /);
  const flag = page.getByRole("slider", { name: "Tuning" });
  const length = page.getByTestId("port-follows");
  const before = {
    tuning: Number(await flag.getAttribute("aria-valuenow")),
    length: Number(await length.textContent()),
  };

  // drag the flag to the right: the tuning rises, the port gets shorter
  const box = (await flag.boundingBox())!;
  await page.mouse.move(box.x + 10, box.y + 8);
  await page.mouse.down();
  for (let i = 1; i <= 12; i++) await page.mouse.move(box.x + 10 + 4 * i, box.y + 8);
  await page.mouse.up();
  await expect
    .poll(async () => Number(await flag.getAttribute("aria-valuenow")))
    .toBeGreaterThan(before.tuning + 2);
  await expect.poll(async () => Number(await length.textContent())).toBeLessThan(before.length);

  // the whole drag is one step to undo
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(flag).toHaveAttribute("aria-valuenow", String(before.tuning));
  await page.getByRole("button", { name: "Redo" }).click();

  // make it loud: the air complains; its remedy is taken and taken back
  await type(page, "/drive/volts", "45 V");
  const finding = page.locator('[data-kind="port_air_fast"], [data-kind="excursion_over_limit"]').first();
  const remedy = finding.locator("button").nth(1);
  await expect(remedy).toBeVisible();
  const title = (await remedy.textContent())!;
  await saved(page);
  const standing = await page.locator("aside").innerText();
  await remedy.click();
  await expect(page.getByRole("button", { name: "Take it back" })).toBeVisible();
  await expect(page.locator("aside")).not.toHaveText(standing);
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(finding.locator("button").nth(1)).toHaveText(title);

  // a copy, changed, laid over the first
  await page.getByRole("button", { name: "Copy" }).click();
  await expect(page.getByRole("button", { name: /^B/ }).first()).toHaveAttribute("aria-pressed", "true");
  await type(page, "/enclosure/net_volume_l", "2 ft3");
  await expect(field(page, "/enclosure/net_volume_l")).toHaveValue("56.63");
  await expect(page.getByRole("button", { name: "Lay A under" })).toHaveAttribute("aria-pressed", "true");
  await saved(page);

  // everything is as it was left: the copy is being edited, the first lies under it
  await page.reload();
  await expect(page.getByRole("button", { name: "Lay A under" })).toHaveAttribute("aria-pressed", "true");
  await expect(field(page, "/enclosure/net_volume_l")).toHaveValue("56.63");
  expect(errors).toEqual([]);
});

test("what cannot be read stays as typed, with the reason beside it", async ({ page }) => {
  await open(page, "Flat-friendly bass");
  const volume = field(page, "/enclosure/net_volume_l");
  for (const [text, reason] of [
    ["a lot", /not a number; try/],
    ["0.001", /at least 0.2/],
    ["12 furlongs", /not known here/],
    ["", /a value is needed/],
  ] as const) {
    await volume.fill(text);
    await volume.press("Enter");
    await expect(page.getByRole("alert").filter({ hasText: reason })).toBeVisible();
    await expect(volume).toHaveValue(text);
    await volume.press("Escape");
  }
  await volume.fill("18 + 14 L");
  await volume.press("Enter");
  await expect(volume).toHaveValue("32");
});

test("sums, units, nudges and inches", async ({ page }) => {
  await begin(page, "Inches", /Marl 12-D/);
  const diameter = field(page, "/enclosure/port/section/diameter_mm");
  await type(page, "/enclosure/port/section/diameter_mm", "3 3/4 in + 4 mm");
  await expect(diameter).toHaveValue("99.25");
  await page.getByTitle("Units").click();
  await expect(diameter).toHaveValue("3 29/32");
  await page.getByTitle("Units").click();
  await diameter.press("ArrowUp");
  await expect(diameter).toHaveValue("100");
  await diameter.press("Shift+ArrowUp");
  await expect(diameter).toHaveValue("200");
  await diameter.blur();
  await page.keyboard.press("Control+z");
  await expect(diameter).toHaveValue("99.25");
});

test("the volume is dragged on the picture, and the ledger leads to its causes", async ({ page }) => {
  await open(page, "Village hall pedal stop");
  const wall = page.getByRole("slider", { name: "Net volume" });
  const before = Number(await wall.getAttribute("aria-valuenow"));
  const box = (await wall.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 30, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect
    .poll(async () => Number(await wall.getAttribute("aria-valuenow")))
    .toBeGreaterThan(before * 1.1);
  await page.keyboard.press("Control+z");
  await expect(wall).toHaveAttribute("aria-valuenow", String(before));
  await page.getByRole("button", { name: "boards, 18 mm" }).click();
  await expect(field(page, "/cabinet/panel_mm")).toBeFocused();
});

test("a woofer from the shelf, its derived figures, and a sheet that contradicts itself", async ({
  page,
}) => {
  await begin(page, "Doubtful", /Kelda 10 /);
  await page.keyboard.press("/");
  await expect(page.getByLabel("Search the shelf")).toBeFocused();
  await page.keyboard.type("grebe");
  await page.getByRole("button", { name: "Take Grebe 12 Car" }).click();
  await expect(page.locator('[data-kind="sheet_contradicts_itself"]').first()).toContainText("% apart");
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(page.locator('[data-kind="sheet_contradicts_itself"]')).toHaveCount(0);
  await page.getByRole("link", { name: "In the box" }).click();
  await field(page, "/woofer/qts").fill("");
  await field(page, "/woofer/qts").press("Enter");
  await expect(field(page, "/woofer/qts")).toHaveAttribute("placeholder", /0.41\d derived/);
  // what is then missing is named at the field, and nothing typed is lost
  await page.getByText("Physical", { exact: true }).click();
  for (const name of ["mms_g", "cms_mm_per_n", "bl_t_m"]) {
    await field(page, `/woofer/${name}`).fill("");
    await field(page, `/woofer/${name}`).press("Enter");
  }
  await field(page, "/woofer/sd_cm2").fill("");
  await field(page, "/woofer/sd_cm2").press("Enter");
  await expect(page.locator("aside").getByRole("alert")).toContainText("sd_cm2");
});

test("keys reach the stations, the revisions and the sheet of keys", async ({ page }) => {
  await open(page, "Village hall pedal stop");
  await page.keyboard.press("1");
  await expect(page.getByLabel("Purpose")).toBeVisible();
  await page.keyboard.press("3");
  await page.keyboard.press("]");
  await expect(page.getByRole("button", { name: /^B/ }).first()).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("[");
  await page.keyboard.press("Shift+?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("group", { name: /Curves over frequency/ }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.locator('[data-lane="level"] header')).toContainText(/at most/);
});

test("two tabs: the stale one keeps both sides", async ({ browser }) => {
  const context = await browser.newContext();
  const first = await context.newPage();
  await begin(first, "Two tabs", /Wren 165-8/);
  await saved(first);
  const second = await (await browser.newContext()).newPage();
  await second.goto(first.url());
  await expect(field(second, "/enclosure/net_volume_l")).toBeVisible();
  await type(first, "/enclosure/net_volume_l", "11");
  await saved(first);
  await type(second, "/enclosure/net_volume_l", "13");
  await expect(second.getByRole("alertdialog")).toBeVisible();
  await second.getByRole("button", { name: /Keep both/ }).click();
  // until the copy stands beside it, A is still what was typed here
  await expect(second.getByRole("button", { name: /^B/ }).first()).toBeVisible();
  await saved(second);
  await expect(field(second, "/enclosure/net_volume_l")).toHaveValue("13");
  await second.getByRole("button", { name: /^A/ }).first().click();
  await expect(field(second, "/enclosure/net_volume_l")).toHaveValue("11");
});

test("a phone shows the build without sideways scrolling", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, "Whale-song room");
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(390);
  await expect(page.getByRole("button", { name: /^Findings \d/ })).toBeVisible();
  await page.getByRole("link", { name: /^\d ?woofer/i }).click();
  for (const view of ["Shelf", "Try the shelf"]) {
    await page.getByRole("link", { name: view, exact: true }).click();
    await page.waitForTimeout(300);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  }
});
