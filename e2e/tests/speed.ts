import { expect, test } from "@playwright/test";
import { writeFileSync } from "node:fs";
import { open } from "./bench";

// From moving a slider to painted lanes. A benchmark, not a check: it prints its figures. Run by scripts/bench.
test("slider to painted lanes", async ({ page }) => {
  await open(page, "Village hall pedal stop");
  await page.waitForTimeout(1000);
  const flag = (await page.getByRole("slider", { name: "Tuning" }).boundingBox())!;
  await page.evaluate(() => {
    const w = window as unknown as { took: number[] };
    w.took = [];
    let begun = 0;
    addEventListener("pointermove", (e) => (begun = e.timeStamp), { capture: true });
    const mark = performance.mark.bind(performance);
    performance.mark = (name, options) => {
      const since = begun;
      begun = 0;
      // the frame that shows the new lanes has been handed over when the next one begins
      if (since && name === "oak-drum-lane-painted")
        requestAnimationFrame(() => w.took.push(performance.now() - since));
      return mark(name, options);
    };
  });
  await page.mouse.move(flag.x + 10, flag.y + 8);
  await page.mouse.down();
  for (let i = 0; i < 200; i++) {
    await page.mouse.move(flag.x + 10 + 40 * Math.sin(i / 9), flag.y + 8);
    await page.waitForTimeout(70);
  }
  await page.mouse.up();
  const took = (await page.evaluate(() => (window as unknown as { took: number[] }).took)).sort(
    (a, b) => a - b,
  );
  expect(took.length).toBeGreaterThan(100);
  const at = (share: number) => took[Math.floor(took.length * share)]!.toFixed(1);
  const text = `slider to painted lanes, ms: median ${at(0.5)}, 95th percentile ${at(0.95)}, ${took.length} moves`;
  console.log(text);
  if (process.env.OAK_DRUM_SPEED) writeFileSync(process.env.OAK_DRUM_SPEED, `${text}\n`);
});
