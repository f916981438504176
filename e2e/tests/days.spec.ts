import { readFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { saved, station } from "./bench";

test("free times become days, a step that is done moves what follows, and the calendar is saved", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Puppet theatre van" }).click();
  await station(page, "cabinet");
  const view = (name: string) =>
    page.getByRole("navigation", { name: /Views/ }).getByRole("link", { name }).click();
  await view("Days");
  const days = page.getByRole("region", { name: "Days" });
  await expect(days).toContainText("When there is time is not stated");
  await expect(days).toContainText("whether glue and paint take there was not judged");
  await expect(page.getByTestId("days-done")).toHaveText("No calendar yet");
  await page.getByRole("button", { name: /^Add/ }).first().click();
  await expect(page.getByTestId("days-done")).toHaveText(/^Done on /);
  await expect(page.getByTestId("days")).toContainText("wood glue: go on from");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save as a calendar" }).click(),
  ]);
  const text = readFileSync(await download.path(), "utf8");
  expect(text).toContain("BEGIN:VCALENDAR");
  expect(text.match(/BEGIN:VEVENT/g)?.length).toBeGreaterThan(8);

  // the first step is done: the days begin with the next one
  await expect(page.getByTestId("days")).toContainText("Measure what you bought");
  await view("Build");
  await page.getByRole("checkbox", { name: /Measure what you bought/ }).check();
  await saved(page);
  await view("Days");
  await expect(page.getByTestId("days")).not.toContainText("Measure what you bought");
});
