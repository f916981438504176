import { expect, test, type Page } from "@playwright/test";
import { field, open, saved, type } from "./bench";

const view = (page: Page, name: string) => page.getByRole("link", { name, exact: true }).click();

async function download(page: Page, press: () => Promise<void>): Promise<string> {
  const coming = page.waitForEvent("download");
  await press();
  return Buffer.concat(await (await (await coming).createReadStream()).toArray()).toString("latin1");
}

test("from litres to a cut list and sheets", async ({ page }) => {
  await open(page, "Flat-friendly bass");
  await page.getByRole("link", { name: /Cabinet/ }).click();
  await view(page, "Saw");
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
  await expect(list).toContainText("off, in");
  await expect(sides).toContainText(/\d+ \d+\/\d+ in/);
  const text = await download(page, () => page.getByRole("button", { name: "Save Cut list as CSV" }).click());
  expect(text).toMatch(/^label,part,count,length_mm/);
  await page.getByText("mm", { exact: true }).first().click();
  // joint, two sizes, the remedy
  for (let i = 0; i < 4; i++) await page.getByRole("button", { name: "Undo" }).click();
  await expect(sides.locator("td").nth(2)).toHaveText(butt);

  // a piece at hand is used first; a negative one is refused where it is typed
  const stock = page.getByText(/sheets? \(at least/).first();
  await page.getByRole("button", { name: "Add to Own offcuts" }).click();
  await type(page, "/cabinet/saw/offcuts/0/length_mm", "-5");
  await expect(page.getByText(/at least 20/).first()).toBeVisible();
  await type(page, "/cabinet/saw/offcuts/0/length_mm", "700");
  await type(page, "/cabinet/saw/offcuts/0/width_mm", "450");
  await type(page, "/cabinet/saw/offcuts/0/thickness_mm", "15");
  await expect(page.getByRole("img", { name: /^Own piece 1 of/ })).toBeVisible();
  await expect(stock).toBeVisible();
  await saved(page);
});

test("a woofer dragged onto a brace is called, and the brace's remedy clears it", async ({ page }) => {
  await open(page, "Reading room columns");
  await page.getByRole("button", { name: /^C/ }).first().click();
  await page.getByRole("link", { name: /Cabinet/ }).click();
  const woofer = page.getByRole("slider", { name: "woofer on Baffle" });
  await expect(woofer).toBeVisible();
  const called = page.locator('[data-kind="brace_meets_magnet"]');
  await expect(called).toHaveCount(0);
  const box = (await woofer.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2 - 4];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= 20; i++) await page.mouse.move(x, y + 4 * i);
  await page.mouse.up();
  await expect(called).toBeVisible();
  await expect(page.getByTestId("clearances")).toContainText(/woofer to window.*in it/);
  await expect(woofer).toHaveAttribute("aria-valuetext", /in the way/);
  // the whole drag is one step
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(called).toHaveCount(0);
  await page.getByRole("button", { name: "Redo" }).click();
  await called.getByRole("button").nth(1).click();
  await expect(called).toHaveCount(0);

  // over the edge with the arrow keys: named with the smallest move that frees it
  await page.getByRole("slider", { name: "port on Baffle" }).focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press("Shift+ArrowLeft");
  const over = page.locator('[data-kind="parts_collide"]').first();
  await expect(over).toContainText("over the edge");
  await over.getByRole("button", { name: /Move the port/ }).click();
  await expect(page.locator('[data-kind="parts_collide"]')).toHaveCount(0);
  await saved(page);
});

test("width and height are held and the depth follows the volume", async ({ page }) => {
  await open(page, "Flat-friendly bass");
  await page.getByRole("link", { name: /Cabinet/ }).click();
  await field(page, "/cabinet/held").selectOption("width_and_height");
  const follows = page.getByTestId("follows");
  await expect(follows).toContainText(/Depth follows: \d/);
  const depth = async () => Number(/follows: ([\d.]+)/.exec(await follows.innerText())?.[1]);
  const before = await depth();
  await page.getByRole("link", { name: /Box/ }).click();
  await type(page, "/enclosure/net_volume_l", "40");
  await page.getByRole("link", { name: /Cabinet/ }).click();
  await expect.poll(depth).toBeGreaterThan(before + 40);
  await expect(page.getByTestId("ledger-net")).toHaveText("40.0");
  // the outside held instead: the volume follows, and the lanes with it
  await field(page, "/cabinet/held").selectOption("outside");
  await expect(follows).toContainText(/Net volume follows: 3\d/);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(follows).toContainText("Depth follows");
  await saved(page);
});

