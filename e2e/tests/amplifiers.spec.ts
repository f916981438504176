import { expect, test } from "@playwright/test";
import { begin, field, open, saved, station, type } from "./bench";

test("an amplifier is taken from the shelf, built into the box by the finding, and taken back", async ({
  page,
}) => {
  await begin(page, "Amplified", /Kelda 10 /);
  await station(page, "drive");
  await page.getByRole("link", { name: "Amplifiers", exact: true }).click();
  const rows = page.getByTestId("amplifiers").getByRole("row");
  const plate = rows.filter({ hasText: "Plate 400" });
  await expect(plate).toContainText(/suits|would do|may not/);
  await plate.getByRole("button", { name: "Take it" }).click();
  await expect(plate).toContainText("in use");
  await expect(page.getByText("This build has Plate 400")).toBeVisible();

  // what is offered in the amplifier is what it has
  await page.getByRole("link", { name: "Drive", exact: true }).click();
  await page.getByRole("button", { name: "Add a filter: amplifier" }).click();
  await expect(page.getByRole("button", { name: "Band", exact: true })).toBeVisible();
  await expect(page.getByRole("button", { name: "All-pass", exact: true })).toHaveCount(0);

  // without a cabinet nothing is built in; with one its place is missed, and made
  await station(page, "cabinet");
  await page.getByRole("button", { name: "State its outside" }).first().click();
  const finding = page.getByText("The amplifier has no place in the cabinet");
  await expect(finding).toBeVisible();
  await page.getByRole("button", { name: /Build it into the back/ }).click();
  await expect(finding).toHaveCount(0);
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(finding).toBeVisible();
  await saved(page);
});

test("an amplifier of one's own is kept, corrected, saved as a file, taken off and read in again", async ({
  page,
}) => {
  await open(page, "Flat-friendly bass");
  await station(page, "drive");
  await page.getByRole("link", { name: "Amplifiers", exact: true }).click();
  await page.getByRole("button", { name: "New amplifier" }).click();
  await page.getByRole("textbox", { name: "Name", exact: true }).fill("Loft 90");
  await type(page, "/amplifier/power_w", "90");
  // a range that ends before it begins is refused at its field, and nothing typed is lost
  await page.getByLabel("What it can do").getByRole("button", { name: "state it" }).first().click();
  await type(page, "/amplifier/equaliser/from_hz", "90");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText(/^Not kept/)).toBeVisible();
  await expect(field(page, "/amplifier/equaliser/from_hz")).toHaveValue("90");
  await type(page, "/amplifier/equaliser/from_hz", "20");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  const row = page.getByTestId("amplifiers").getByRole("row").filter({ hasText: "Loft 90" });
  await expect(row).toBeVisible();

  await page.getByText("Files in and out").click();
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Save the shelf as JSON" }).click();
  const file = await (await waiting).path();
  await row.getByRole("button", { name: "Loft 90" }).click();
  await page.getByRole("button", { name: "Take off the shelf" }).click();
  await expect(row).toHaveCount(0);
  await page.getByText("Files in and out").click();
  await page.getByLabel("File of amplifiers").setInputFiles(file);
  await expect(page.getByText(/^1 put on the shelf, \d+ left out/)).toBeVisible();
  await expect(row).toBeVisible();
});
