import { expect, test, type Page } from "@playwright/test";
import { begin, station, type } from "./bench";

const picture = (page: Page) => page.getByRole("region", { name: "Listen drawn" });

/** A build whose revision B lifts 40 Hz before the amplifier. */
async function withALift(page: Page, name: string) {
  await begin(page, name, /Kelda 10-8/, "a sealed box");
  await type(page, "/enclosure/net_volume_l", "40");
  await expect
    .poll(async () =>
      JSON.stringify(
        await (await page.request.get(page.url().replace(/.*builds.([^/]+).*/, "/api/builds/$1"))).json(),
      ),
    )
    .toContain('"net_volume_l":40');
  const id = /builds\/([^/]+)/.exec(page.url())?.[1] ?? "";
  const detail = (await (await page.request.get(`/api/builds/${id}`)).json()) as {
    revisions: { document: { chain?: object } }[];
  };
  const document = structuredClone(detail.revisions[0]?.document ?? {});
  const filter = { kind: "band", frequency_hz: 40, q: 1.2, level_db: 6 };
  document.chain = { filters: [{ name: "Lift", stage: "line", filter }] };
  const made = await page.request.post(`/api/builds/${id}/revisions`, { data: { document } });
  expect(made.status()).toBe(201);
  await page.reload();
  await station(page, "listen");
}

test("X is one of two: set up, played through from a phone under seal, ended, told", async ({
  page,
  browser,
}) => {
  await withALift(page, "Lift or not");
  await expect(page.getByTestId("trials-needed")).toContainText("37 trials find 70 % right answers");
  await page.getByLabel("Trials of each listener").fill("4");
  await page.getByLabel("Name of the 1.").fill("Flat");
  await page.getByLabel("Name of the 2.").fill("Lifted");
  await page.getByLabel("Revision of the 2.").selectOption("B");
  await expect(page.getByTestId("match")).toContainText("Lifted: down");
  await page.getByLabel("Level at the seat, dB").fill("94");
  await expect(page.getByTestId("hearing")).toContainText("at most 1.0 h a day");
  // with one cabinet nobody has to switch
  await page.getByRole("radio", { name: /^the program/ }).check();
  await page.getByRole("button", { name: /^Begin/ }).click();
  const code = await page.getByTestId("code").innerText();
  expect(code).toMatch(/^[A-Z0-9]{6}$/);
  await expect(page.getByRole("link", { name: /^11 ?Listen/ })).toContainText(code);

  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const ear = await phone.newPage();
  const errors: string[] = [];
  ear.on("pageerror", (e) => errors.push(e.message));
  await ear.goto(new URL(`/listen/${code.toLowerCase()}`, page.url()).href);
  await ear.getByLabel("Your name").fill("Ida");
  await ear.getByRole("button", { name: "Listen" }).click();
  for (let i = 0; i < 4; i++) {
    await expect(ear.getByRole("region", { name: `Hearing ${i + 1}` })).toBeVisible();
    await ear.getByRole("button", { name: "Play A" }).click();
    await expect(ear.getByRole("status")).toHaveText("A is heard; press again to stop.");
    await ear.getByRole("button", { name: "Play X" }).click();
    await expect(ear.getByRole("status")).toHaveText("X is heard; press again to stop.");
    const seal = ear.getByRole("button", { name: "Seal this answer" });
    await expect(seal).toBeDisabled();
    await ear.getByRole("radio", { name: i % 2 ? "X is A" : "X is B" }).click();
    if (i === 1) {
      // what is chosen but not sealed is still there after a reload, and so is who listens
      await ear.reload();
      await expect(ear.getByRole("radio", { name: "X is A" })).toHaveAttribute("aria-checked", "true");
      await ear.getByLabel("Note, if you like").fill("the low E");
    }
    await seal.click();
  }
  await expect(ear.getByText("All is answered and sealed.", { exact: false })).toBeVisible();
  expect(await ear.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  expect(errors).toEqual([]);

  // the one who set it up sees how many are sealed, and nothing else
  await expect(picture(page)).toContainText("4 of 4 sealed");
  await expect(page.getByTestId("outcome")).toHaveCount(0);
  await expect(picture(page)).not.toContainText("low E");
  await page.getByRole("button", { name: "End it and open the envelopes" }).click();
  await expect(page.getByTestId("outcome")).toHaveText(/^\d of 4 right: /);
  await expect(picture(page)).toContainText("2: the low E");
  await expect(picture(page)).toContainText("answers sealed until the end");
  await expect(ear.getByText("The session has ended.", { exact: false })).toBeVisible();
  await phone.close();
});

test("a helper switches: letters for listeners, names for the helper alone, scores on a ruler", async ({
  page,
  context,
}) => {
  await begin(page, "Three boxes", /Kelda 10-8/, "a sealed box");
  await station(page, "listen");
  await page.getByRole("radio", { name: "Scores on your own scales" }).check();
  await page.getByLabel("Scales, in the order they are asked").fill("deep, overall");
  await page.getByLabel("Name of the 1.").fill("Old");
  await page.getByLabel("Name of the 2.").fill("New");
  await page.getByLabel("How levels are matched").selectOption("noise");
  await page.getByRole("button", { name: /^Begin/ }).click();
  await expect(page.getByRole("alert")).toHaveText("Not begun: a reading is expected for each.");
  await page.getByLabel("Reading of Old, dB").fill("82,5");
  await page.getByLabel("Reading of New, dB").fill("81");
  await expect(page.getByTestId("match")).toContainText("Old: down 1.50 dB");
  await page.getByRole("button", { name: /^Begin/ }).click();
  const [helper] = await Promise.all([
    context.waitForEvent("page"),
    page.getByRole("link", { name: "The helper's page" }).click(),
  ]);
  const connect = helper.getByRole("list", { name: "What to connect" });
  await expect(connect).toContainText("Old");
  await expect(connect).toContainText("turned down by 1.50 dB");
  const code = await page.getByTestId("code").innerText();
  const ear = await context.newPage();
  await ear.goto(`/listen/${code}`);
  await ear.getByLabel("Your name").fill("Zoë");
  await ear.getByRole("button", { name: "Listen" }).click();
  for (let i = 0; i < 2; i++) {
    const here = ear.getByRole("region", { name: `Hearing ${i + 1}` });
    await expect(here).toBeVisible();
    await expect(here).not.toContainText(/Old|New/);
    for (const envelope of ["P", "Q"])
      for (const scale of ["deep", "overall"]) {
        await ear.getByRole("slider", { name: `${scale} of ${envelope}` }).fill("7");
      }
    await ear.getByRole("button", { name: "Seal this answer" }).click();
    if (i === 0) {
      await expect(ear.getByText("when the helper has set it up", { exact: false })).toBeVisible();
      await helper.getByRole("button", { name: "Next" }).click();
    }
  }
  await expect(picture(page)).toContainText("2 of 2 sealed");
  await page.getByRole("button", { name: "End it and open the envelopes" }).click();
  await expect(picture(page).getByRole("img", { name: /^deep: Old 7.0/ })).toBeVisible();
  await expect(picture(page)).toContainText("The order was shown on the helper's page");
});
