import { expect, test } from "@playwright/test";
import { open } from "./bench";

// Every view of the fullest build, in inches, whose figures are the longest, on five pages: nothing is cut off, lies over another thing or is
// too small to be read.

const BUILD = "Village hall pedal stop";

/** A page of 1280 x 800 enlarged twice is half as large in its own measure. */
const PAGES = [
  [1280, 800],
  [1440, 900],
  [1920, 1080],
  [640, 400],
  [390, 844],
] as const;

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

for (const half of [0, 1]) {
  test(`nothing is cut off or too small, ${half ? "second" : "first"} half of the views`, async ({
    page,
  }) => {
    test.setTimeout(600_000);
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.addInitScript(() => localStorage.setItem("oak-drum.settings", '{"system":"inch"}'));
    await open(page, BUILD);
    const stations = page.getByRole("navigation", { name: "Stations" }).getByRole("link");
    const paths = ["/", "/terms"];
    for (const path of await stations.evaluateAll((all) =>
      all.map((a) => (a as HTMLAnchorElement).pathname),
    )) {
      await page.goto(path);
      await expect(page.getByRole("main")).toBeVisible();
      const tabs = page.getByRole("navigation", { name: /^Views of/ }).getByRole("link");
      const views = await tabs.evaluateAll((all) => all.map((a) => (a as HTMLAnchorElement).pathname));
      paths.push(path, ...views.filter((view) => view !== path));
    }
    expect(paths.length).toBeGreaterThan(35);
    for (const path of paths.filter((_, i) => i % 2 === half)) {
      await page.setViewportSize({ width: 1280, height: 800 });
      await page.goto(path);
      await expect(page.getByRole("main")).toBeVisible();
      await page.waitForLoadState("networkidle");
      for (const [width, height] of PAGES) {
        await page.setViewportSize({ width, height });
        await page.waitForTimeout(250);
        expect.soft(await page.evaluate(faults), `${path} at ${width} x ${height}`).toEqual([]);
      }
    }
  });
}
