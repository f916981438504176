import "fake-indexeddb/auto";
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Mistakes, TimelineEvent } from "../../api/client";
import { mounted } from "../../tests/mounted";
import { outbox } from "../../workbench/outbox";
import { StepClock, inHours } from "../cabinet/StepClock";
import { LogStation } from "./LogStation";
import { chosen } from "./photos";
import { byDay, fits, pagesOf, type Shown } from "./useLog";
import { WentWrong } from "./WentWrong";

const post = vi.hoisted(() => vi.fn());
vi.mock("../../api/client", async (original) => {
  const answer = (data: unknown) => Promise.resolve({ data, response: new Response(null, { status: 200 }) });
  return {
    ...(await original<typeof import("../../api/client")>()),
    api: {
      POST: (at: string, asked: { body: unknown }) => answer(post(at, asked.body)),
      GET: () => answer([]),
      // nothing is sent: what is written waits
      PUT: () => Promise.reject(new Error("away")),
    },
  };
});
vi.mock("../cabinet/useCabinet", () => ({
  useBuilding: () => ({ steps: [{ id: "cut", title: ["Cut 12 pieces"], stage: "At the saw", text: [""] }] }),
}));

const design = { name: "A", woofer: { name: "Marl 12" }, enclosure: { family: "sealed" }, cabinet: {} };
const possible: Mistakes = {
  holes: [
    { name: "woofer", size_mm: 283, round: true },
    { name: "terminals", size_mm: 57, round: true },
  ],
  diagonal_mm: 933,
  measurable: [{ pointer: "/woofer/depth_mm", title: "woofer, depth", unit: "mm", drawn: 150 }],
  said: [],
  cures: [],
};
const cure = (title: string, changes: object[] = []) => ({
  title: [title],
  text: ["how"],
  predicted: ["then"],
  caution: null,
  changes,
});

beforeEach(() => {
  localStorage.clear();
  post.mockReset().mockImplementation((at: string, body: { mistake?: { kind: string } }) => {
    if (at !== "/api/mistake") return {};
    if (!body.mistake) return possible;
    return {
      ...possible,
      said: [`went wrong: ${body.mistake.kind}`],
      cures: [cure("A ring"), cure("The plan", [{}])],
    };
  });
});
afterEach(async () => {
  cleanup();
  for (const w of outbox.snapshot()) await outbox.takeBack(w.id);
});

describe("an entry", () => {
  it("is kept as a draft until it is written, and waits with what it is about", async () => {
    const hand = mounted(<LogStation />, design);
    await hand.type(screen.getByLabelText("What happened"), "Glued the braces");
    cleanup();
    mounted(<LogStation />, design);
    expect(screen.getByLabelText("What happened")).toHaveProperty("value", "Glued the braces");
    await hand.selectOptions(screen.getByLabelText("Step"), "cut");
    await hand.click(screen.getByRole("button", { name: "Write it down" }));
    await waitFor(() => expect(outbox.snapshot()).toHaveLength(1));
    expect(outbox.snapshot()[0]?.entry).toEqual({
      text: "Glued the braces",
      tied: { revision: "A", step: "cut" },
    });
    await waitFor(() => expect(screen.getByLabelText("What happened")).toHaveProperty("value", ""));
    await waitFor(() => expect(localStorage.getItem("oak-drum.log-draft.7")).toBeNull());
  });

  it("of a mistake says what went wrong and what is done, and changes the plan where that is the cure", async () => {
    const take = vi.fn();
    const hand = mounted(<LogStation />, design, { take });
    await hand.click(screen.getByRole("radio", { name: "Mistake" }));
    await hand.click(screen.getByRole("button", { name: "A hole came out wrong" }));
    await screen.findByText("went wrong: hole");
    expect(post).toHaveBeenLastCalledWith("/api/mistake", {
      document: design,
      mistake: { kind: "hole", hole: 0, too_small_mm: 3 },
    });
    await hand.click(screen.getByRole("button", { name: "Do this and change the plan" }));
    await hand.click(screen.getByRole("button", { name: "Write it down" }));
    await waitFor(() => expect(outbox.snapshot()).toHaveLength(1));
    expect(outbox.snapshot()[0]?.entry).toMatchObject({
      kind: "mistake",
      text: "went wrong: hole\nThe plan: how",
    });
    expect(take).toHaveBeenCalledWith(["The plan"], [{}]);
  });

  it("takes photos, and says of others why not", () => {
    const file = (name: string, type: string, size = 10) => {
      const made = new File(["x"], name, { type });
      Object.defineProperty(made, "size", { value: size });
      return made;
    };
    const good = file("a.jpg", "image/jpeg");
    const taken = chosen([good, file("run.sh", "text/x-sh"), file("b.png", "image/png", 200 << 20)], 12);
    expect(taken.photos).toEqual([good]);
    expect(taken.wrong).toEqual([
      "run.sh is no photo: JPEG, PNG or WebP is expected.",
      "b.png has 200 MB; at most 48 MB are taken.",
    ]);
    expect(chosen([good, good], 1).wrong[0]).toMatch(/at most 12 photos; 1 are left out/);
  });
});

