import { expect, test, type CDPSession, type Page } from "@playwright/test";
import { appendFileSync, readFileSync } from "node:fs";
import { field, open } from "./bench";

// What a hand does: a pointer that moves 60 or 125 times a second and waits for nobody, through the browser's own input. Told of
// each drag: how many of the moves were painted, the time from a move to its paint, the longest time without a paint, and what
// else the machine was doing. A benchmark, not a check: it prints its figures. Run by scripts/bench.

type Paint = { what: string; move: number; at: number };
type Watched = { moves: number[]; paints: Paint[] };

/** Begins to note each move of the pointer that changed something, and each paint of what came of it. */
async function watch(page: Page) {
  await page.addInitScript(() => {
    const seen: Watched = { moves: [], paints: [] };
    (window as unknown as { seen: Watched }).seen = seen;
    let hand = 0;
    for (const kind of ["pointerrawupdate", "pointermove", "pointerdown", "keydown"])
      addEventListener(kind, (e) => (hand = e.timeStamp), { capture: true });
    // a frame is handed over when the work that begins with it is done
    let inFrame = false;
    const frame = window.requestAnimationFrame.bind(window);
    window.requestAnimationFrame = (work) =>
      frame((time) => {
        inFrame = true;
        try {
          work(time);
        } finally {
          // what the work asked for at its end still belongs to the frame
          queueMicrotask(() => (inFrame = false));
        }
      });
    addEventListener("oak-drum-traced", (e) => {
      const { what, move } = (e as CustomEvent<{ what: string; move: number }>).detail;
      if (what === "moved") {
        seen.moves[move] = hand;
        return;
      }
      const shown = () => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => seen.paints.push({ what, move, at: performance.now() });
        port2.postMessage(null);
      };
      if (inFrame) shown();
      else frame(shown);
    });
  });
}

/** Busy time of all cores, of the whole machine, and what the host kept for others so far, in ticks. */
function ticks(): [number, number, number] {
  const fields = readFileSync("/proc/stat", "utf8").split("\n")[0]!.trim().split(/\s+/).slice(1).map(Number);
  const all = fields.reduce((a, b) => a + b, 0);
  return [all - fields[3]! - fields[4]!, all, fields[7] ?? 0];
}

/** How busy others keep the machine, in per cent of all cores, over a moment in which nobody moves anything here. */
async function others(page: Page): Promise<number> {
  const [busy, all] = ticks();
  await page.waitForTimeout(1500);
  const [busyThen, allThen] = ticks();
  return (100 * (busyThen - busy)) / (allThen - all);
}

/** Three seconds of what a hand does, so many times a second. */
type Hand = (session: CDPSession, rate: number) => Promise<void>;
type Way = { from: [number, number]; to: (t: number) => [number, number] };

/** Sends so many a second for three seconds, without waiting for the page. */
async function steadily(rate: number, send: (i: number) => Promise<unknown>) {
  const sent: Promise<unknown>[] = [];
  const begun = performance.now();
  for (let i = 1; i <= 3 * rate; i++) {
    const wait = begun + (i * 1000) / rate - performance.now();
    if (wait > 0) await new Promise((done) => setTimeout(done, wait));
    sent.push(send(i).catch(() => undefined));
  }
  await Promise.all(sent);
}

/** A key held down in the field that has the focus: up for a second, down for a second, up. */
const held: Hand = (session, rate) =>
  steadily(rate, (i) => {
    const key = Math.floor(i / rate) === 1 ? "ArrowDown" : "ArrowUp";
    const windowsVirtualKeyCode = key === "ArrowUp" ? 38 : 40;
    const event = { key, code: key, windowsVirtualKeyCode, autoRepeat: i > 1 };
    return session.send("Input.dispatchKeyEvent", { type: "rawKeyDown", ...event });
  });

/** A drag. */
const drag =
  ({ from, to }: Way): Hand =>
  async (session, rate) => {
    // a move with a button down carries the button, else the browser lets go of what is held
    const send = (type: "mouseMoved" | "mousePressed" | "mouseReleased", [x, y]: [number, number]) =>
      session.send("Input.dispatchMouseEvent", {
        type,
        x,
        y,
        button: "left",
        buttons: type === "mouseReleased" ? 0 : 1,
        clickCount: type === "mouseMoved" ? 0 : 1,
        pointerType: "mouse",
      });
    await session.send("Input.dispatchMouseEvent", { type: "mouseMoved", x: from[0], y: from[1] });
    await send("mousePressed", from);
    await steadily(rate, (i) => send("mouseMoved", to(i / rate)));
    await send("mouseReleased", to(3));
  };

