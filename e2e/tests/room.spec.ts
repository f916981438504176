import { expect, test, type Locator, type Page } from "@playwright/test";
import { begin, field, saved, station, type } from "./bench";

const figures = (page: Page) => page.getByTestId("room-figures");
const finding = (page: Page, kind: string) => page.locator(`[data-kind="${kind}"]`);
const thing = (page: Page, name: string): Locator => page.getByRole("slider", { name, exact: true });

/** A closed box of one's own in the workshop's flat. */
async function inTheFlat(page: Page, name: string) {
  await begin(page, name, /Kelda 10-8/, "a sealed box");
  await type(page, "/enclosure/net_volume_l", "40");
  await station(page, "room");
  await expect(page.getByText("This build stands in the open", { exact: false })).toBeVisible();
  await page.getByRole("button", { name: "Flat, second floor" }).click();
  await expect(figures(page)).toContainText("The room adds");
}

test("a cabinet is pulled into a corner: distances, snap and levels follow, and undo takes it back", async ({
  page,
}) => {
  await inTheFlat(page, "Corner");
  const cabinet = thing(page, "Cabinet 1, plan");
  const said = () => cabinet.getAttribute("aria-valuetext");
  const adds = () => figures(page).locator("dd").nth(2).innerText();
  await cabinet.focus();
  const before = await adds();
  const from = await cabinet.boundingBox();
  const plan = await page.getByRole("group", { name: "plan", exact: true }).boundingBox();
  if (!from || !plan) throw new Error("nothing to pull at");
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(plan.x + plan.width * 0.4, plan.y + plan.height * 0.4, { steps: 12 });
  await expect.poll(said).toMatch(/^1\.\d+ m from the left wall/);
  // into the lower left corner, roughly: it jumps to both walls
  await page.mouse.move(plan.x + 22, plan.y + plan.height - 22, { steps: 12 });
  await page.mouse.up();
  await expect.poll(said).toBe("0 m from the left wall, 0 m from the lower wall");
  await expect.poll(adds).not.toBe(before);
  // a key is a centimetre, with Shift ten
  await cabinet.focus();
  await cabinet.press("ArrowRight");
  await cabinet.press("Shift+ArrowUp");
  await expect.poll(said).toBe("0.01 m from the left wall, 0.1 m from the lower wall");
  await saved(page);
  await page.reload();
  await expect.poll(said).toBe("0.01 m from the left wall, 0.1 m from the lower wall");
  // in a wall it is drawn red and named, and one press puts it back
  await type(page, "/room/cabinets/0/x_m", "0.01");
  await expect(finding(page, "cannot_stand")).toContainText("into a wall");
  await expect(figures(page)).toContainText("–");
  await finding(page, "cannot_stand").getByRole("button", { name: "Back inside" }).click();
  await expect(finding(page, "cannot_stand")).toHaveCount(0);
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(finding(page, "cannot_stand")).toHaveCount(1);
});

test("four seats have a mean and a spread, a null is cured by its remedy, and taken back", async ({
  page,
}) => {
  await inTheFlat(page, "Seats");
  const seats = page.getByRole("region", { name: "Seats" });
  await expect(figures(page)).toContainText("Up and down");
  for (let i = 0; i < 3; i++) await seats.getByRole("button", { name: "another" }).click();
  await expect(figures(page)).toContainText("Seats differ by");
  await expect(page.getByText("M their mean", { exact: false })).toBeVisible();
  await expect(
    page.getByRole("navigation", { name: "Stations" }).getByRole("link", { name: /Room/ }),
  ).toContainText(/seats ±\d/);
  // the open is one press away
  await page.getByRole("button", { name: "Without the room" }).click();
  await expect(page.getByRole("figure", { name: "Without the room" })).toBeVisible();
  await page.getByRole("button", { name: "With the room" }).click();

  // where the first wave along the length rests
  await seats.getByText("a Main seat").click();
  await type(page, "/room/seats/0/x_m", "2.4");
  await type(page, "/room/seats/0/y_m", "1.8");
  const dip = finding(page, "null_at_seat");
  await expect(dip).toContainText("A null at");
  const title = await dip.innerText();
  await dip
    .getByRole("button", { name: /toward the/ })
    .first()
    .click();
  await expect.poll(async () => ((await dip.count()) ? dip.innerText() : "")).not.toBe(title);
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(field(page, "/room/seats/0/x_m")).toHaveValue("2.4");
});

