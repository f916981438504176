import { readFileSync } from "node:fs";
import { expect, test, type Download, type Page } from "@playwright/test";
import { begin, saved, station } from "./bench";

/** What a press saves. */
async function file(
  page: Page,
  press: () => Promise<void>,
): Promise<{ name: string; path: string; bytes: Buffer }> {
  const [download]: [Download, void] = await Promise.all([page.waitForEvent("download"), press()]);
  const path = await download.path();
  return { name: download.suggestedFilename(), path, bytes: readFileSync(path) };
}

const out = async (page: Page) => {
  await station(page, "log");
  await page.getByRole("navigation", { name: /Views/ }).getByRole("link", { name: "Out" }).click();
};

test("a build leaves as one file and comes in again: as it is here, or as a copy", async ({ page }) => {
  const name = `Ulička ${Date.now()}`;
  await begin(page, name, /Kelda 10-8/, "a sealed box");
  await station(page, "log");
  await page.getByLabel("What happened").fill("Dno je pevné");
  await page.getByRole("button", { name: "Write it down" }).click();
  await expect(page.getByTestId("entry")).toContainText("Dno je pevné");
  await saved(page);
  await out(page);
  const packed = await file(page, () =>
    page.getByRole("button", { name: "Save the build as one file" }).click(),
  );
  expect(packed.name).toMatch(/\.oak\.zip$/);
  expect(packed.bytes.subarray(0, 2).toString()).toBe("PK");

  await page.getByRole("link", { name: "Oak Drum, to the workshop" }).click();
  await page.getByText("Files in and out").click();
  const bring = page.getByLabel("Bring a build in");
  await bring.setInputFiles({
    name: "holiday.zip",
    mimeType: "application/zip",
    buffer: Buffer.from("no zip at all"),
  });
  await expect(page.getByRole("alert")).toContainText(
    "holiday.zip: this is no file of a build or a workshop",
  );
  await bring.setInputFiles(packed.path);
  await expect(page.getByRole("status")).toContainText(`${name} is here already and was left as it is.`);
  await page.getByRole("button", { name: "Bring it in as a copy" }).click();
  await expect(page.getByRole("status")).toContainText(`${name} (copy) came in.`);
  await expect(page.getByRole("link", { name: `${name} (copy)` })).toBeVisible();
  await page.getByRole("link", { name: "Open it" }).click();
  await station(page, "log");
  await expect(page.getByTestId("entry")).toContainText("Dno je pevné");
});

test("the booklet is printed on the paper and in the units of the page", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Village hall pedal stop" }).click();
  await out(page);
  const print = page.getByRole("button", { name: "Print the booklet (PDF)" });
  const a4 = await file(page, () => print.click());
  expect(a4.name).toBe("village-hall-pedal-stop.pdf");
  expect(a4.bytes.subarray(0, 5).toString()).toBe("%PDF-");
  expect(a4.bytes.length).toBeGreaterThan(100_000);
  expect(a4.bytes.length).toBeLessThan(15_000_000);
  expect(a4.bytes.toString("latin1")).toMatch(/\/MediaBox ?\[0 0 595\.2/);
  await page.getByLabel("Letter").check();
  const letter = await file(page, () => print.click());
  expect(letter.bytes.toString("latin1")).toMatch(/\/MediaBox ?\[0 0 612 792\]/);
});
