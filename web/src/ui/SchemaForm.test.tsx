import { act, cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Tooltip } from "radix-ui";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { change } from "../app/settings";
import { designSchema } from "../lib/schema";
import { Draft, FormContext } from "./form";
import { SchemaForm } from "./SchemaForm";

type Document = Record<string, unknown>;

const ported: Document = {
  format: "oak-drum-design",
  version: 6,
  woofer: { name: "Attic 12", fs_hz: 28 },
  enclosure: {
    family: "vented",
    net_volume_l: 90,
    port: {
      section: { shape: "round", diameter_mm: 100 },
      count: 1,
      sizing: { by: "tuning", tuning_hz: 30 },
    },
  },
};

/** A form of the design's schema over a document of its own. */
function form(document: Document, props: Parameters<typeof SchemaForm>[0]) {
  const draft = new Draft<Document>(designSchema, document, 1);
  render(
    <Tooltip.Provider>
      <FormContext value={draft}>
        <SchemaForm {...props} />
      </FormContext>
    </Tooltip.Provider>,
  );
  return { now: () => draft.document(), draft, hand: userEvent.setup() };
}

beforeEach(() => change({ system: "metric" }));
afterEach(cleanup);

describe("a form made from the published schema", () => {
  it("shows a number with its unit and puts in what is typed", async () => {
    const { now, hand } = form(ported, { pointer: "/enclosure", only: ["net_volume_l"] });
    const volume = screen.getByLabelText<HTMLInputElement>(/volume/i);
    expect(volume.value).toBe("90");
    await hand.clear(volume);
    await hand.type(volume, "4 ft3{Enter}");
    expect((now().enclosure as Document).net_volume_l).toBeCloseTo(113.267, 2);
  });

  it("offers every kind of an opening, and keeps what both have in common", async () => {
    const { now, hand } = form(ported, { pointer: "/enclosure/port", only: ["section"] });
    const kind = screen.getByRole<HTMLSelectElement>("combobox");
    const shapes = within(kind)
      .getAllByRole<HTMLOptionElement>("option")
      .map((o) => o.value);
    expect(shapes).toEqual(expect.arrayContaining(["round", "slot", "square", "triangle"]));
    await hand.selectOptions(kind, "slot");
    const section = (now().enclosure as { port: { section: Document } }).port.section;
    expect(section.shape).toBe("slot");
    // what a slot begins with is stated, and nothing of the tube stays behind
    expect(Object.values(section).every((v) => v !== undefined && v !== "")).toBe(true);
    expect(section).not.toHaveProperty("diameter_mm");
    expect(screen.queryByLabelText(/diameter/i)).toBeNull();
  });

  it("adds and removes entries of a list", async () => {
    const { now, hand } = form(
      { ...ported, cabinet: { width_mm: 400, height_mm: 500, depth_mm: 400, panel_mm: 18, baffle_mm: 18 } },
      { pointer: "/cabinet", only: ["braces"], open: ["Braces"] },
    );
    const cabinet = () => now().cabinet as { braces?: unknown[] };
    await hand.click(screen.getByRole("button", { name: "Add to Braces" }));
    await hand.click(screen.getByRole("button", { name: "Add to Braces" }));
    expect(cabinet().braces).toHaveLength(2);
    const remove = screen.getAllByRole("button", { name: /^Remove/ });
    await hand.click(remove[0]!);
    expect(cabinet().braces).toHaveLength(1);
    // the last one gone, nothing is stated
    await hand.click(screen.getByRole("button", { name: /^Remove/ }));
    expect(cabinet().braces).toBeUndefined();
  });

  it("states an optional part and leaves it out again", async () => {
    const cabinet = { width_mm: 400, height_mm: 500, depth_mm: 400, panel_mm: 18, baffle_mm: 18 };
    const { now, hand } = form({ ...ported, cabinet }, { pointer: "/cabinet", only: ["terminals"] });
    const terminals = () => (now().cabinet as Document).terminals;
    await hand.click(screen.getByRole("button", { name: "state it" }));
    expect(terminals()).toBeTypeOf("object");
    await hand.click(screen.getByRole("button", { name: /^Leave out/ }));
    expect(terminals()).toBeUndefined();
  });

  it("does not offer to leave out what a kind needs, where the whole may be left out", () => {
    const at = { face: "back", across_mm: 200, up_mm: 200 };
    const cabinet = { width_mm: 400, height_mm: 600, depth_mm: 400, amplifier: { kind: "by_sheet", at } };
    form({ ...ported, cabinet }, { pointer: "/cabinet", only: ["amplifier"], open: ["Parts on its faces"] });
    expect(screen.getByLabelText("Across")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Leave out Place" })).toBeNull();
  });

  it("takes words as they are typed, and says what is wrong at the field", async () => {
    const { now, draft, hand } = form(ported, { pointer: "/woofer", only: ["name", "fs_hz"] });
    await hand.type(screen.getByLabelText("Name"), " D");
    expect((now().woofer as Document).name).toBe("Attic 12 D");
    act(() =>
      draft.say([{ pointer: "/woofer/fs_hz", code: "out_of_range", message: ["at least 5 is expected"] }]),
    );
    expect((await screen.findByRole("alert")).textContent).toBe("at least 5 is expected");
    act(() => draft.say(undefined));
    expect(screen.queryByText("at least 5 is expected")).toBeNull();
  });

  it("folds groups away until they are opened", async () => {
    const { hand } = form(ported, { pointer: "/enclosure" });
    const group = screen.getByText("Fill and losses").closest("details")!;
    expect(group.open).toBe(false);
    await hand.click(within(group).getByText("Fill and losses"));
    expect(group.open).toBe(true);
  });
});