test("the map shows the best places, one is taken, an area is kept free, two are arranged", async ({
  page,
}) => {
  await inTheFlat(page, "Map");
  await page.getByRole("link", { name: "Where", exact: true }).click();
  const map = page.getByTestId("room-map");
  await expect(map).toHaveAttribute("data-places", "2400");
  const best = page.getByRole("list", { name: "Best places" }).getByRole("listitem");
  await expect(best).toHaveCount(3);
  await expect(best.first()).toContainText(/from the (left|right) wall/);
  await best.first().getByRole("button", { name: "Put it there" }).click();
  await page.getByRole("button", { name: "Take it back" }).click();
  await page.getByLabel("What the map shows").selectOption("loud");
  await expect(page.getByRole("figure", { name: /how loud/ })).toBeVisible();
  // a hand-drawn area
  await page.getByRole("button", { name: "Keep an area free" }).click();
  const pencil = await page.getByTestId("pencil").boundingBox();
  if (!pencil) throw new Error("nowhere to draw");
  await page.mouse.move(pencil.x + 20, pencil.y + 20);
  await page.mouse.down();
  await page.mouse.move(pencil.x + 120, pencil.y + 160, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole("button", { name: "Keep an area free" })).toBeVisible();
  // two cabinets as a search has found them
  await expect(page.getByTestId("arrangements")).toContainText("found by search along the walls");
  await page.getByTestId("arrangements").getByRole("button", { name: "put them so" }).first().click();
  await page.getByRole("link", { name: "Room", exact: true }).first().click();
  await expect(thing(page, "Cabinet 2, plan")).toBeVisible();
  await page.getByRole("link", { name: "Waves", exact: true }).click();
  await expect(page.getByTestId("room-modes").locator("tbody tr").first()).toContainText("1 · 0 · 0");
});

test("a room of one's own is kept in the workshop, put away and back; a van has no floor, and a lift", async ({
  page,
}) => {
  await begin(page, "Own room", /Kelda 10-8/, "a sealed box");
  await station(page, "room");
  await page.getByRole("button", { name: "A room of my own" }).click();
  await page.getByText("The room itself").click();
  const name = `Cellar ${Date.now()}`;
  await type(page, "/room/room/name", name);
  await page.getByRole("button", { name: "Keep it in the workshop" }).click();
  await expect(page.getByText("Kept in the workshop.")).toBeVisible();
  // a kilometre-long hall is refused at its field, and what was typed stays
  await type(page, "/room/room/space/length_m", "1000");
  await expect(page.getByRole("alert").filter({ hasText: "60" }).first()).toBeVisible();
  await type(page, "/room/room/space/length_m", "6.5");
  await expect(
    page.getByText("The workshop's room of this name is another.", { exact: false }),
  ).toBeVisible();
  await page.getByRole("button", { name: "Take the workshop’s" }).click();
  await page.getByRole("button", { name: "put this room out of the workshop" }).click();
  await page.getByRole("button", { name: "Put it back" }).click();
  await expect(page.getByText(`${name} is back.`)).toBeVisible();

  await page.getByRole("combobox", { name: "Room" }).selectOption({ label: "Puppet theatre's van" });
  await expect(figures(page)).toContainText("Lifts from");
  await page.getByRole("link", { name: "Families", exact: true }).click();
  await expect(page.getByTestId("families-in-room")).toContainText("here it");
  await page.getByRole("link", { name: "Where", exact: true }).click();
  await expect(
    page.getByText("In a cabin the pressure is the same everywhere", { exact: false }),
  ).toBeVisible();
});
