import { expect, test, type Page } from "@playwright/test";
import { begin, field, open, saved, station, type } from "./bench";

const peg = (page: Page, index = 0) => page.locator(`[data-peg="${index}"]`);
const level = (page: Page) => field(page, "/chain/filters/0/filter/level_db");

/** The text and name a download holds. */
async function download(page: Page, button: string) {
  const waiting = page.waitForEvent("download");
  await page.getByRole("button", { name: button, exact: true }).click();
  const file = await waiting;
  const chunks = await (await file.createReadStream()).toArray();
  return { name: file.suggestedFilename(), bytes: Buffer.concat(chunks) };
}

test("a band is pulled on the lane, turned by keys, switched off and undone in one step", async ({
  page,
}) => {
  await begin(page, "Pulled", /Kelda 10 /);
  await station(page, "drive");
  await page.getByRole("button", { name: "Add a filter: line" }).click();
  await page.getByRole("button", { name: "Band", exact: true }).click();
  await expect(level(page)).toHaveValue("-3");
  const hz = field(page, "/chain/filters/0/filter/frequency_hz");
  await expect(hz).toHaveValue("40");

  // down and to the right: a deeper cut, higher up
  const box = (await peg(page).boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= 12; i++) await page.mouse.move(x + 4 * i, y + 3 * i);
  await page.mouse.up();
  await expect.poll(async () => Number(await level(page).inputValue())).toBeLessThan(-4);
  await expect.poll(async () => Number(await hz.inputValue())).toBeGreaterThan(44);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(level(page)).toHaveValue("-3");
  await expect(hz).toHaveValue("40");

  // keys do the same: up half a decibel, sideways a twenty-fourth of an octave, the page keys the width
  await peg(page).focus();
  for (let i = 0; i < 2; i++) await peg(page).press("ArrowUp");
  await expect(level(page)).toHaveValue("-2");
  const q = field(page, "/chain/filters/0/filter/q");
  const narrow = Number(await q.inputValue());
  await peg(page).press("PageUp");
  await expect.poll(async () => Number(await q.inputValue())).toBeLessThan(narrow);

  // a boost is priced where it stands
  await type(page, "/chain/filters/0/filter/level_db", "6");
  await expect(page.getByTestId("price")).toContainText(/Lifts 6\.0 dB: .* W in place of/);
  // off it is kept, and does nothing
  await page.getByRole("checkbox", { name: "Band on" }).uncheck();
  await expect(peg(page)).toHaveCount(0);
  await page.getByRole("checkbox", { name: "Band on" }).check();
  await expect(peg(page)).toBeVisible();
  await saved(page);
});

test("the low cut is taken from the finding and taken back; one band of the amplifier flattens", async ({
  page,
}) => {
  await open(page, "Village hall");
  await station(page, "drive");
  const finding = page.locator('[data-kind="unloads_below_tuning"]');
  const cut = finding.getByRole("button", { name: /^Low cut at/ }).first();
  await cut.click();
  await expect(finding).toHaveCount(0);
  await expect(page.getByRole("button", { name: /^High pass/ })).toBeVisible();
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(finding).toBeVisible();
  await expect(page.getByRole("button", { name: /^High pass/ })).toHaveCount(0);

  await page.getByText("Flatten it").click();
  await page.getByRole("button", { name: "Find bands" }).click();
  const found = page.getByTestId("flattened");
  await expect(found).toContainText(/Off by .* dB rms now/);
  await found.getByRole("button", { name: "Take them" }).click();
  await expect(page.locator("[data-peg]")).toHaveCount(1);
  await page.getByRole("button", { name: "Take it back" }).click();

  // more bands than the amplifier has are refused at the field, and nothing is lost
  await type(page, "/bands", "3");
  await page.getByRole("button", { name: "Find bands" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "has 1 band" }).first()).toBeVisible();
  // beyond what its equaliser can do is named with the range
  await page.getByRole("button", { name: /^Band/ }).click();
  const hz = field(page, "/chain/filters/0/filter/frequency_hz");
  await hz.fill("95");
  await hz.press("Enter");
  await expect(page.getByText("at most 80 Hz")).toBeVisible();
});

