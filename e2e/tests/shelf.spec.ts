import { expect, test, type Page } from "@playwright/test";
import { begin, curves, field, open, saved, station, type } from "./bench";

async function shelf(page: Page) {
  await station(page, "woofer");
  await page.getByRole("link", { name: "Shelf", exact: true }).click();
  await expect(page.getByRole("table")).toBeVisible();
}

test("a woofer from a partial sheet: what follows, what is missing, what contradicts itself", async ({
  page,
}) => {
  await begin(page, "Junk shop", /Kelda 10 /);
  await shelf(page);
  await page.getByRole("button", { name: "New woofer" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Junk shop 12");
  const set = (name: string, text: string) => type(page, `/sets/0/figures/${name}`, text);
  await set("fs_hz", "26 Hz");
  await set("mms_g", "4.2 oz");
  await set("re_ohm", "5.5");
  const follows = page.getByRole("region", { name: "What follows" });
  await expect(follows).toContainText("sd_cm2: missing");
  // kept half-way it is refused at the field, and nothing typed is lost
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText(/^Not kept/)).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Junk shop 12");
  await set("sd_cm2", "0.0525 m2");
  await expect(field(page, "/sets/0/figures/sd_cm2")).toHaveValue("525");
  await set("bl_t_m", "14.8 N/A");
  await set("rms_n_s_per_m", "3.4");
  await expect(field(page, "/sets/0/figures/qts")).toHaveAttribute("placeholder", /0\.\d+ derived/);
  await expect(field(page, "/sets/0/figures/vas_l")).toHaveAttribute("placeholder", /derived/);
  await expect(follows).toContainText("What is given goes together");
  await set("vas_l", "6 ft3");
  await expect(page.getByTestId("doubts")).toContainText(/\d+ % apart\..*measure before you cut/);
  await set("vas_l", "");
  await expect(follows).toContainText("What is given goes together");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await page.getByLabel("Search the shelf").fill("junk");
  await expect(page.getByRole("status").filter({ hasText: "of" }).first()).toContainText("1 of");
  await page.getByRole("button", { name: /^Junk shop 12/ }).click();
  await page.getByRole("button", { name: "Take off the shelf" }).click();
  await expect(page.getByRole("button", { name: "Take Junk shop 12" })).toHaveCount(0);
  await page.getByRole("button", { name: "Put it back" }).click();
  await page.getByRole("button", { name: "Take Junk shop 12" }).click();
  await page.getByRole("link", { name: "In the box" }).click();
  await expect(field(page, "/woofer/sd_cm2")).toHaveValue("525");
});

test("breaking in: several sets, one in use, and what the change does in this box", async ({ page }) => {
  await open(page, "Village hall pedal stop");
  await shelf(page);
  await page.getByRole("button", { name: /^Marl 12-D/ }).click();
  const log = page.getByTestId("log");
  await expect(log).toContainText("measured broken in");
  await expect(log).toContainText("+19 %");
  await expect(log).toContainText(/[+−]\d\.\d dB/);
  await page.getByRole("tab", { name: /measured broken in/ }).click();
  await page.getByRole("button", { name: "Use this set" }).click();
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText("Marl 12-D is kept.")).toBeVisible();
  // changed again after that, and left in the midst: kept from where it stood
  await page.getByLabel("Notes").fill("The second one rubbed.");
  await page.reload();
  await expect(page.getByLabel("Notes")).toHaveValue("The second one rubbed.");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText("Marl 12-D is kept.")).toBeVisible();
  await page.getByRole("button", { name: "Back to the shelf" }).click();
  await page.getByLabel("Search the shelf").fill("marl 12-d");
  await expect(page.getByRole("row").filter({ hasText: "Marl 12-D" })).toContainText("23.4");
});

