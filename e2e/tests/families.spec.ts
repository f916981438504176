import { expect, test, type Page } from "@playwright/test";
import { begin, curves, field, openCopy, saved, type } from "./bench";

const view = (page: Page, name: string) => page.getByRole("link", { name, exact: true }).click();

/** Each family with a field of its own and a value to type there. */
const FAMILIES: [name: string, pointer: string, value: string][] = [
  ["Sealed", "/enclosure/net_volume_l", "42 L"],
  ["Vented", "/enclosure/port/sizing/tuning_hz", "31 Hz"],
  ["Passive radiator", "/enclosure/radiators/added_mass_g", "160"],
  ["Bandpass, fourth order", "/enclosure/front_volume_l", "21"],
  ["Bandpass, sixth order", "/enclosure/rear_volume_l", "39"],
  ["Transmission line", "/enclosure/length_mm", "2.4 m"],
  ["Front-loaded horn", "/enclosure/horn/mouth_cm2", "0.3 m2"],
  ["Back-loaded horn", "/enclosure/throat_chamber_l", "6"],
  ["Tapped horn", "/enclosure/inner_tap_mm", "150"],
  ["Open baffle", "/enclosure/width_mm", "600"],
];

test("every family is chosen, edited, drawn, saved and written to CSV", async ({ page }) => {
  test.setTimeout(150_000);
  await begin(page, "All of them", /Kelda 10-8/);
  for (const [name, pointer, value] of FAMILIES) {
    await page.getByRole("radio", { name, exact: true }).click();
    await expect(page.getByRole("radio", { name, exact: true })).toHaveAttribute("aria-checked", "true");
    await expect(field(page, pointer)).toBeVisible();
    const answered = curves(page);
    await type(page, pointer, value);
    expect((await answered).lists.level_db?.length).toBeGreaterThan(100);
    await expect(page.locator('[data-lane="level"] canvas')).toBeVisible();
    await expect(page.getByTestId("figures")).toBeVisible();
    await saved(page);
  }
  await page.getByRole("radio", { name: "Infinite baffle", exact: true }).click();
  await expect(page.getByTestId("figures")).toContainText("fs");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save CSV" }).click();
  const text = await (await (await download).createReadStream()).toArray();
  expect(Buffer.concat(text).toString()).toMatch(/^frequency_hz,level_db_A/);
  await page.reload();
  await expect(page.getByRole("radio", { name: "Infinite baffle", exact: true })).toHaveAttribute(
    "aria-checked",
    "true",
  );
});

test("tunings are pulled at: a radiator's mass, both ports of a bandpass, a line's length", async ({
  page,
}) => {
  await begin(page, "Pulled", /Kelda 10-8/);
  await page.getByRole("radio", { name: "Passive radiator" }).click();
  const mass = field(page, "/enclosure/radiators/added_mass_g");
  await expect(mass).toBeVisible();
  const before = Number(await mass.inputValue());
  await page.getByRole("slider", { name: "Tuning", exact: true }).press("Shift+ArrowLeft");
  await expect.poll(async () => Number(await mass.inputValue())).toBeGreaterThan(before);
  await page.getByRole("button", { name: /^2 weights/ }).click();
  await expect(mass).toHaveValue("150");

  await page.getByRole("radio", { name: "Bandpass, sixth order" }).click();
  await page.getByRole("slider", { name: "Tuning, front" }).press("ArrowRight");
  await page.getByRole("slider", { name: "Tuning, rear" }).press("ArrowLeft");
  await expect(page.getByTestId("passband")).toContainText(/Band .* Hz/);

  await page.getByRole("radio", { name: "Transmission line" }).click();
  const length = field(page, "/enclosure/length_mm");
  await expect(length).toBeVisible();
  const long = Number(await length.inputValue());
  await page.getByRole("slider", { name: "Tuning, λ/4" }).press("Shift+ArrowRight");
  await expect.poll(async () => Number(await length.inputValue())).toBeLessThan(long);
  // what cannot be is said at its field, and stays as typed
  await type(page, "/enclosure/woofer_at_mm", "9000");
  await expect(page.getByText(/the woofer lies outside the line/).first()).toBeVisible();
  await type(page, "/enclosure/woofer_at_mm", "500");
  await page.getByText("Fill", { exact: true }).click();
  await page.getByRole("button", { name: "Add to Fill along it" }).click();
  await expect(page.getByTestId("figures")).toContainText("Acts longer by");
  await page.getByText("Fill materials and their sources").click();
  await expect(page.getByTestId("materials")).toContainText("Garai & Pompoli");
});

