import { expect, test, type Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import { openCopy, saved } from "./bench";

// Ten things a newcomer does, by what stands on the page, each press, choice and typed word counted. How many each takes stands in
// docs/ease.md; more than that is a step back.

/** A hand that sees words and no names of code. */
class Hand {
  actions = 0;
  constructor(readonly page: Page) {}
  private async done(what: Promise<unknown>) {
    this.actions++;
    await what;
  }
  press = (role: "button" | "radio" | "link" | "option", name: string | RegExp) =>
    this.done(this.page.getByRole(role, { name }).first().click());
  words = (text: string | RegExp) => this.done(this.page.getByText(text).first().click());
  type = (text: string) => this.done(this.page.keyboard.type(text));
  key = (key: string) => this.done(this.page.keyboard.press(key));
  async choose(label: string, option: RegExp) {
    const value = await this.page.getByRole("option", { name: option }).first().getAttribute("value");
    await this.done(this.page.getByLabel(label).first().selectOption(value));
  }
}

/** What docs/ease.md says each task takes now. */
const BARS = new Map(
  readFileSync("../docs/ease.md", "utf8")
    .split("\n")
    .map((line) => line.split("|").map((cell) => cell.trim()))
    .filter((cells) => /^\d+$/.test(cells[1] ?? ""))
    .map((cells): [string, number] => [cells[2] ?? "", Number(cells[4])]),
);

function task(name: string, before: (page: Page) => Promise<void>, does: (hand: Hand) => Promise<void>) {
  test(name, async ({ page }) => {
    const bar = BARS.get(name);
    expect(bar, `docs/ease.md has no task "${name}"`).toBeDefined();
    await before(page);
    const hand = new Hand(page);
    const began = Date.now();
    await does(hand);
    test
      .info()
      .annotations.push({ type: "took", description: `${hand.actions} actions, ${Date.now() - began} ms` });
    expect(hand.actions).toBeLessThanOrEqual(bar ?? 0);
  });
}

const home = async (page: Page) => {
  await page.goto("/");
};
const opened =
  (name: string, station = "box") =>
  async (page: Page) => {
    await home(page);
    await page.getByRole("link", { name }).first().click();
    if (station !== "box")
      await page.getByRole("link", { name: new RegExp(`^\\d+ ?${station}`, "i") }).click();
    await expect(page.getByRole("complementary", { name: "Findings" })).toContainText(/./);
  };
const ofItsOwn =
  (name: string, station = "box") =>
  (page: Page) =>
    openCopy(page, name, `Ease ${test.info().testId}`, station);
const findings = (page: Page) => page.getByRole("complementary", { name: "Findings" });

task("three boxes with a cabinet each, from opening the page", home, async (hand) => {
  await hand.press("button", "Start your own");
  await hand.press("radio", "Music at home");
  await hand.choose("Woofer", /^Marl 12-S/);
  await hand.press("button", "Begin with three boxes");
  await expect(hand.page.getByRole("button", { name: "Lay B under" })).toBeVisible({ timeout: 30_000 });
});

task(
  "a printed plan, from there",
  async (page) => {
    await home(page);
    await page.getByRole("button", { name: "Start your own" }).click();
    await page.getByRole("button", { name: "Begin with three boxes" }).click();
    await expect(page.getByRole("button", { name: "Lay B under" })).toBeVisible({ timeout: 60_000 });
  },
  async (hand) => {
    const file = hand.page.waitForEvent("download", { timeout: 60_000 });
    await hand.press("link", /^\d+ ?Cabinet/);
    await hand.press("link", "Drawings");
    await hand.press("button", "Print the whole plan (PDF)");
    expect((await file).suggestedFilename()).toMatch(/\.pdf$/);
  },
);

task(
  "a port made to fit",
  async (page) => {
    await ofItsOwn("Village hall pedal stop")(page);
    const length = page.getByRole("textbox", { name: "Inside diameter" });
    await length.fill("200");
    await length.press("Enter");
    await expect(findings(page)).toContainText(/will not fit|no room|too long/i);
  },
  async (hand) => {
    const item = findings(hand.page)
      .getByRole("listitem")
      .filter({ hasText: /will not fit|no room|too long/i })
      .first();
    hand.actions++;
    await item.getByRole("button").nth(1).click();
    await expect(findings(hand.page)).not.toContainText(/will not fit|no room|too long/i);
  },
);

task("millimetres to inches, everywhere", opened("Attic cutting room", "cabinet"), async (hand) => {
  await hand.press("button", "mm | inch");
  await expect(hand.page.getByRole("link", { name: /^\d+ ?Cabinet/ })).toContainText("in");
  await hand.page.getByRole("link", { name: /^\d+ ?Box/ }).click();
  await expect(hand.page.getByRole("link", { name: /^\d+ ?Box/ })).toContainText("ft³");
});

task("what a word means", opened("Attic cutting room"), async (hand) => {
  await hand.press("button", "Find");
  await hand.type("chuffing");
  await hand.key("Enter");
  await expect(hand.page.getByText("heard as wind").first()).toBeVisible();
});

task("another idea tried beside the first", ofItsOwn("Attic cutting room"), async (hand) => {
  await hand.press("button", "Copy");
  await expect(hand.page.getByRole("button", { name: "Lay A under" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
});

task("a remedy taken and taken back", ofItsOwn("Village hall pedal stop"), async (hand) => {
  await hand.press("button", /^Flare both ends/);
  await hand.press("button", "Take it back");
  await expect(hand.page.getByRole("button", { name: /^Flare both ends/ }).first()).toBeVisible();
});

task("another woofer in the box", ofItsOwn("Attic cutting room"), async (hand) => {
  await hand.press("link", /^\d+ ?Woofer/);
  await hand.press("link", "Shelf");
  await hand.press("button", "Take Heron 15");
  await saved(hand.page);
  await expect(hand.page.getByRole("link", { name: /^\d+ ?Woofer/ })).toContainText("Heron 15");
});

task("the curves as a table", opened("Attic cutting room"), async (hand) => {
  const file = hand.page.waitForEvent("download");
  await hand.press("button", "Save CSV");
  expect((await file).suggestedFilename()).toMatch(/\.csv$/);
});

task("a first task of the tour begun", home, async (hand) => {
  await hand.words(/^Five things to try/);
  await hand.press("button", "Try it: Make it chuff, then cure it");
  await expect(hand.page.getByRole("region", { name: "Task" })).toContainText("1 of 2");
});
