import { expect, test, type Page } from "@playwright/test";
import { writeFileSync } from "node:fs";
import { open } from "./bench";

/** Begins to take the time from each move of the pointer to the frame after a mark of this name. */
async function watch(page: Page, mark: string) {
  await page.evaluate((wanted) => {
    const w = window as unknown as { took: number[] };
    w.took = [];
    let begun = 0;
    addEventListener("pointermove", (e) => (begun = e.timeStamp), { capture: true });
    const mark = performance.mark.bind(performance);
    performance.mark = (name, options) => {
      const since = begun;
      begun = 0;
      // the frame that shows it has been handed over when the next one begins
      if (since && name === wanted) requestAnimationFrame(() => w.took.push(performance.now() - since));
      return mark(name, options);
    };
  }, mark);
}

async function tell(page: Page, what: string) {
  const took = (await page.evaluate(() => (window as unknown as { took: number[] }).took)).sort(
    (a, b) => a - b,
  );
  expect(took.length).toBeGreaterThan(50);
  const at = (share: number) => took[Math.floor(took.length * share)]!.toFixed(1);
  const text = `${what}, ms: median ${at(0.5)}, 95th percentile ${at(0.95)}, ${took.length} moves`;
  console.log(text);
  if (process.env.OAK_DRUM_SPEED) writeFileSync(process.env.OAK_DRUM_SPEED, `${text}\n`);
}

// From moving a slider to painted lanes, in a build of each kind. A benchmark, not a check: it prints its figures. Run by
// scripts/bench.
for (const [build, slider] of [
  ["Village hall pedal stop", "Tuning"],
  ["Attic cutting room", "Tuning"],
  ["Skate hall corner", "Tuning, front"],
  ["Reading room columns", "Tuning, λ/4"],
  ["Meadow stage", "Tuning, λ/4"],
] as const) {
  test(`slider to painted lanes, ${build}`, async ({ page }) => {
    await open(page, build);
    await page.waitForTimeout(1000);
    const flag = (await page.getByRole("slider", { name: slider, exact: true }).boundingBox())!;
    await watch(page, "oak-drum-lane-painted");
    await page.mouse.move(flag.x + 10, flag.y + 8);
    await page.mouse.down();
    for (let i = 0; i < 120; i++) {
      await page.mouse.move(flag.x + 10 + 40 * Math.sin(i / 9), flag.y + 8);
      await page.waitForTimeout(70);
    }
    await page.mouse.up();
    await tell(page, `slider to painted lanes, ${build}`);
  });
}

// From pulling at the area of a port to the painted trade-off and fit.
test("port pulled at to its painted trade-off", async ({ page }) => {
  await open(page, "Village hall pedal stop");
  await page.getByRole("link", { name: /Airway/ }).click();
  const plot = page.getByRole("slider", { name: "Area of the port, by its length" });
  await plot.waitFor();
  await page.waitForTimeout(1000);
  const box = (await plot.boundingBox())!;
  await watch(page, "oak-drum-airway-painted");
  await page.mouse.move(box.x + box.width / 2, box.y + 40);
  await page.mouse.down();
  for (let i = 0; i < 120; i++) {
    await page.mouse.move(box.x + box.width * (0.45 + 0.2 * Math.sin(i / 9)), box.y + 40);
    await page.waitForTimeout(70);
  }
  await page.mouse.up();
  await tell(page, "port pulled at to its painted trade-off");
});

// From dragging a woofer on its face to the painted faces, section and clearances.
test("woofer dragged on its face to the painted cabinet", async ({ page }) => {
  await open(page, "Village hall pedal stop");
  await page.getByRole("link", { name: /Cabinet/ }).click();
  const woofer = page.getByRole("slider", { name: "woofer on Baffle" });
  await woofer.waitFor();
  await page.waitForTimeout(1000);
  const box = (await woofer.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2 - 4];
  await watch(page, "oak-drum-cabinet-painted");
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 0; i < 120; i++) {
    await page.mouse.move(x + 8 * Math.sin(i / 9), y + 20 * Math.sin(i / 9));
    await page.waitForTimeout(70);
  }
  await page.mouse.up();
  await tell(page, "woofer dragged on its face to the painted cabinet");
});

// Scrolling and narrowing a shelf of 520: the time from frame to frame.
test("frames of a long shelf", async ({ page }) => {
  const rows = Array.from({ length: 500 }, (_, i) =>
    [`Speed ${i}`, "Nobody", 20 + (i % 40), 5, 0.4, 40 + i, 5.6, 200 + i, 9, 200].join(),
  );
  const header = "name,maker,fs_hz,qms,qes,vas_l,re_ohm,sd_cm2,xmax_mm,power_w";
  await page.request.post("/api/woofers/import?format=csv", { data: [header, ...rows, ""].join("\n") });
  await open(page, "Village hall pedal stop", "woofer");
  await page.getByRole("link", { name: "Shelf", exact: true }).click();
  await page.getByRole("table").waitFor();
  const measure = async (name: string, work: () => Promise<void>) => {
    await page.evaluate(() => {
      const w = window as unknown as { frames: number[]; going: boolean };
      w.frames = [];
      w.going = true;
      let last = performance.now();
      const step = () => {
        const now = performance.now();
        w.frames.push(now - last);
        last = now;
        if (w.going) requestAnimationFrame(step);
      };
      requestAnimationFrame(step);
    });
    await work();
    const frames = await page.evaluate(() => {
      const w = window as unknown as { frames: number[]; going: boolean };
      w.going = false;
      return w.frames.sort((a, b) => a - b);
    });
    const at = (share: number) => frames[Math.floor((frames.length - 1) * share)]!.toFixed(1);
    console.log(`${name}, ms a frame: median ${at(0.5)}, 95th percentile ${at(0.95)}, worst ${at(1)}`);
  };
  const list = page.getByLabel("Woofers", { exact: true });
  await list.hover();
  await measure("scrolling 520 woofers", async () => {
    for (let i = 0; i < 80; i++) {
      await page.mouse.wheel(0, i < 40 ? 300 : -300);
      await page.waitForTimeout(16);
    }
  });
  const search = page.getByLabel("Search the shelf");
  await measure("narrowing 520 woofers", async () => {
    for (let i = 0; i < 4; i++) {
      await search.pressSequentially("speed 12", { delay: 60 });
      await search.fill("");
    }
  });
});
