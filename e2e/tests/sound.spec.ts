import { chromium, expect, test, type Page } from "@playwright/test";
import { writeFileSync } from "node:fs";
import { begin, station } from "./bench";

/** What the simulated bench records of a build: microphone at the cone, and a wire back. */
async function tape(page: Page): Promise<Buffer> {
  const build = /builds\/([\w-]+)/.exec(page.url())?.[1];
  const detail = (await (await page.request.get(`/api/builds/${build}`)).json()) as {
    revisions: { document: unknown }[];
  };
  const wish = { taken: { kind: "near_cone" }, volts: 1 };
  const data = { document: detail.revisions[0]?.document, wish };
  const answer = await page.request.post("/api/bench/recording", { data });
  expect(answer.ok()).toBe(true);
  return answer.body();
}

/** 24 bit samples as 16: all that the browser's stand-in for a sound card reads. */
function shortened(wav: Buffer): Buffer {
  const at = wav.indexOf("data") + 8;
  const many = Math.floor((wav.length - at) / 3);
  const width = 2;
  const rate = wav.readUInt32LE(24);
  const made = Buffer.alloc(44 + 2 * many);
  made.write("RIFF", 0);
  made.writeUInt32LE(36 + 2 * many, 4);
  made.write("WAVEfmt ", 8);
  made.writeUInt32LE(16, 16);
  made.writeUInt16LE(1, 20);
  made.writeUInt16LE(width, 22);
  made.writeUInt32LE(rate, 24);
  made.writeUInt32LE(rate * width * 2, 28);
  made.writeUInt16LE(width * 2, 32);
  made.writeUInt16LE(16, 34);
  made.write("data", 36);
  made.writeUInt32LE(2 * many, 40);
  for (let i = 0; i < many; i++) made.writeInt16LE(wav.readInt16LE(at + 3 * i + 1), 44 + 2 * i);
  return made;
}

/** Levels of every measurement of the open build in their order. */
async function levels(page: Page): Promise<{ name: string; db: number[] }[]> {
  const build = /builds\/([\w-]+)/.exec(page.url())?.[1];
  const list = (await (await page.request.get(`/api/builds/${build}/measurements`)).json()) as {
    id: string;
    document: { about: { name: string } };
  }[];
  const out: { name: string; db: number[] }[] = [];
  for (const { id, document } of list) {
    const curve = (await (await page.request.get(`/api/measurements/${id}/curve`)).json()) as {
      curve: { frequency_hz: number[]; magnitude: number[] };
    };
    const db = curve.curve.magnitude.filter((_, i) => {
      const hz = curve.curve.frequency_hz[i] ?? 0;
      return hz > 15 && hz < 500;
    });
    out.push({ name: document.about.name, db });
  }
  return out;
}

/** A browser whose stand-in for a sound card plays a file in. */
const withCard = (file: string) =>
  chromium.launch({
    executablePath: process.env.OAK_DRUM_CHROMIUM ?? "/usr/bin/chromium",
    args: [
      "--no-sandbox",
      "--disable-gpu",
      "--use-fake-device-for-media-stream",
      "--use-fake-ui-for-media-stream",
      `--use-file-for-fake-audio-capture=${file}`,
      "--autoplay-policy=no-user-gesture-required",
    ],
  });

async function toCone(page: Page, way: string) {
  await station(page, "prove");
  await page.getByRole("link", { name: "Take", exact: true }).click();
  await page.getByText("Close to the cone", { exact: true }).click();
  await page.getByLabel(way).check();
}