/** Moves at each rate and tells what was painted of it; what is watched goes by the name it is traced under. */
async function measure(page: Page, name: string, what: string, hand: Hand, rates = [60, 125]) {
  const session = await page.context().newCDPSession(page);
  for (const rate of rates) {
    let load = await others(page);
    for (let i = 0; i < 8 && load > 12; i++) load = await others(page);
    await page.evaluate(() => {
      const seen = (window as unknown as { seen: Watched }).seen;
      seen.moves = [];
      seen.paints = [];
    });
    const [, allBefore, stolenBefore] = ticks();
    await hand(session, rate);
    const [, all, stolen] = ticks();
    await page.waitForTimeout(400);
    const { moves, paints } = await page.evaluate(() => (window as unknown as { seen: Watched }).seen);
    const first = new Map<number, number>();
    for (const paint of paints)
      if (paint.what === what && moves[paint.move] && !first.has(paint.move)) first.set(paint.move, paint.at);
    const made = moves.filter((at) => at !== null && at !== undefined);
    const took = [...first].map(([move, at]) => at - moves[move]!).sort((a, b) => a - b);
    expect(took.length, name).toBeGreaterThan(10);
    const painted = [...first.values()].sort((a, b) => a - b);
    const gaps = painted.map((at, i) => at - (i ? painted[i - 1]! : Math.min(...made)));
    const part = (share: number) => took[Math.floor((took.length - 1) * share)]!.toFixed(1);
    const text =
      `${name}, ${rate} moves a second: ${made.length} moves, ${((100 * took.length) / made.length).toFixed(0)} % painted, ` +
      `median ${part(0.5)} ms, 95th percentile ${part(0.95)} ms, longest gap ${Math.max(...gaps).toFixed(0)} ms, ` +
      `others kept the machine ${load.toFixed(0)} % busy before, its host took ${((100 * (stolen - stolenBefore)) / (all - allBefore)).toFixed(0)} % meanwhile`;
    console.log(text);
    if (process.env.OAK_DRUM_SPEED) appendFileSync(process.env.OAK_DRUM_SPEED, `${text}\n`);
  }
}

const middle = (box: { x: number; y: number; width: number; height: number }): [number, number] => [
  box.x + box.width / 2,
  box.y + box.height / 2,
];

/** Back and forth around where it was, once a second. */
const swing = ([x, y]: [number, number], across: number, up = 0) =>
  drag({
    from: [x, y],
    to: (t) => [x + across * Math.sin(2 * Math.PI * t), y + up * Math.sin(2 * Math.PI * t)],
  });

/** Opens a build of a family that no demo build has, from the first starting point of the village hall's woofer. */
async function start(page: Page, family: string) {
  const json = async (url: string, data?: object) =>
    (await (data ? page.request.post(url, { data }) : page.request.get(url))).json() as Promise<never>;
  const builds: { id: string; name: string }[] = await json("/api/builds");
  const hall = builds.find((b) => b.name === "Village hall pedal stop")!;
  const { revisions }: { revisions: { document: Record<string, unknown> }[] } = await json(
    `/api/builds/${hall.id}`,
  );
  const { format, version, woofer } = revisions[0]!.document;
  const plain = {
    format,
    version,
    woofer,
    name: "A start",
    enclosure: { family: "sealed", net_volume_l: 50 },
  };
  const { suggestions }: { suggestions: { enclosure?: { family: string } }[] } = await json(
    "/api/suggest",
    plain,
  );
  const { enclosure } = suggestions.find((s) => s.enclosure?.family === family)!;
  const name = `${family} ${Date.now()}`;
  await page.request.post("/api/builds", { data: { name, document: { ...plain, enclosure } } });
  await open(page, name);
  await page.waitForTimeout(1000);
}

const DEMO: [string, string, string?][] = [
  ["Village hall pedal stop", "Tuning"],
  ["Whale-song room", "Tuning"],
  ["Attic cutting room", "Tuning"],
  ["Attic cutting room", "Tuning", "B"],
  ["Skate hall corner", "Tuning, front"],
  ["Skate hall corner", "Tuning, front", "B"],
  ["Reading room columns", "Tuning, λ/4"],
  ["Reading room columns", "Tuning", "C"],
  ["Meadow stage", "Tuning, λ/4"],
  ["Meadow stage", "Tuning, λ/4", "B"],
];

