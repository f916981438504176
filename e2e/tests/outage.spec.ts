import { expect, test } from "@playwright/test";
import { existsSync, rmSync, writeFileSync } from "node:fs";
import { begin, field, saved, type } from "./bench";

// The cargo test that runs this kills and restarts the server when it finds these files.
const folder = process.env.OAK_DRUM_SIGNALS ?? "/nonexistent";

async function ask(word: string) {
  writeFileSync(`${folder}/${word}`, "");
  await expect.poll(() => existsSync(`${folder}/${word}.done`), { timeout: 30_000 }).toBe(true);
  rmSync(`${folder}/${word}.done`);
}

test("the server is killed and started again: nothing is lost, and what was typed meanwhile is saved", async ({
  page,
}) => {
  await begin(page, "Storm", /Heron 15 /);
  await type(page, "/enclosure/net_volume_l", "123");
  await saved(page);
  await ask("kill");
  await type(page, "/enclosure/net_volume_l", "135");
  await expect(page.getByTestId("save-state")).toHaveText(/Not saved yet: no server/);
  await ask("start");
  await saved(page);
  await page.reload();
  await expect(field(page, "/enclosure/net_volume_l")).toHaveValue("135");
});

test("a tab closed while the server is away keeps its edits in the browser", async ({ context, page }) => {
  await begin(page, "Lamp out", /Heron 15 /);
  await saved(page);
  const url = page.url();
  await ask("kill");
  await type(page, "/enclosure/net_volume_l", "144");
  await expect(page.getByTestId("save-state")).toHaveText(/Not saved yet/);
  await page.close();
  await ask("start");
  const again = await context.newPage();
  await again.goto(url);
  await expect(field(again, "/enclosure/net_volume_l")).toHaveValue("144");
  await saved(again);
});
