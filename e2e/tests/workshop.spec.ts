import { expect, test, type Page } from "@playwright/test";
import { begin, field, saved, station } from "./bench";

const view = (page: Page, name: string) =>
  page.getByRole("navigation", { name: /Views/ }).getByRole("link", { name }).click();

/** The workshop as the server has it. */
const workshop = async (page: Page) =>
  (
    (await (await page.request.get("/api/workshop")).json()) as {
      document: {
        currency?: string;
        has?: { thing: string }[];
        rack?: { from?: string; length_mm: number }[];
      };
    }
  ).document;

test("a tool is ticked once for every build, and prices have the workshop's currency", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Village hall pedal stop" }).click();
  await station(page, "cabinet");
  await view(page, "Build");
  const kit = page.getByRole("region", { name: "Tools and small stuff" });
  await expect(page.getByTestId("bill")).toContainText(/together, EUR/);
  // clamps by number and length, for this very cabinet
  await kit.getByText(/^Clamps:/).click();
  await expect(kit.getByText(/\d clamps that open to \d+ mm/).first()).toBeVisible();
  await kit.getByText(/^Tools:/).click();
  const before = await page.getByTestId("tools-missing").textContent();
  await kit
    .getByRole("checkbox", { name: /^chisel|^sander/ })
    .first()
    .check();
  await expect(page.getByTestId("tools-missing")).not.toHaveText(before ?? "");
  await expect
    .poll(async () => (await workshop(page)).has?.some((h) => /chisel|sander/.test(h.thing)))
    .toBe(true);
  // the router's jig: half the hole less half the bit
  await kit.getByText(/^The router's jig/).click();
  const row = page.getByTestId("circles").getByRole("row").nth(1);
  const cells = (await row.getByRole("cell").allTextContents()).map(Number);
  const [across = 0, , bit = 0, radius = 0] = cells;
  expect(Math.abs(2 * radius + bit - across)).toBeLessThan(0.2);

  // another build, after a reload, has it too
  await page.goto("/");
  await page.getByText(/^What the workshop has:/).click();
  await expect(page.getByText(/^(chisel|sander)$/).first()).toBeVisible();
});

test("a piece of the rack is sawn from, and what is left of the sheets goes onto it", async ({ page }) => {
  const document = {
    format: "oak-drum-design",
    version: 8,
    woofer: { fs_hz: 28, qms: 6, qes: 0.42, vas_l: 120, re_ohm: 5.6, sd_cm2: 530 },
    enclosure: { family: "sealed", net_volume_l: 70 },
    cabinet: { width_mm: 350, height_mm: 400, depth_mm: 300, panel_mm: 18, baffle_mm: 18 },
  };
  await page.request.post("/api/builds", { data: { name: "Rack and saw", document } });
  await page.goto("/");
  await page.getByRole("link", { name: "Rack and saw" }).click();
  await station(page, "cabinet");
  await view(page, "Saw");
  const rack = page.getByRole("region", { name: "The rack" });
  await rack.getByRole("button", { name: /^Saw from it: 610 mm x 380 mm/ }).click();
  await expect(rack).toContainText("planned in");
  await expect(page.getByRole("img", { name: /^Own piece 1/ })).toBeVisible();
  await saved(page);
  await rack.getByRole("button", { name: "It is sawn: put them on the rack" }).click();
  await expect(rack.getByRole("button", { name: /^Take (it|them) off/ })).toBeVisible();
  await expect
    .poll(async () => (await workshop(page)).rack?.filter((p) => p.from === "Rack and saw, A").length ?? 0)
    .toBeGreaterThan(0);
  // the piece that was sawn is gone from it
  expect((await workshop(page)).rack?.some((p) => p.length_mm === 610)).toBe(false);
  await rack.getByRole("button", { name: /^Take (it|them) off/ }).click();
  await expect
    .poll(async () => (await workshop(page)).rack?.some((p) => p.from === "Rack and saw, A") ?? false)
    .toBe(false);
});

test("how other boxes came out is drawn, and a design is reckoned with it", async ({ page }) => {
  await begin(page, "Reckoned with habits", /Kelda 10/);
  await station(page, "log");
  await view(page, "Habits");
  await expect(page.getByTestId("boxes")).toContainText("Village hall pedal stop");
  await expect(page.getByTestId("habits")).toContainText(/In \d other boxes/);
  await expect(page.getByRole("img", { name: /^Measured against reckoned/ })).toBeVisible();
  await page.getByRole("button", { name: "Reckon with the leaks your boxes have" }).click();
  await saved(page);
  await station(page, "box");
  await expect(field(page, "/enclosure/leak_q")).not.toHaveValue("");
});