test("a file with two bad rows: shown before anything is stored, then taken in without them", async ({
  page,
}) => {
  await open(page, "Village hall pedal stop");
  await shelf(page);
  await page.getByRole("button", { name: "Files in and out" }).click();
  const text =
    "Model;Maker;fs (Hz);Qms;Qes;Vas (ft³);Re (ohm);Sd (cm2);colour\n" +
    "File 8;Nobody;38,5;4,1;0,44;1,02;5,6;215;red\n" +
    "File 10;Nobody;deep;4,1;0,44;1,9;5,6;340;red\n" +
    "File 12;Nobody;24,5;5,0;0,41;4,1;5,5;;red\n" +
    "=SUM(A1);Nobody;21;5,5;0,38;9,2;5,6;850;red\n";
  const buffer = Buffer.from(text);
  await page.getByLabel("File of woofers").setInputFiles({ name: "shop.csv", mimeType: "text/csv", buffer });
  const seen = page.getByRole("region", { name: "What the file brings" });
  await expect(seen).toContainText("2 good rows, 2 with problems");
  await expect(seen).toContainText('"deep" is not a number');
  await expect(seen).toContainText("sd_cm2: missing");
  await expect(seen).toContainText("“colour”: not known, left out");
  await page.getByRole("button", { name: "Put 2 on the shelf, leave 2 out" }).click();
  await expect(seen).toContainText("2 added, 0 given further sets, 0 left out.");
  await page.getByRole("button", { name: "To the shelf", exact: true }).click();
  await page.getByLabel("Search the shelf").fill("nobody");
  await expect(page.getByRole("button", { name: /^File 8/ })).toBeVisible();
  // written out again, no spreadsheet computes the name
  const csv = await (await page.request.get("/api/shelf/export?format=csv")).text();
  expect(csv).toContain("\n'=SUM(A1),Nobody");
  // a file that is none says so
  await page.getByRole("button", { name: "Files in and out" }).click();
  const latin = { name: "old.csv", mimeType: "text/csv", buffer: Buffer.from("name\nB\xe4r\n", "latin1") };
  await page.getByLabel("File of woofers").setInputFiles(latin);
  await expect(page.getByRole("alert")).toContainText("not UTF-8");
});

test("a pair of dual-coil woofers is wired to 4 ohm", async ({ page }) => {
  await begin(page, "Twins", /Kelda 10 Twin/);
  await station(page, "drive");
  await page.getByText("state an amplifier").click();
  await page.getByRole("button", { name: "state it" }).first().click();
  await type(page, "/chain/amplifier/minimum_load_ohm", "4");
  await station(page, "woofer");
  await type(page, "/array/count", "2");
  const parallel = page.getByRole("row").filter({ hasText: /^Coils in parallel, woofers in parallel/i });
  await expect(parallel).toContainText("too low for the amplifier");
  await expect(page.locator('[data-kind="load_below_amplifier"]')).toBeVisible();
  await page.getByRole("button", { name: "coils in series, woofers in parallel", exact: true }).click();
  const series = page.getByRole("row").filter({ hasText: /^Coils in series, woofers in parallel/i });
  await expect(series.getByRole("cell").nth(1)).toContainText("4");
  await expect(page.locator('[data-kind="load_below_amplifier"]')).toHaveCount(0);
  await expect(page.getByRole("img", { name: /2 strings of 1, coils in series/ })).toBeVisible();
  await expect(series).toContainText("0");
  await saved(page);
});

test("isobaric against single: half the box plays as low", async ({ page }) => {
  await begin(page, "Isobaric", /Marl 12-D/, "a sealed box");
  const figure = async (id: string) => {
    return (await curves(page)).summary.figures.find((f) => f.id === id)!.value;
  };
  const litres = Number(await field(page, "/enclosure/net_volume_l").inputValue());
  await page.getByRole("button", { name: "Copy" }).click();
  await station(page, "woofer");
  await page.getByLabel("Isobaric pairs").check();
  await expect(page.getByTestId("isobaric")).toContainText("between the mounting faces");
  await station(page, "box");
  const half = figure("fc_hz");
  await type(page, "/enclosure/net_volume_l", String(litres / 2));
  const paired = await half;
  await page.getByRole("button", { name: /^A/ }).first().click();
  const whole = figure("fc_hz");
  await type(page, "/enclosure/net_volume_l", String(litres * 1.0001));
  expect(Math.abs(paired / (await whole) - 1)).toBeLessThan(0.01);
  // too much air between them is said
  await page.getByRole("button", { name: /^B/ }).first().click();
  await station(page, "woofer");
  await type(page, "/array/isobaric/chamber_l", "3");
  await expect(page.locator('[data-kind="isobaric_too_shallow"]')).toBeVisible();
});

test("mass on the cone: the stock woofer beside the loaded one", async ({ page }) => {
  await begin(page, "Heavy", /Bittern 8 —/);
  await station(page, "woofer");
  await page.getByLabel("Mass added to the cone, grams").fill("20");
  await expect(page.getByTestId("mass")).toContainText("power for the old level");
  await expect(page.getByTestId("mass")).toContainText("+20 g");
});