for (const [name, what] of [
  ["Village hall pedal stop", "woofer"],
  ["Reading room columns", "Divider 1"],
  ["Meadow stage", "Chamber board"],
] as const) {
  test(`${name}: cut list, sheets, DXF, a printed plan, steps that are kept`, async ({ page }) => {
    await open(page, name);
    await page.getByRole("link", { name: /Cabinet/ }).click();
    await view(page, "Saw");
    await expect(page.getByTestId("cut-list")).toContainText(what);
    await expect(page.getByRole("img", { name: /^Sheet 1 of/ }).first()).toBeVisible();

    await view(page, "Drawings");
    await page.getByRole("button", { name: "Parts, flat" }).click();
    const dxf = await download(page, () => page.getByRole("button", { name: "DXF", exact: true }).click());
    expect(dxf).toContain("SECTION");
    expect(dxf).toContain("OUTLINE");
    const svg = await download(page, () => page.getByRole("button", { name: "SVG", exact: true }).click());
    expect(svg).toContain("<svg");
    const plan = await download(page, () =>
      page.getByRole("button", { name: /Print the whole plan/ }).click(),
    );
    expect(plan.slice(0, 5)).toBe("%PDF-");
    expect(plan.length).toBeGreaterThan(20_000);

    // ticks and notes are kept
    await view(page, "Build");
    const first = page.getByRole("checkbox").first();
    await expect(page.getByTestId("steps-done")).toContainText(/^0 of/);
    await first.check();
    await expect(page.getByTestId("steps-done")).toContainText(/^1 of/);
    await page.getByRole("button", { name: "note" }).first().click();
    await page
      .getByRole("textbox", { name: /^Note to/ })
      .first()
      .fill("17.6 mm by callipers");
    await saved(page);
    await page.reload();
    await expect(page.getByRole("checkbox").first()).toBeChecked();
    await expect(page.getByRole("textbox", { name: /^Note to/ }).first()).toHaveValue("17.6 mm by callipers");
  });
}

test("two in the workshop tick one build: neither is lost, nothing is asked, the design stays as it is", async ({
  page,
  context,
}) => {
  const builds = (await (await page.request.get("/api/builds")).json()) as { id: string; name: string }[];
  const demo = builds.find((b) => b.name === "Attic cutting room");
  const detail = await (await page.request.get(`/api/builds/${demo?.id}`)).json();
  const made = await page.request.post("/api/builds", {
    data: { name: "Ticked by two", document: detail.revisions[0].document },
  });
  const { id, revisions } = await made.json();
  const other = await context.newPage();
  for (const tab of [page, other]) await tab.goto(`/builds/${id}/cabinet/build`);
  await page.getByRole("checkbox").nth(0).check();
  await page.getByRole("button", { name: "note" }).first().click();
  await page.getByRole("textbox", { name: /^Note to/ }).fill("callipers: 17.6");
  await saved(page);
  // the other one writes before he hears of it
  const plans = "**/api/revisions/*/work";
  await other.route(plans, (route) => route.abort());
  await other.getByRole("checkbox").nth(2).check();
  await other.getByRole("button", { name: "note" }).first().click();
  await other.getByRole("textbox", { name: /^Note to/ }).fill("baffle 24.2");
  await other.unroute(plans);
  await saved(other);
  await expect(other.getByTestId("steps-done")).toContainText(/^2 of/);
  await expect(other.getByRole("textbox", { name: /^Note to/ })).toHaveValue("callipers: 17.6\nbaffle 24.2");
  await expect(other.getByRole("button", { name: "Undo" })).toBeDisabled();
  const history = await page.request.get(`/api/revisions/${revisions[0].id}/history`);
  expect((await history.json()).length).toBe(1);
  await page.reload();
  await expect(page.getByTestId("steps-done")).toContainText(/^2 of/);
  // what it costs is a price of this build, and held against its budget
  await page.getByText("Prices and budget").click();
  await type(page, "/prices/sheet", "58");
  await type(page, "/brief/budget", "10");
  await expect(page.locator('[data-kind="over_budget"]')).toBeVisible();
  await saved(page);
  await page.request.delete(`/api/builds/${id}`);
});

test("a fold that does not go in is named, and the box as the path wants it cures it", async ({ page }) => {
  await open(page, "Reading room columns");
  await page.getByRole("link", { name: /Cabinet/ }).click();
  await expect(page.getByTestId("cabinet-figures")).toContainText("Path as folded");
  await type(page, "/cabinet/height_mm", "300");
  const unfit = page.locator('[data-kind="does_not_fold"]');
  await expect(unfit).toBeVisible();
  await unfit.getByRole("button", { name: /^Cabinet \d+ mm high/ }).click();
  await expect(unfit).toHaveCount(0);
  await expect(page.getByTestId("cabinet-figures")).toContainText("1980 mm asked for");
  await saved(page);
});

test("the cabinet stands to be turned, or lies exploded where the browser has no 3-D; steps on a phone", async ({
  page,
}) => {
  await open(page, "Attic cutting room");
  await page.getByRole("link", { name: /Cabinet/ }).click();
  await view(page, "Solid");
  const solid = page.getByTestId("solid");
  await expect(solid).toHaveAttribute("data-state", /there|none/);
  if ((await solid.getAttribute("data-state")) === "there") {
    await expect(solid.locator("canvas")).toBeVisible();
    await page.getByRole("slider", { name: "Lift the panels off" }).fill("0.5");
  } else {
    await expect(page.getByRole("img", { name: "Exploded" })).toBeVisible();
  }
  await page.setViewportSize({ width: 390, height: 844 });
  await view(page, "Build");
  await page.getByRole("checkbox").nth(1).check();
  await expect(page.getByTestId("steps-done")).toContainText(/^1 of/);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await saved(page);
});
