import { expect, type Locator, type Page } from "@playwright/test";

export async function open(page: Page, name: string, station = "box") {
  await page.goto("/");
  await page.getByRole("link", { name }).click();
  await expect(page.getByRole("radiogroup", { name: "Enclosure" })).toBeVisible();
  if (station !== "box") await page.getByRole("link", { name: new RegExp(`^\\d+ ?${station}`, "i") }).click();
  await expect(page.locator('[data-lane="level"] canvas')).toBeVisible();
}

/** Goes to a station by the rail. */
export async function station(page: Page, name: string) {
  await page.getByRole("link", { name: new RegExp(`^\\d+ ?${name}`, "i") }).click();
}

export function field(page: Page, pointer: string): Locator {
  return page.locator(`[data-pointer="${pointer}"]`);
}

type Curves = {
  lists: Record<string, number[]>;
  summary: { figures: { id: string; value: number }[] };
};

/** The next curves the page is answered, taken apart as docs/curves.md has it. */
export async function curves(page: Page): Promise<Curves> {
  const response = await page.waitForResponse((r) => r.url().endsWith("/api/curves") && r.ok());
  const body = await response.body();
  expect(body.subarray(0, 4).toString()).toBe("ODC1");
  const length = body.readUInt32LE(4);
  const header = JSON.parse(body.subarray(8, 8 + length).toString()) as {
    result: Pick<Curves, "summary">;
    lists: [string, number][];
  };
  let at = 8 + length;
  const lists: Record<string, number[]> = {};
  for (const [name, many] of header.lists) {
    lists[name] = Array.from({ length: many }, (_, i) => body.readFloatLE(at + 4 * i));
    at += 4 * many;
  }
  return { lists, summary: header.result.summary };
}

export async function saved(page: Page) {
  await expect(page.getByTestId("save-state")).toHaveText(/^Saved/);
}

export async function type(page: Page, pointer: string, text: string) {
  await field(page, pointer).fill(text);
  await field(page, pointer).press("Enter");
}

/** A build of one's own, vented, from a woofer of the shelf. */
export async function begin(page: Page, name: string, woofer: RegExp, family = "a vented box") {
  await page.goto("/");
  await page.getByRole("button", { name: "Start your own" }).click();
  await page.getByRole("textbox", { name: "Name" }).fill(name);
  const option = page.getByRole("option", { name: woofer });
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Woofer").selectOption(await option.first().getAttribute("value"));
  await page.getByLabel("The empty bench begins with").selectOption({ label: family });
  await page.getByRole("button", { name: "Just an empty bench" }).click();
  await expect(page.getByRole("slider", { name: "Net volume" })).toBeVisible();
}

/** Opens a build of one's own with the designs of one of the demo, so that no other test sees what is done to it. */
export async function openCopy(page: Page, of: string, name: string, at = "box") {
  const list = (await (await page.request.get("/api/builds")).json()) as { id: string; name: string }[];
  const id = list.find((b) => b.name === of)?.id ?? "";
  const { revisions } = (await (await page.request.get(`/api/builds/${id}`)).json()) as {
    revisions: { document: object }[];
  };
  const made = await page.request.post("/api/builds", { data: { name, document: revisions[0]?.document } });
  const { id: own } = (await made.json()) as { id: string };
  await page.goto(`/builds/${own}/${at}`);
  // on a phone they lie in a drawer
  await expect(page.locator('[aria-label="Findings"] li').first()).toBeAttached();
}
