import { expect, test } from "@playwright/test";
import { begin, open, saved, station } from "./bench";

test("a measurement is taken on the bench and laid on the prediction", async ({ page }) => {
  await begin(page, "Proved", /Kelda 10 /);
  await station(page, "prove");
  await expect(page.getByText("Nothing was measured at this build yet.")).toBeVisible();
  await page.getByRole("link", { name: "Take", exact: true }).click();
  await expect(page.getByText(/Ears: begin with the volume down/)).toBeVisible();
  await page.getByRole("button", { name: "Measure" }).click();
  await page.getByRole("link", { name: "See it on the prediction" }).click();
  // the cabinet on the bench is as it is designed
  await expect(page.getByTestId("why")).toContainText("nothing to explain");
  await expect(page.getByTestId("deviation")).toContainText(/0\.\d dB rms/);
  await expect(page.getByRole("navigation", { name: "Stations" })).toContainText(/0\.\d dB rms off/);
  // taken away, and put back
  await page.getByText("What is known and done").click();
  await page.getByRole("button", { name: "Take it away" }).click();
  await expect(page.getByTestId("deviation")).toHaveCount(0);
  await page.getByRole("button", { name: "Put it back" }).click();
  await expect(page.getByTestId("deviation")).toBeVisible();
});

test("a text file with a column too many is read wrong, mended and kept", async ({ page }) => {
  await begin(page, "From a file", /Kelda 10 /);
  await station(page, "prove");
  await page.getByRole("link", { name: "File", exact: true }).click();
  // a clock before frequency, ohms and degrees
  const rows = Array.from({ length: 60 }, (_, i) => {
    const f = 8 * 1.07 ** i;
    const x = f / 45 - 45 / f;
    return `${(0.7 * i + 0.3).toFixed(1)};${f.toFixed(2)};${(4 + 30 / (1 + 9 * x * x)).toFixed(3)};0`.replaceAll(
      ".",
      ",",
    );
  });
  await page.getByLabel("File with a curve").setInputFiles({
    name: "terminals.txt",
    mimeType: "text/plain",
    buffer: Buffer.from(rows.join("\n")),
  });
  await expect(page.getByLabel("Column 1")).toHaveValue("frequency");
  await expect(page.getByRole("alert")).toContainText("line 59, column 2: a level between");
  await page.getByLabel("Column 2").selectOption("frequency");
  await expect(page.getByLabel("Column 1")).toHaveValue("left_out");
  await page.getByLabel("Column 4").selectOption("phase");
  await page.getByLabel("Column 3").selectOption("magnitude");
  await page.getByLabel("frequencies in kHz").setChecked(false);
  await page.getByLabel("Magnitudes in").selectOption("ohm");
  await expect(page.getByText("60 points")).toBeVisible();
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByTestId("measurements")).toContainText("terminals");
  await expect(page.getByTestId("deviation")).toContainText(/dB rms from/);
  // what is no curve is refused in words
  await page.getByRole("link", { name: "File", exact: true }).click();
  const junk = { name: "x.txt", mimeType: "text/plain", buffer: Buffer.from("hello\nworld\n") };
  await page.getByLabel("File with a curve").setInputFiles(junk);
  await expect(page.getByRole("alert")).toContainText("no two lines begin with numbers");
});

test("a leak is found, and the design kept as it was measured becomes a revision", async ({ page }) => {
  await open(page, "Flat-friendly bass");
  await station(page, "prove");
  await expect(page.getByTestId("why")).toContainText(/What explains most[^:]*: QL 2\.\d/);
  await expect(page.getByTestId("cure-leak")).toContainText("mm²");
  const keep = page.getByTestId("cure-keep");
  await keep.getByRole("button", { name: "Show its curve" }).click();
  await keep.getByRole("button", { name: "Take as a revision" }).click();
  await expect(page.getByTestId("why")).toContainText("nothing to explain");
  await saved(page);
});

