import { expect, test, type Page } from "@playwright/test";
import { violations } from "./axe";
import { open } from "./bench";

// Every station and view of the fullest build, the workshop and the page of terms, in inches, whose figures are the longest, on five pages:
// nothing is cut off, lies over another thing or is too small to be read. At a desk and on a phone axe finds no violation of any rule.

const BUILD = "Village hall pedal stop";

/** A page of 1280 x 800 enlarged twice is half as large in its own measure. */
const PAGES = [
  { width: 1280, height: 800, axe: true },
  { width: 1440, height: 900, axe: false },
  { width: 1920, height: 1080, axe: false },
  { width: 640, height: 400, axe: false },
  { width: 390, height: 844, axe: true },
];

/** Addresses of all views, as the rail and the tabs lead to them. */
async function views(page: Page): Promise<string[]> {
  await open(page, BUILD);
  const stations = page.getByRole("navigation", { name: "Stations" }).getByRole("link");
  await expect(stations).toHaveCount(11);
  const paths = ["/", "/terms"];
  for (const path of await stations.evaluateAll((all) => all.map((a) => (a as HTMLAnchorElement).pathname))) {
    await page.goto(path);
    await expect(page.getByRole("main")).toBeVisible();
    const tabs = page.getByRole("navigation", { name: /^Views of/ }).getByRole("link");
    const own = await tabs.evaluateAll((all) => all.map((a) => (a as HTMLAnchorElement).pathname));
    paths.push(path, ...own.filter((view) => view !== path));
  }
  return paths;
}

/** What is wrong with the page as it stands. */
function faults(): string[] {
  const found: string[] = [];
  const wide = document.documentElement.clientWidth;
  if (document.documentElement.scrollWidth > wide + 1) found.push("the page is moved sideways");
  const shown = (e: Element) => {
    const box = e.getBoundingClientRect();
    const seen = e.checkVisibility({ visibilityProperty: true, opacityProperty: true });
    return seen && box.width > 2 && box.height > 2 && !e.closest(".sr-only");
  };
  const words = (e: Element) => (e.textContent ?? "").trim().slice(0, 60);
  for (const e of Array.from(document.querySelectorAll("body *"))) {
    if (!(e instanceof HTMLElement) || !shown(e)) continue;
    const { overflowX } = getComputedStyle(e);
    const own = Array.from(e.childNodes).some((n) => n.nodeType === Node.TEXT_NODE && n.textContent?.trim());
    // what is shortened tells the whole where it is pointed at
    const told = e.closest("[title]");
    if (own && !told && ["hidden", "clip"].includes(overflowX) && e.scrollWidth > e.clientWidth + 1)
      found.push(`cut off: ${words(e)}`);
    if (e instanceof HTMLInputElement && e.type !== "file" && !told && e.scrollWidth > e.clientWidth + 2)
      found.push(`cut off in its field: ${e.value}`);
    if (own && !e.children.length && e.getBoundingClientRect().right > wide + 1) {
      let within: Element | null = e.parentElement;
      while (within && getComputedStyle(within).overflowX === "visible") within = within.parentElement;
      const moved = within && ["auto", "scroll"].includes(getComputedStyle(within).overflowX);
      if (!moved && !told) found.push(`off the page: ${words(e)}`);
    }
  }
  for (const svg of Array.from(document.querySelectorAll("svg"))) {
    if (!shown(svg)) continue;
    const edge = svg.getBoundingClientRect();
    const texts = Array.from(svg.querySelectorAll("text")).filter(
      (t) => words(t) && t.getBoundingClientRect().width > 1,
    );
    const boxes = texts.map((t) => t.getBoundingClientRect());
    boxes.forEach((box, i) => {
      const name = texts[i] ? words(texts[i]) : "";
      const cut = getComputedStyle(svg).overflow !== "visible";
      if (cut && (box.left < edge.left - 2 || box.right > edge.right + 2 || box.bottom > edge.bottom + 3))
        found.push(`out of its drawing: ${name}`);
      if (box.height < 8) found.push(`too small: ${name}, ${box.height.toFixed(1)} px`);
      boxes.slice(i + 1).forEach((other, k) => {
        const across = Math.min(box.right, other.right) - Math.max(box.left, other.left);
        const up = Math.min(box.bottom, other.bottom) - Math.max(box.top, other.top);
        const second = texts[i + 1 + k];
        if (across > 3 && up > 4 && second) found.push(`over each other: ${name} / ${words(second)}`);
      });
    });
  }
  return [...new Set(found)];
}

// four of them, so that two stand side by side to the end
for (const part of [0, 1, 2, 3]) {
  test(`every view reads well and axe finds nothing, part ${part + 1} of 4`, async ({ page }) => {
    test.setTimeout(600_000);
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.addInitScript(() => localStorage.setItem("oak-drum.settings", '{"system":"inch"}'));
    const paths = await views(page);
    expect(paths.length).toBeGreaterThan(35);
    for (const path of paths.filter((_, i) => i % 4 === part)) {
      await page.setViewportSize({ width: 1280, height: 800 });
      await page.goto(path);
      await expect(page.getByRole("main")).toBeVisible();
      await page.waitForLoadState("networkidle");
      for (const { width, height, axe } of PAGES) {
        await page.setViewportSize({ width, height });
        await page.waitForTimeout(250);
        const where = `${path} at ${width} x ${height}`;
        expect.soft(await page.evaluate(faults), where).toEqual([]);
        if (axe) expect.soft(await violations(page), where).toEqual([]);
      }
    }
  });
}
