import { expect, test, type CDPSession, type Locator, type Page } from "@playwright/test";
import { field, open, openCopy, station } from "./bench";

// A phone held in the shop: a finger that pulls, a finger that rests, findings in a drawer.

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

/** A finger, through the browser's own input. */
class Finger {
  private constructor(
    private readonly page: Page,
    private readonly session: CDPSession,
  ) {}
  static async of(page: Page) {
    return new Finger(page, await page.context().newCDPSession(page));
  }
  private touch = (type: "touchStart" | "touchMove" | "touchEnd", at?: { x: number; y: number }) =>
    this.session.send("Input.dispatchTouchEvent", { type, touchPoints: at ? [at] : [] });
  /** Where it stands once the page has come to rest; the drawer lies over the foot of the page. */
  async on(what: Locator) {
    let before = "";
    for (;;) {
      await what.evaluate((e) => e.scrollIntoView({ block: "center" }));
      const box = await what.boundingBox();
      if (!box) throw new Error("nothing to touch");
      const now = JSON.stringify(box);
      if (now === before) return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
      before = now;
      await this.page.waitForTimeout(150);
    }
  }
  /** Pulls by so much and calls back before it lets go. */
  async pull(what: Locator, dx: number, dy: number, held: () => Promise<void>) {
    const { x, y } = await this.on(what);
    await this.touch("touchStart", { x, y });
    for (let i = 1; i <= 8; i++) {
      await this.touch("touchMove", { x: x + (dx * i) / 8, y: y + (dy * i) / 8 });
      await this.page.waitForTimeout(20);
    }
    await held();
    await this.touch("touchEnd");
  }
  async rest(what: Locator, ms: number) {
    await this.touch("touchStart", await this.on(what));
    await this.page.waitForTimeout(ms);
    await this.touch("touchEnd");
  }
}

const lens = (page: Page) => page.locator("[data-lens]");

test("a finger pulls the tuning, with a lens beside it that says where it is", async ({ page }) => {
  await openCopy(page, "Village hall pedal stop", `Finger: ${test.info().title.slice(0, 60)}`);
  const finger = await Finger.of(page);
  const flag = page.getByRole("slider", { name: "Tuning" });
  const before = Number(await field(page, "/enclosure/port/sizing/tuning_hz").inputValue());
  await finger.pull(flag, 40, 0, async () => {
    await expect(lens(page)).toContainText("Hz");
    await expect(lens(page)).toHaveText((await flag.getAttribute("aria-valuetext")) ?? "");
  });
  await expect(lens(page)).toHaveCount(0);
  await expect
    .poll(async () => Number(await field(page, "/enclosure/port/sizing/tuning_hz").inputValue()))
    .toBeGreaterThan(before + 1);
});

test("a finger moves a woofer on its face, a peg and a back wall; the lens shows what it covers", async ({
  page,
}) => {
  await openCopy(page, "Village hall pedal stop", "Finger: faces", "cabinet");
  const finger = await Finger.of(page);
  const woofer = page.getByRole("slider", { name: /^woofer on/ }).first();
  const stood = await woofer.getAttribute("aria-valuetext");
  await finger.pull(woofer, 0, -14, async () => {
    // the piece of the drawing under the finger, twice as large
    await expect(lens(page).locator("svg use")).toHaveAttribute("href", /^#/);
  });
  await expect(woofer).not.toHaveAttribute("aria-valuetext", stood ?? "");

  await station(page, "drive");
  const peg = page.getByRole("slider", { name: /band|boost|shelf|dip/i }).first();
  const told = await peg.getAttribute("aria-valuetext");
  await finger.pull(peg, 0, -30, async () => {
    await expect(lens(page)).toBeVisible();
  });
  await expect(peg).not.toHaveAttribute("aria-valuetext", told ?? "");

  await station(page, "box");
  const wall = page.getByRole("slider", { name: "Net volume" });
  const air = await wall.getAttribute("aria-valuetext");
  await finger.pull(wall, 16, 0, async () => {
    await expect(lens(page)).toContainText("L");
  });
  await expect(wall).not.toHaveAttribute("aria-valuetext", air ?? "");
});

test("a finger that rests is told what a word means", async ({ page }) => {
  await openCopy(page, "Village hall pedal stop", `Finger: ${test.info().title.slice(0, 60)}`);
  const finger = await Finger.of(page);
  await finger.rest(page.getByText("Tuned to", { exact: true }).first(), 700);
  await expect(page.getByText(/swings against the air in the box/).first()).toBeVisible();
  // the next touch elsewhere closes it
  await page.getByRole("link", { name: /^\d+ ?Box/i }).tap();
  await expect(page.getByText(/swings against the air in the box/)).toHaveCount(0);
});

test("findings are a drawer that says how many it holds; a finding leads to its field and closes it", async ({
  page,
}) => {
  await open(page, "Village hall pedal stop");
  const column = page.getByRole("complementary", { name: "Findings" });
  const handle = column.getByRole("button", { name: /^Findings \d+/ });
  await expect(handle).toContainText("to look at");
  await expect(column.getByRole("listitem").first()).toBeHidden();
  // it lies at the foot of the page, wherever one has scrolled to
  await page.mouse.wheel(0, 2000);
  await expect(handle).toBeInViewport();
  await handle.tap();
  const first = column.getByRole("listitem").first();
  await expect(first).toBeInViewport();
  await first.getByRole("button").first().tap();
  await expect(first).toBeHidden();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