test("a target is drawn on the level lane by hand and by keys, and flattened toward; a width is set in octaves", async ({
  page,
}) => {
  await begin(page, "Drawn", /Kelda 10 /);
  await station(page, "drive");
  await page.getByText("Flatten it").click();
  await field(page, "/target").selectOption("drawn");
  const places = page.locator("[data-place]");
  await expect(places).toHaveCount(2);
  // the left one is pulled up, the line pressed for a third, that one taken out by a key
  const box = (await places.first().boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(x, y - 2 * i);
  await page.mouse.up();
  const first = field(page, "/target/points/0/db");
  await expect.poll(async () => Number(await first.inputValue())).toBeGreaterThan(1);
  const last = (await places.last().boundingBox())!;
  await page.mouse.click((x + last.x + last.width / 2) / 2, (y - 16 + last.y + last.height / 2) / 2);
  await expect(places).toHaveCount(3);
  await places.nth(1).focus();
  await places.nth(1).press("ArrowUp");
  await places.nth(1).press("Delete");
  await expect(places).toHaveCount(2);
  await page.getByRole("button", { name: "Find bands" }).click();
  const found = page.getByTestId("flattened");
  await expect(found).toContainText(/Off by .* dB rms now/);
  await found.getByRole("button", { name: "Take them" }).click();
  await expect(page.locator("[data-peg]")).toHaveCount(1);

  await page.getByRole("button", { name: /^Band/ }).first().click();
  const octaves = page.getByTestId("width").getByRole("textbox", { name: "Octaves" });
  await octaves.fill("1");
  await octaves.press("Enter");
  await expect(field(page, "/chain/filters/0/filter/q")).toHaveValue("1.414");
});

test("a notch is drawn at the terminals, stepped and rounded; biquads and the settings card are saved", async ({
  page,
}) => {
  await begin(page, "Notched", /Kelda 10 /);
  await station(page, "drive");
  await page.getByRole("link", { name: "Parts", exact: true }).click();
  await page.getByRole("button", { name: "Insert a part at place 1" }).click();
  await page.getByRole("button", { name: "Series notch across" }).click();
  const part = page.locator('[data-part="0"]');
  await expect(part).toHaveAttribute("aria-label", /Series notch, 10 mH, 470 µF/);
  await expect(page.getByTestId("bearing")).toContainText("Series notch 1");
  await part.focus();
  await part.press("ArrowUp");
  await expect(part).toHaveAttribute("aria-label", /12 mH/);
  // a pad that would need a negative resistor is refused at the field
  await field(page, "/wish").selectOption("pad");
  const softer = field(page, "/wish/softer_db");
  await softer.fill("-3");
  await softer.press("Enter");
  await expect(page.getByText("at least 0.1 dB")).toBeVisible();

  await page.getByRole("link", { name: "Drive", exact: true }).last().click();
  await page.getByRole("button", { name: "Add a filter: line" }).click();
  await page.getByRole("button", { name: "High pass", exact: true }).click();
  await page.getByRole("link", { name: "Out", exact: true }).click();
  await expect(page.getByTestId("settings")).toContainText("12 dB an octave, Butterworth");
  await expect(page.getByTestId("biquads")).toContainText("High pass");
  const json = await download(page, "JSON");
  const made = JSON.parse(json.bytes.toString()) as { rate_hz: number; sections: unknown[] };
  expect([made.rate_hz, made.sections.length]).toEqual([48000, 1]);
  await page.getByRole("combobox", { name: "Sign of a1 and a2" }).selectOption("added");
  expect((await download(page, "Plain text")).bytes.toString()).toContain("signs turned");
  const wav = await download(page, "Impulse response (WAV)");
  expect(wav.bytes.subarray(0, 4).toString()).toBe("RIFF");
  const card = await download(page, "Print the card (PDF)");
  expect(card.bytes.subarray(0, 5).toString()).toBe("%PDF-");
});