test("a port that acts too long is cut: the trim becomes a revision", async ({ page }) => {
  await open(page, "Village hall pedal stop");
  await station(page, "prove");
  // the impedance alone
  for (const name of ["Cone, glued up", "Port, glued up"]) await page.getByLabel(name).first().uncheck();
  await expect(page.getByTestId("why")).toContainText(/the port acts \d+ mm longer/);
  const cut = page.getByTestId("cure-trim_0");
  await expect(cut).toContainText(/Cut \d+ mm off/);
  await cut.getByRole("button", { name: "Take as a revision" }).click();
  await expect(page.getByRole("status").filter({ hasText: "taken as a new revision" })).toBeVisible();
  await saved(page);
  // what this port taught is offered to the next box of the workshop
  await begin(page, "The next one", /Kelda 10 /);
  await page.getByRole("link", { name: /Airway/ }).click();
  await expect(page.getByTestId("learned")).toContainText("measured to act");
  await page.getByRole("button", { name: /^Reckon with .* here$/ }).click();
  await expect(page.getByTestId("learned")).toHaveCount(0);
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(page.getByTestId("learned")).toBeVisible();
});

test("a practice cabinet is measured, said and judged", async ({ page }) => {
  await begin(page, "Practised", /Kelda 10 /);
  await station(page, "prove");
  await page.getByRole("link", { name: "Practice", exact: true }).click();
  await page.getByRole("button", { name: "Terminals of the box" }).click();
  await expect(page.getByTestId("practised")).toContainText("Measured 1 time");
  await page.getByRole("button", { name: "That is it" }).click();
  const verdict = page.getByTestId("verdict");
  await expect(verdict).toContainText("0 of 100");
  // what was missed is told with its amount: saying just that is worth all of it
  const missed = (await verdict.getByRole("listitem").first().textContent()) ?? "";
  const fill = async (label: string, found: RegExpMatchArray | null, sign = "") => {
    if (found) await page.getByLabel(label, { exact: true }).fill(`${sign}${found[1]}`);
  };
  await fill("It leaks; QL is", /QL (\d+\.\d)/.exec(missed));
  await fill("Its air is off by", /([\d.]+) % less air/.exec(missed), "-");
  await fill("Its air is off by", /([\d.]+) % more air/.exec(missed));
  await fill("Its port is off by", /port (\d+) mm too long/.exec(missed));
  await fill("Its port is off by", /port (\d+) mm too short/.exec(missed), "-");
  await fill("The woofer's fs is off by", /fs off by ([+-][\d.]+) %/.exec(missed));
  await fill("It buzzes at", /buzz at (\d+) Hz/.exec(missed));
  await page.getByRole("button", { name: "That is it" }).click();
  await expect(verdict).toContainText("100 of 100");
});

test("a woofer is measured by itself, fitted, kept on the shelf and designed with", async ({ page }) => {
  await begin(page, "By itself", /Bittern 8/, "a sealed box");
  await station(page, "prove");
  await page.getByRole("link", { name: "Woofer", exact: true }).click();
  await expect(page.getByText(/was not measured by itself yet/)).toBeVisible();
  await page.getByRole("link", { name: "Take its impedance in free air" }).click();
  for (const place of ["Woofer in free air", "Woofer with added mass"]) {
    await page.getByText(place, { exact: true }).click();
    if (place.includes("mass")) {
      await page.getByLabel("Mass", { exact: true }).fill("20");
      await page.getByLabel("Mass", { exact: true }).press("Enter");
    }
    await page.getByRole("button", { name: "Measure" }).click();
    await expect(page.getByText(/revision A: kept/)).toBeVisible();
  }
  await page.getByRole("link", { name: "Woofer", exact: true }).click();
  const figures = page.getByTestId("woofer-figures");
  await expect(figures.getByRole("row", { name: /^Mms/ })).toBeVisible();
  await expect(figures.getByRole("row", { name: /^fs/ })).toContainText(/±0\.\d %/);
  await expect(page.getByTestId("effect")).toContainText("3 dB down");
  await page.getByText("Keep them on the shelf").click();
  await page.getByRole("button", { name: "Keep as a set of figures" }).click();
  await expect(page.getByText(/on the shelf, and in use there/)).toBeVisible();
  await page.getByText("Break it in").click();
  await expect(page.getByText(/Do not leave it unattended/)).toBeVisible();
  await page.getByRole("button", { name: "Design with these figures" }).click();
  await expect(page.getByText("taken as a new revision")).toBeVisible();
  await saved(page);
});
