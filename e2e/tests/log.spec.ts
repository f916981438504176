import { expect, test, type Page } from "@playwright/test";
import { begin, field, saved, station, type } from "./bench";

const entries = (page: Page) => page.getByTestId("entry");
const log = (page: Page) => page.getByRole("region", { name: "Log drawn" });

/** A picture of a camera's size, drawn by the page. */
async function picture(page: Page): Promise<Buffer> {
  const text = await page.evaluate(() => {
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [2400, 1200];
    const pen = canvas.getContext("2d");
    if (!pen) return "";
    pen.fillStyle = "#8a5a2a";
    pen.fillRect(0, 0, 2400, 1200);
    return canvas.toDataURL("image/jpeg").split(",")[1] ?? "";
  });
  return Buffer.from(text, "base64");
}

test("an entry with a photo is written without the server, over a reload, and sent once it answers", async ({
  page,
  context,
}) => {
  await begin(page, "Offline", /Kelda 10-8/, "a sealed box");
  await station(page, "log");
  await expect(log(page)).toContainText("A begun");
  const photo = await picture(page);
  // the way to the server breaks for what is written; the page itself still comes
  const away = ["**/api/photos", "**/api/builds/*/log/*"];
  for (const at of away) await context.route(at, (route) => route.abort());
  await page.getByLabel("What happened").fill("Glued the braces, two clamps each");
  await page.getByLabel("Choose photos").setInputFiles([
    { name: "braces.jpg", mimeType: "image/jpeg", buffer: photo },
    { name: "notes.txt", mimeType: "text/plain", buffer: Buffer.from("no photo") },
  ]);
  await expect(page.getByRole("alert")).toHaveText("notes.txt is no photo: JPEG, PNG or WebP is expected.");
  await page.getByRole("button", { name: "Write it down" }).click();
  await expect(entries(page)).toContainText("kept in this browser until the server answers");
  await expect(page.getByRole("link", { name: /^10 ?Log/ })).toContainText("1 to be sent");
  await page.reload();
  await expect(entries(page)).toContainText("Glued the braces, two clamps each");
  await expect(page.getByTestId("waiting")).toBeVisible();
  for (const at of away) await context.unroute(at);
  await expect(page.getByTestId("waiting")).toHaveCount(0);
  await expect(entries(page)).toHaveCount(1);
  await expect(page.getByRole("link", { name: /^10 ?Log/ })).toContainText("1 entry");
  // the photo as it is kept
  const shown = entries(page).getByRole("button", { name: "Photo 1, open large" });
  await expect(shown.locator("img")).toHaveJSProperty("naturalWidth", 400);
  await shown.click();
  await expect(page.getByRole("dialog").locator("img")).toHaveJSProperty("naturalWidth", 2000);
  await page.keyboard.press("Escape");

  // changed, taken out, brought back, found
  await entries(page).getByRole("button", { name: "change" }).click();
  await entries(page).getByLabel("What happened").fill("Glued the braces, three clamps each");
  await entries(page).getByRole("button", { name: "Keep" }).click();
  await expect(entries(page)).toContainText("three clamps");
  await expect(page.getByTestId("waiting")).toHaveCount(0);
  await entries(page).getByRole("button", { name: "take out" }).click();
  await page.getByRole("button", { name: "Bring it back" }).click();
  await expect(entries(page)).toHaveCount(1);
  await page.getByLabel("Search the log").fill("clamps THREE");
  await expect(entries(page)).toHaveCount(1);
  await page.getByLabel("Search the log").fill("router");
  await expect(log(page)).toContainText("Nothing of that was written.");
});

test("the log knows by itself what was changed, and which remedy was taken; one taken back is gone", async ({
  page,
}) => {
  await begin(page, "By itself", /Kelda 10 /);
  await type(page, "/enclosure/net_volume_l", "31");
  await expect(field(page, "/enclosure/net_volume_l")).toHaveValue(/31/);
  await type(page, "/drive/volts", "45 V");
  await saved(page);
  const findings = page.getByRole("complementary", { name: "Findings" });
  const loud = page.locator('[data-kind="port_air_fast"], [data-kind="excursion_over_limit"]').first();
  const remedy = loud.locator("button").nth(1);
  await expect(remedy).toBeVisible();
  const title = ((await remedy.innerText()).split("\n")[0] ?? "").trim();
  await remedy.click();
  await expect(findings.getByRole("status")).toContainText(title);
  await station(page, "log");
  await expect(log(page)).toContainText("net volume");
  await expect(entries(page)).toContainText("Remedy taken");
  await expect(entries(page)).toContainText(title);
  await page.reload();
  await expect(entries(page)).toHaveCount(1);
  await station(page, "box");
  await findings.locator("ol > li button").nth(1).click();
  await findings.getByRole("button", { name: "Take it back" }).click();
  await station(page, "log");
  await expect(entries(page)).toHaveCount(1);
});

