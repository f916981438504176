import { test } from "@playwright/test";
import { open } from "./bench";

// The pictures in docs/screenshots/, from the demo data. Run by scripts/pictures.
const folder = process.env.OAK_DRUM_PICTURES ?? "/tmp";

for (const theme of ["light", "dark"] as const) {
  test.describe(theme, () => {
    test.use({ colorScheme: theme });
    test("main views", async ({ page }) => {
      const shot = (name: string) => page.screenshot({ path: `${folder}/${name}-${theme}.png` });
      await page.goto("/");
      await page.getByRole("link", { name: "Village hall pedal stop" }).waitFor();
      if (theme === "light") await shot("workshop");
      await open(page, "Village hall pedal stop");
      await page.getByRole("button", { name: "Lay B under" }).click();
      const lane = (await page.locator('[data-lane="level"] canvas').boundingBox())!;
      await page.mouse.move(lane.x + lane.width * 0.3, lane.y + 60);
      await page.waitForTimeout(500);
      await shot("box");
      if (theme === "dark") return;
      await page.keyboard.press("2");
      await page.waitForTimeout(400);
      await shot("woofer");
      await page.getByRole("link", { name: "Shelf", exact: true }).click();
      await page.getByRole("button", { name: /^Marl 12-D/ }).waitFor();
      await shot("shelf");
      await page.getByRole("button", { name: /^Marl 12-D/ }).click();
      await page.getByTestId("log").getByText("+19 %").waitFor();
      await shot("sheet");
      await page.getByRole("button", { name: "Back to the shelf" }).click();
      for (const name of ["Kelda 10-8", "Marl 12-D", "Heron 15 Deep"])
        await page.getByLabel(`Pick ${name}`, { exact: true }).check();
      await page.getByRole("button", { name: "Lay side by side" }).click();
      await page.locator('[data-lane="level"] canvas').waitFor();
      await page.waitForTimeout(500);
      await shot("side-by-side");
      await page.getByRole("link", { name: "Try the shelf" }).click();
      await page.getByRole("button", { name: /^Try \d/ }).click();
      await page.getByText("woofers tried").waitFor();
      await page.waitForTimeout(500);
      await shot("try");
      await page.getByRole("link", { name: "In the box" }).click();
      await page.keyboard.press("1");
      await page.waitForTimeout(400);
      await shot("brief");
      await open(page, "Whale-song room");
      await page.waitForTimeout(500);
      await shot("slot-port");
      await open(page, "Reading room columns");
      await page.getByRole("button", { name: "Air in motion" }).click();
      await page.getByTestId("motion").waitFor();
      await page.waitForTimeout(900);
      await shot("line");
      await page.getByRole("link", { name: "Schools", exact: true }).click();
      await page.locator('[data-school="front_horn_quarter"]').getByText(/\d Hz/).first().waitFor();
      await page.waitForTimeout(600);
      await shot("schools");
      await page.getByRole("link", { name: "Seek", exact: true }).click();
      await page.getByRole("button", { name: "Seek", exact: true }).click();
      await page.getByTestId("sought").waitFor();
      await page.waitForTimeout(300);
      await shot("seek");
      await open(page, "Skate hall corner");
      await page.getByRole("link", { name: "Compare", exact: true }).click();
      await page.getByTestId("band").waitFor();
      await page.waitForTimeout(400);
      await shot("compare");
      await open(page, "Whale-song room");
      await page.setViewportSize({ width: 390, height: 844 });
      await page.waitForTimeout(500);
      await shot("phone");
    });
  });
}