test("a sweep through the sound card gives the curve that the same samples give as a file", async ({
  page,
  baseURL,
}) => {
  await begin(page, "Through the card", /Kelda 10 /);
  const url = page.url();
  const wav = shortened(await tape(page));
  const file = test.info().outputPath("card.wav");
  writeFileSync(file, wav);

  // by file
  await toCone(page, "By files");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: /one channel/ }).click();
  expect((await download).suggestedFilename()).toBe("sweep.wav");
  await page.getByLabel("Loopback").fill("2");
  await page.getByLabel("Loopback").press("Enter");
  const name = "by-file.wav";
  await page.getByLabel("Recording").setInputFiles({ name, mimeType: "audio/wav", buffer: wav });
  await expect(page.getByText(/by-file: kept/)).toBeVisible();
  // one that holds something else says so, and nothing is kept
  const other = { name: "other.wav", mimeType: "audio/wav", buffer: Buffer.alloc(40_000) };
  await page.getByLabel("Recording").setInputFiles(other);
  await expect(page.getByRole("alert")).toBeVisible();

  let apart = Infinity;
  // through the browser's own stand-in for a sound card, which plays the samples in
  const browser = await withCard(`${file}%noloop`);
  try {
    const there = await browser.newPage({ baseURL: baseURL ?? "" });
    await there.goto(url);
    await toCone(there, "By this computer's sound card");
    await there.getByRole("button", { name: "Open the inputs" }).click();
    await expect(there.getByRole("list", { name: "Levels of the inputs" })).toBeVisible();
    await there.getByLabel("Loopback").fill("2");
    await there.getByLabel("Loopback").press("Enter");
    // a machine with much to do loses samples inside the browser, told or not: then it is taken again
    const lost = there.getByText(/Samples were lost/);
    for (let i = 0; i < 4 && !(apart < 0.1); i++) {
      await there.getByRole("button", { name: "Sweep", exact: true }).click();
      await expect(there.getByRole("button", { name: "Stop" })).toBeVisible();
      const kept = there.getByText(/Sound card, revision A: kept/);
      await expect(kept.or(lost)).toBeVisible({ timeout: 30_000 });
      if (await lost.isVisible()) continue;
      const all = await levels(page);
      const byFile = all.find((m) => m.name === "by-file")?.db ?? [];
      const card = all.findLast((m) => m.name === "Sound card, revision A")?.db ?? [];
      expect(card.length).toBeGreaterThan(100);
      apart = Math.max(...card.map((db, i) => Math.abs(db - (byFile[i] ?? NaN))));
    }
  } finally {
    await browser.close();
  }
  expect(apart).toBeLessThan(0.1);
});

test("a browser without inputs says so, and the file way stays", async ({ page }) => {
  await page.addInitScript(() => {
    Object.defineProperty(navigator.mediaDevices, "getUserMedia", {
      value: () => Promise.reject(new DOMException("no", "NotFoundError")),
    });
  });
  await begin(page, "Deaf", /Kelda 10 /);
  await toCone(page, "By this computer's sound card");
  await page.getByRole("button", { name: "Open the inputs" }).click();
  await expect(page.getByRole("alert")).toContainText("No sound input was found");
  await page.getByLabel("By files").check();
  await expect(page.getByRole("button", { name: /one channel/ })).toBeVisible();
});

test("a microphone reads how loud each is, and the match is what the readings say", async ({
  page,
  baseURL,
}) => {
  await begin(page, "Read by a microphone", /Kelda 10 /);
  const url = page.url();
  // a second tone of a tenth of full scale round and round, as the browser's stand-in for a microphone
  const rate = 48_000;
  const wav = Buffer.alloc(44 + 2 * rate);
  wav.write("RIFF", 0);
  wav.writeUInt32LE(36 + 2 * rate, 4);
  wav.write("WAVEfmt ", 8);
  wav.writeUInt32LE(16, 16);
  wav.writeUInt16LE(1, 20);
  wav.writeUInt16LE(1, 22);
  wav.writeUInt32LE(rate, 24);
  wav.writeUInt32LE(2 * rate, 28);
  wav.writeUInt16LE(2, 32);
  wav.writeUInt16LE(16, 34);
  wav.write("data", 36);
  wav.writeUInt32LE(2 * rate, 40);
  for (let i = 0; i < rate; i++)
    wav.writeInt16LE(Math.round(3276.7 * Math.sin((2 * Math.PI * 60 * i) / rate)), 44 + 2 * i);
  const file = test.info().outputPath("tone.wav");
  writeFileSync(file, wav);
  const browser = await withCard(file);
  try {
    const there = await browser.newPage({ baseURL: baseURL ?? "" });
    await there.goto(url);
    await station(there, "listen");
    await there.getByLabel("How levels are matched").selectOption("noise");
    // something else plays: it is only listened
    await there.getByLabel("this computer plays the noise to the amplifier").uncheck();
    for (const name of ["As it is", "With a change"]) {
      const lost = there.getByText(/Samples were lost/);
      const reading = there.getByLabel(`Reading of ${name}, dB`);
      for (let i = 0; i < 4 && !(await reading.inputValue()); i++) {
        await there.getByRole("button", { name, exact: true }).click();
        await expect(there.getByText(/^Listening to/)).toBeVisible();
        await expect(there.getByText(/^Listening to/)).toBeHidden({ timeout: 30_000 });
        if (await lost.isVisible()) continue;
      }
      // 0.1 of full scale is -20 dB, its rms 3 dB less
      expect(Math.abs(Number(await reading.inputValue()) + 23)).toBeLessThan(0.5);
    }
    await expect(there.getByTestId("match")).toContainText("With a change");
  } finally {
    await browser.close();
  }
});
