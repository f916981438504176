import { expect, test, type Page } from "@playwright/test";
import { begin, field, saved, type } from "./bench";

/** The text a download holds. */
async function download(page: Page, button: string) {
  const waiting = page.waitForEvent("download");
  await page.getByRole("button", { name: button, exact: true }).click();
  const file = await waiting;
  const chunks = await (await file.createReadStream()).toArray();
  return { name: file.suggestedFilename(), text: Buffer.concat(chunks).toString() };
}

const fit = (page: Page) => page.getByRole("region", { name: "Does it fit" });
const length = async (page: Page) =>
  Number(/([\d.]+) mm/.exec(await page.getByTestId("port-figures").locator("dd").first().innerText())?.[1]);

test("a flared round port and a slot are designed until they fit", async ({ page }) => {
  await begin(page, "Ways out", /Kelda 10-8/);
  await page.getByRole("button", { name: "State its outside" }).click();
  await page.getByRole("link", { name: /Airway/ }).click();
  await expect(page.getByTestId("port-figures")).toBeVisible();

  // a pipe of the standards, flared at both ends
  await page.getByText("Take a plastic pipe").click();
  await page.getByTestId("pipes").getByRole("button", { name: "DN 75" }).click();
  await expect(field(page, "/enclosure/port/section/diameter_mm")).toHaveValue("69");
  await type(page, "/enclosure/port/inner_end/radius_mm", "20");
  await type(page, "/enclosure/port/outer_end/radius_mm", "20");
  await expect(page.getByTestId("port-figures")).toContainText("flange 140 mm");
  await expect(fit(page)).toContainText("It fits");

  // pulled to more area it is longer; the curve shows up to where it fits
  const before = await length(page);
  const pull = page.getByRole("slider", { name: "Area of the port, by its length" });
  await pull.focus();
  for (let i = 0; i < 4; i++) await pull.press("ArrowRight");
  await expect.poll(() => length(page)).toBeGreaterThan(before * 1.1);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect.poll(() => length(page)).toBeCloseTo(before, 0);

  // a slot over the whole width: too long for the depth, folded up the back it goes in
  await field(page, "/enclosure/port/section").selectOption("slot");
  await type(page, "/enclosure/port/section/width_mm", "364");
  await type(page, "/enclosure/port/section/height_mm", "35");
  await type(page, "/enclosure/port/walls_alongside", "3");
  await type(page, "/enclosure/port/wall_mm", "18");
  await field(page, "/enclosure/port/inner_end").selectOption("free");
  await field(page, "/enclosure/port/outer_end").selectOption("flanged");
  await expect(fit(page)).toContainText("It does not fit");
  const misfit = page.locator('[data-kind="port_will_not_fit"]');
  await expect(misfit).toContainText("Port will not fit");
  await misfit.getByRole("button", { name: /elbow/ }).click();
  await expect(fit(page)).toContainText("It fits");
  await expect(misfit).toHaveCount(0);
  await saved(page);

  // both pictures and the numbers behind them can be kept
  const drawing = await download(page, "Save In the box as SVG");
  expect(drawing.name).toBe("in-the-box.svg");
  expect(drawing.text).toContain("<svg");
  expect(drawing.text).not.toContain("var(--");
  const table = await download(page, "Save Trade-off as CSV");
  const lines = table.text.trim().split("\n");
  expect(lines[0]).toContain("area_cm2,opening,net_l,length_mm");
  expect(lines).toHaveLength(61);
});

test("a dead end is said, and the passive radiator offered takes its place", async ({ page }) => {
  await begin(page, "Too small", /Kelda 10-8/);
  await type(page, "/enclosure/net_volume_l", "7");
  await type(page, "/enclosure/port/sizing/tuning_hz", "30");
  await page.getByRole("link", { name: /Airway/ }).click();
  await expect(page.getByTestId("port-figures")).toBeVisible();
  await type(page, "/enclosure/port/section/diameter_mm", "100");
  const end = page.locator('[data-kind="port_dead_end"]');
  await expect(end).toContainText("A dead end");
  await expect(end).toContainText("no box of this size holds it");
  await expect(end.getByRole("button", { name: /Tune to/ })).toBeVisible();
  await expect(end.getByRole("button", { name: /A box of/ })).toBeVisible();
  await end.getByRole("button", { name: /passive radiator/ }).click();
  await expect(end).toHaveCount(0);
  await expect(page.getByTestId("radiator-figures")).toContainText("Move at this drive");
  // a weight more tunes lower, and can be taken back
  await page
    .getByRole("region", { name: "Weights", exact: true })
    .getByRole("button", { name: "take" })
    .last()
    .click();
  await expect(page.getByRole("complementary", { name: "Findings" }).getByRole("status")).toContainText(
    "6 weights",
  );
  await page.getByRole("button", { name: "Take it back" }).click();
});

test("a measured tuning says what to cut, and is kept", async ({ page }) => {
  await begin(page, "Trimmed", /Kelda 10-8/);
  await page.getByRole("link", { name: /Airway/ }).click();
  await page.getByRole("link", { name: "Trim", exact: true }).click();
  await page.getByRole("button", { name: "What to do" }).click();
  await expect(page.getByRole("alert")).toContainText("the tuning you measured is expected");
  const expected = Number(
    /expected ([\d.]+)/.exec((await field(page, "/trim/measured_hz").getAttribute("placeholder")) ?? "")?.[1],
  );
  await type(page, "/trim/measured_hz", `${(expected * 0.96).toFixed(2)} Hz`);
  await page.getByRole("button", { name: "What to do" }).click();
  const what = page.getByTestId("trim");
  await expect(what).toContainText(/The ends count 1\.\d\d times what theory gives them/);
  await what.getByRole("button", { name: /^Cut \d+ mm off/ }).click();
  await page.getByRole("link", { name: "Airway", exact: true }).click();
  await expect(field(page, "/enclosure/port/end_factor")).toHaveValue(/^1\.\d/);
  await saved(page);
  await page.reload();
  await expect(field(page, "/enclosure/port/end_factor")).toHaveValue(/^1\.\d/);
});