test("the shelf is tried against the brief, stopped, reloaded, gone on with, and the best opened", async ({
  page,
}) => {
  test.setTimeout(420_000);
  await begin(page, "Tried", /Kelda 10 /);
  await shelf(page);
  // a shelf long enough to be stopped in the midst
  const rows = Array.from({ length: 480 }, (_, i) =>
    [`Row ${i}`, "Longrow", 24 + (i % 20), 5, 0.4, 60 + (i % 90), 5.6, 530, 9, 250, 8, 270, 150].join(),
  );
  const header =
    "name,maker,fs_hz,qms,qes,vas_l,re_ohm,sd_cm2,xmax_mm,power_w,nominal_ohm,cutout_mm,depth_mm";
  await page.request.post("/api/woofers/import?format=csv", { data: [header, ...rows, ""].join("\n") });
  await page.reload();
  await expect(page.getByRole("table")).toHaveAttribute("aria-rowcount", /^5\d\d$/);
  // only what is in sight is drawn, wherever the shelf is scrolled to
  const drawn = () => page.getByRole("row").count();
  expect(await drawn()).toBeLessThan(60);
  await page.getByLabel("Woofers", { exact: true }).evaluate((e) => e.scrollTo(0, 9000));
  await expect.poll(drawn).toBeLessThan(60);
  await page.getByRole("button", { name: "From – to" }).click();
  await page.getByLabel("fs from").fill("30");
  await page.getByLabel("fs to").fill("31");
  await expect(page.getByRole("table")).toHaveAttribute("aria-rowcount", /^(4|5)\d$/);
  await page.getByRole("button", { name: "show all" }).click();

  await page.getByRole("link", { name: "Try the shelf" }).click();
  await expect(page.getByText(/The brief still needs the lowest note/)).toBeVisible();
  await type(page, "/brief/lowest_note_hz", "32");
  await type(page, "/brief/level_db", "100");
  await type(page, "/brief/largest_outside_l", "90");
  // three numbers each keep even a machine of many cores busy until the stop
  await page.getByRole("group", { name: "Woofers in it" }).getByLabel("4").check();
  await page.getByRole("button", { name: /^Try 5\d\d woofers/ }).click();
  const state = page.getByTestId("trial-state");
  await expect(state).toContainText(/^[1-9]\d* of 5\d\d woofers/);
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(state).toContainText("stopped");
  await page.reload();
  await expect(state).toContainText("stopped");
  await page.getByRole("button", { name: "Go on" }).click();
  await expect(state).toContainText(/^5\d\d woofers tried/, { timeout: 300_000 });
  const first = page.locator("tr[data-verdict]").first();
  await expect(first).toHaveAttribute("data-verdict", "meets");
  await page.getByLabel("Sorted by").selectOption("size");
  await page.getByLabel("Sorted by").selectOption("best");
  await page.getByRole("button", { name: "On", exact: true }).click();
  await expect(page.getByText(/^51 to 100 of/)).toBeVisible();
  await page.getByRole("button", { name: "Back", exact: true }).click();
  await page.getByText("How they are ranked").click();
  await expect(page.getByText(/costs 1 dB\.$/)).toBeVisible();
  await page.getByText("How they are ranked").click();
  const words = (await first.getByRole("cell").first().textContent())!.replace(/^\d x /, "");
  await first.getByRole("button", { name: /as a revision/ }).click();
  await expect(page.getByRole("button", { name: /^B/ }).first()).toHaveAttribute("aria-pressed", "true");
  await expect(page.getByRole("slider", { name: "Net volume" })).toBeVisible();
  await expect(page.getByRole("link", { name: /^\d ?woofer/i })).toContainText(words);
  await expect(page.locator('[data-kind="brief_level"]')).toContainText(
    /Reaches the brief|0\.[012] dB short/,
  );
});

test("side by side: two woofers in the same box", async ({ page }) => {
  await open(page, "Whale-song room");
  await shelf(page);
  await page.getByLabel("Pick Kelda 10-8").check();
  await page.getByLabel("Pick Marl 12-S").check();
  await page.getByRole("button", { name: "Lay side by side" }).click();
  await expect(page.getByRole("row").filter({ hasText: "f3 in this box" }).getByRole("cell")).toHaveText([
    /\d/,
    /\d/,
  ]);
  // the lanes have room beside the figures
  const lane = await page.locator('[data-lane="level"] canvas').boundingBox();
  expect(lane!.width).toBeGreaterThan(300);
});