describe("what went wrong", () => {
  it("is asked about the hole, the diagonals, the place and the part that are told", async () => {
    const choose = vi.fn();
    const hand = mounted(<WentWrong chosen={undefined} choose={choose} />, design);
    await hand.click(await screen.findByRole("button", { name: "Out of square" }));
    const enter = async (label: string, text: string) => {
      await hand.type(await screen.findByLabelText(label), `${text}{Enter}`);
    };
    await enter("Longer diagonal", "930");
    expect(screen.queryByTestId("went-wrong")).toBeNull();
    await enter("Shorter diagonal", "936");
    await screen.findByText("went wrong: out_of_square");
    expect(post.mock.lastCall?.[1]).toMatchObject({
      mistake: { kind: "out_of_square", longer_mm: 936, shorter_mm: 930, glued: true },
    });
    await hand.click(screen.getByRole("button", { name: "It leaks" }));
    await hand.selectOptions(await screen.findByLabelText("Where"), "around the wires");
    await waitFor(() => expect(post.mock.lastCall?.[1]).toMatchObject({ mistake: { at: "wires" } }));
    await hand.click(screen.getByRole("button", { name: "A part is different" }));
    await enter("It measures", "6 in");
    await waitFor(() =>
      expect(post.mock.lastCall?.[1]).toMatchObject({
        mistake: { kind: "part", pointer: "/woofer/depth_mm", value: 152.4 },
      }),
    );
    const list = await screen.findByRole("list", { name: "What to do now" });
    await hand.click(within(list).getByRole("button", { name: "Do this" }));
    expect(choose.mock.lastCall?.[1]).toMatchObject({ title: ["A ring"] });
  });
});

describe("the notebook", () => {
  const shown = (at: string, text = "x") => ({ id: at, at, version: 1, entry: { text } }) as Shown;
  const event = (at: string) => ({ at, kind: "begun", text: [] }) as unknown as TimelineEvent;

  it("has a page for each day on which something was written or known, the newest first", () => {
    const entries = [shown("2026-03-02T12:00:00Z"), shown("2026-03-01T12:00:00Z")];
    const events = [
      event("2026-03-03T12:00:00Z"),
      event("2026-03-01T13:00:00Z"),
      event("2026-02-01T12:00:00Z"),
    ];
    const pages = pagesOf(entries, events, undefined);
    expect(pages.map((p) => [p.day, p.entries.length, p.events.length])).toEqual([
      ["2026-03-03", 0, 1],
      ["2026-03-02", 1, 0],
      ["2026-03-01", 1, 1],
      ["2026-02-01", 0, 1],
    ]);
    // as long as older entries are not fetched, days before them are not told half
    expect(pagesOf(entries, events, "2026-03-01T12:00:00Z").map((p) => p.day)).not.toContain("2026-02-01");
    expect(byDay([], String)).toEqual([]);
  });

  it("finds what waits by its words and kind", () => {
    expect(fits({ text: "Glued the Braces" }, { words: "braces GLUED", kind: "" })).toBe(true);
    expect(fits({ text: "Glued" }, { words: "", kind: "mistake" })).toBe(false);
    expect(fits({ text: "Glued" }, { words: "", kind: "note" })).toBe(true);
  });
});

it("a step's clock says what is spent, and is started and stopped", async () => {
  const keep = vi.fn();
  const hand = mounted(<StepClock tick={{ step: "cut", minutes: 75 }} keep={keep} title="Cut" />);
  expect(screen.getByText("1 h 15")).toBeTruthy();
  await hand.click(screen.getByRole("button", { name: "Start the clock of Cut" }));
  expect(keep.mock.lastCall?.[0]).toHaveProperty("running_since");
  expect([inHours(0.4), inHours(59.6), inHours(125)]).toEqual(["0 min", "1 h 00", "2 h 05"]);
});