test.describe("a hand that moves", () => {
  test.setTimeout(180_000);
  test.beforeEach(({ page }) => watch(page));

  for (const [build, slider, revision] of DEMO)
    test(`tuning, ${build} ${revision ?? "A"}`, async ({ page }) => {
      await open(page, build);
      if (revision)
        await page
          .getByRole("button", { name: new RegExp(`^${revision} `) })
          .first()
          .click();
      await page.waitForTimeout(1000);
      const flag = (await page.getByRole("slider", { name: slider, exact: true }).boundingBox())!;
      await measure(
        page,
        `tuning, ${build} ${revision ?? "A"}`,
        "lanes",
        swing([flag.x + 10, flag.y + 8], 40),
      );
    });

  test("tuning, back horn", async ({ page }) => {
    await start(page, "back_horn");
    const flag = (await page.getByRole("slider", { name: "Tuning, λ/4", exact: true }).boundingBox())!;
    await measure(page, "tuning, back horn", "lanes", swing([flag.x + 10, flag.y + 8], 40));
  });

  // nothing there to pull at: an arrow key repeats about thirty times a second
  for (const [family, pointer] of [
    ["infinite_baffle", "/woofer/fs_hz"],
    ["open_baffle", "/enclosure/width_mm"],
  ] as const)
    test(`a field's key held, ${family}`, async ({ page }) => {
      await start(page, family);
      if (pointer.startsWith("/woofer"))
        await page
          .getByRole("link", { name: /Woofer/ })
          .first()
          .click();
      await field(page, pointer).focus();
      await measure(page, `a field's key held, ${family}`, "lanes", held, [30]);
    });

  // no tuning to pull at: the back wall
  test("net volume, sealed", async ({ page }) => {
    await open(page, "Flat-friendly bass");
    await page.waitForTimeout(1000);
    const wall = (await page.getByRole("slider", { name: "Net volume" }).boundingBox())!;
    await measure(page, "net volume, sealed", "lanes", swing(middle(wall), 12));
  });

  // one seat, and four with a hall's many waves
  for (const build of ["Flat-friendly bass", "Village hall pedal stop"])
    test(`a cabinet on the plan, ${build}`, async ({ page }) => {
      await open(page, build);
      await page.getByRole("link", { name: /Room/ }).click();
      const cabinet = page.getByRole("slider", { name: "Cabinet 1, plan" });
      await cabinet.waitFor();
      await page.waitForTimeout(1000);
      const box = (await cabinet.boundingBox())!;
      await measure(page, `a cabinet on the plan, ${build}`, "room", swing(middle(box), 40, 20));
    });

  test("port area at Airway", async ({ page }) => {
    await open(page, "Village hall pedal stop");
    await page.getByRole("link", { name: /Airway/ }).click();
    const plot = page.getByRole("slider", { name: "Area of the port, by its length" });
    await plot.waitFor();
    await page.waitForTimeout(1000);
    const box = (await plot.boundingBox())!;
    await measure(
      page,
      "port area at Airway",
      "airway",
      swing([box.x + box.width * 0.45, box.y + 40], box.width * 0.2),
    );
  });

  test("woofer's place at Quiet", async ({ page }) => {
    await open(page, "Reading room columns");
    await page.getByRole("button", { name: /^C\b/ }).first().click();
    await page.getByRole("link", { name: /Quiet/ }).click();
    const place = page.getByRole("slider", { name: "Woofer's place", exact: true });
    await place.waitFor();
    await page.waitForTimeout(1000);
    await measure(
      page,
      "woofer's place at Quiet",
      "quiet",
      swing(middle((await place.boundingBox())!), 4, 40),
    );
  });

  test("a band at Drive", async ({ page }) => {
    await open(page, "Village hall pedal stop");
    await page.getByRole("link", { name: /Drive/ }).first().click();
    const peg = page.locator("[data-peg]").first();
    await peg.waitFor();
    await page.waitForTimeout(1000);
    await measure(page, "a band at Drive", "lanes", swing(middle((await peg.boundingBox())!), 40, 20));
  });

  for (const build of ["Village hall pedal stop", "Attic cutting room"])
    test(`woofer on its face at Cabinet, ${build}`, async ({ page }) => {
      await open(page, build);
      await page.getByRole("link", { name: /Cabinet/ }).click();
      const woofer = page.getByRole("slider", { name: "woofer on Baffle" }).first();
      await woofer.waitFor();
      await page.waitForTimeout(1000);
      const [x, y] = middle((await woofer.boundingBox())!);
      await measure(page, `woofer on its face at Cabinet, ${build}`, "cabinet", swing([x, y - 4], 8, 20));
    });
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