test("the clock of a step runs on over a reload, and what was ticked stands in the log", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Reading room columns" }).click();
  await station(page, "cabinet");
  await page.getByRole("link", { name: "Build", exact: true }).click();
  const start = page.getByRole("button", { name: /^Start the clock of Cut \d+ pieces/ });
  await start.click();
  await expect(page.getByRole("button", { name: /^Stop the clock of Cut \d+ pieces/ })).toBeVisible();
  await page.reload();
  await page.getByRole("button", { name: /^Stop the clock of Cut \d+ pieces/ }).click();
  await expect(start).toBeVisible();
  const step = page.getByRole("checkbox", { name: /Put it together dry/ });
  const was = await step.isChecked();
  if (was) await step.uncheck();
  await step.check();
  await station(page, "log");
  await expect(log(page)).toContainText("done Put it together dry");
});

test("a phone writes with one hand: nothing scrolls sideways, keys are large", async ({ page }) => {
  await begin(page, "In the shop", /Kelda 10-8/, "a sealed box");
  await page.setViewportSize({ width: 390, height: 844 });
  await station(page, "log");
  await page.getByLabel("What happened").fill("Hole cut");
  const write = page.getByRole("button", { name: "Write it down" });
  const box = await write.boundingBox();
  expect(box?.height).toBeGreaterThanOrEqual(44);
  await write.click();
  await expect(entries(page)).toContainText("Hole cut");
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test("what was paid is kept line by line, and tells what the next one would cost", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Meadow stage" }).click();
  await station(page, "cabinet");
  await page.getByRole("link", { name: "Build", exact: true }).click();
  const glue = page.getByRole("button", { name: /^Paid for wood glue/ });
  await glue.click();
  await page.getByLabel("Paid altogether").fill("9.50");
  await page.getByLabel("Bought, g").fill("1000");
  await page.getByLabel("Left over, g").fill("500");
  await page.getByLabel("Shop", { exact: true }).fill("Corner shop");
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("paid-total")).toHaveText("9.50");
  await expect(page.getByTestId("spent")).toContainText("worth of what is left over4.75");
  await page.reload();
  await glue.click();
  await expect(page.getByLabel("Shop", { exact: true })).toHaveValue("Corner shop");
  await page.getByLabel("Paid altogether").fill("");
  await page.getByLabel("Bought, g").fill("");
  await page.getByLabel("Left over, g").fill("");
  await page.getByLabel("Shop", { exact: true }).fill("");
  await expect(page.getByTestId("spent")).toHaveCount(0);
});

test("a mistake in two presses: its cure is this cabinet's, is written down, and another part changes the plan", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Puppet theatre van" }).click();
  await station(page, "log");
  await page.getByRole("radio", { name: "Mistake" }).click();
  await page.getByRole("button", { name: "A hole came out wrong" }).click();
  const said = page.getByTestId("went-wrong");
  await expect(said).toContainText("came out 3.0 mm too small");
  await page.getByRole("textbox", { name: "By how much" }).fill("1/16 in");
  await page.getByRole("textbox", { name: "By how much" }).press("Enter");
  await expect(said).toContainText("came out 1.6 mm too small");
  const cures = page.getByRole("list", { name: "What to do now" });
  await expect(cures).toContainText("takes 0.79 mm all round");
  await cures.getByRole("button", { name: "Do this" }).click();
  await page.getByLabel("What happened").fill("Jig set from the wrong edge.");
  await page.getByRole("button", { name: "Write it down" }).click();
  await expect(entries(page).first()).toContainText("A ring and a flush bit: Cut a ring of scrap");
  await expect(entries(page).first()).toContainText("Jig set from the wrong edge.");

  await page.getByRole("radio", { name: "Mistake" }).click();
  await page.getByRole("button", { name: "A part is different" }).click();
  await page.getByLabel("Part", { exact: true }).first().selectOption({ label: "woofer, what it displaces" });
  await page.getByRole("textbox", { name: "It measures" }).fill("6");
  await page.getByRole("textbox", { name: "It measures" }).press("Enter");
  await expect(said).toContainText("measures 6.0 L");
  await cures.getByRole("button", { name: "Do this and change the plan" }).click();
  await page.getByRole("button", { name: "Write it down" }).click();
  await expect(page.getByRole("button", { name: "Take it back" })).toBeVisible();
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(page.getByRole("button", { name: "Take it back" })).toHaveCount(0);
  await expect(entries(page).first()).toContainText("measures 6.0 L");
});