test("standing waves: the woofer is moved, and the lanes show it", async ({ page }) => {
  await begin(page, "Hollow", /Kelda 10-8/);
  await page.getByText("Standing waves", { exact: true }).first().click();
  await page.getByRole("button", { name: "state it", exact: true }).click();
  await expect(field(page, "/enclosure/inside/woofer_up_mm")).toBeVisible();
  const answer = async (up: string) => {
    const answered = curves(page);
    await type(page, "/enclosure/inside/woofer_up_mm", up);
    return (await answered).lists.impedance_ohm ?? [];
  };
  const [low, high] = [await answer("60"), await answer("150")];
  expect(low.some((z, i) => Math.abs(z - (high[i] ?? z)) > 0.02)).toBe(true);
});

test("schools side by side, and one becomes a revision", async ({ page }) => {
  await begin(page, "Schooled", /Kelda 10-8/);
  await view(page, "Schools");
  await expect(page.locator("[data-school]")).toHaveCount(6);
  await expect(page.locator('[data-school="vented_flattest"]')).toContainText(/f3/);
  await page.getByLabel("Schools of").selectOption("vented");
  await expect(
    page.locator("[data-school]").filter({ hasText: "This woofer cannot do it" }).first(),
  ).toBeVisible();
  await page.getByRole("button", { name: "Make it a revision: Vented, oversize and low" }).click();
  await expect(page.getByRole("button", { name: /^B/ }).first()).toHaveAttribute("aria-pressed", "true");
  await expect(page.getByRole("radio", { name: "Vented", exact: true })).toHaveAttribute(
    "aria-checked",
    "true",
  );

  await view(page, "Compare");
  const table = page.getByRole("region", { name: "Revisions side by side" });
  await expect(table.getByRole("row").filter({ hasText: "air inside" })).toContainText(/\d/);
  await expect(table.getByLabel(/better|worse/).first()).toBeVisible();
  await expect(page.getByTestId("band")).toContainText(/200 variants/);
});

test("a goal is sought, with its trade-off, and taken", async ({ page }) => {
  await begin(page, "Sought", /Kelda 10-8/);
  await view(page, "Seek");
  await page.getByRole("button", { name: "Seek", exact: true }).click();
  await expect(page.getByTestId("sought")).toContainText("f3", { timeout: 30_000 });
  await expect(page.getByRole("group", { name: "Trade-off" }).getByRole("button").nth(3)).toBeVisible();
  await page.getByRole("button", { name: "Make it a revision", exact: true }).click();
  await expect(page.getByRole("button", { name: /^B/ }).first()).toHaveAttribute("aria-pressed", "true");
});

test("a long search tells how far it is, and is stopped", async ({ page }) => {
  await openCopy(page, "Reading room columns", "A search stopped", "box/seek");
  await page.getByRole("button", { name: "Seek", exact: true }).click();
  await expect(page.getByText(/^\d{2,} boxes tried/)).toBeVisible();
  expect(Number(await page.getByRole("progressbar").getAttribute("value"))).toBeGreaterThan(0);
  await page.getByRole("button", { name: "Stop", exact: true }).click();
  await expect(page.getByRole("button", { name: "Seek", exact: true })).toBeVisible();
  await expect(page.getByRole("alert")).toHaveCount(0);
  await expect(page.getByTestId("sought")).toHaveCount(0);
});

test("the air in motion follows the frequency chosen; still where the system asks for it", async ({
  page,
}) => {
  await begin(page, "Moving", /Kelda 10-8/);
  await page.getByRole("button", { name: "Air in motion" }).click();
  const words = page.getByTestId("motion");
  await expect(words).toContainText(/cone [\d.]+ mm, air at the opening/);
  const before = await words.textContent();
  await page.getByLabel("Frequency of the motion").press("ArrowRight");
  await expect.poll(() => words.textContent()).not.toBe(before);
  await page.emulateMedia({ reducedMotion: "reduce" });
  await page.reload();
  await page.getByRole("button", { name: "Air in motion" }).click();
  await expect(words).toContainText("drawn still");
  await expect(page.getByText("Instant")).toBeVisible();
});
