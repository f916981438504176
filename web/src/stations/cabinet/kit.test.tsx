import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Cutting, Tool, Workshop } from "../../api/client";
import { workshop } from "../../app/workshop";
import { mounted } from "../../tests/mounted";
import { HabitsView } from "../log/HabitsView";
import { KitList } from "./KitList";
import { Rack } from "./Rack";

const put = vi.hoisted(() => vi.fn());
const post = vi.hoisted(() => vi.fn());
const stands = vi.hoisted((): { document: object } => ({ document: {} }));
vi.mock("../../api/client", async (original) => {
  const answer = (data: unknown) => Promise.resolve({ data, response: new Response(null, { status: 200 }) });
  return {
    ...(await original<typeof import("../../api/client")>()),
    get: async (call: Promise<{ data: unknown }>) => (await call).data,
    api: {
      GET: () => answer({ document: stands.document, version: 3, updated_at: "2026-11-27T10:00:00Z" }),
      PUT: async (_: string, asked: { body: unknown }) => answer(await put(asked.body)),
      POST: async (at: string, asked: { body: unknown }) => answer(await post(at, asked.body)),
    },
  };
});

const clamp = (has: number): Tool => ({
  thing: "clamp",
  sort: "clamp",
  what: ["4 clamps that open to ", { values: [700], unit: "mm", metric: "700 mm", inch: "27 9/16 in" }],
  why: ["up and down"],
  size_mm: 700,
  many: 4,
  has,
});

beforeEach(() => {
  localStorage.clear();
  workshop.close();
  stands.document = { has: [{ thing: "clamp", size_mm: 900, many: 1 }] } satisfies Workshop;
  put.mockReset().mockReturnValue({ version: 4, updated_at: "2026-11-27T10:01:00Z" });
  post.mockReset().mockImplementation((at: string, body: { workshop?: Workshop }) => {
    const many = body.workshop?.has?.reduce((sum, h) => sum + (h.many ?? 1), 0) ?? 0;
    return at === "/api/kit" ? { things: [clamp(Math.min(many, 4))], circles: [], screws: [] } : {};
  });
});
afterEach(cleanup);

const boxed = {
  cabinet: { board: "mdf", saw: { offcuts: [{ length_mm: 500, width_mm: 200, thickness_mm: 18 }] } },
};

describe("tools", () => {
  it("are ticked: what is missing is put to what is there, kept and asked for again", async () => {
    const hand = mounted(<KitList />, boxed);
    await hand.click(await screen.findByText("Clamps: 0 of 1 there"));
    expect(screen.getByText("(1 there)")).toBeTruthy();
    await hand.click(screen.getByRole("checkbox", { name: /4 clamps that open to 700 mm/ }));
    await waitFor(() => expect(screen.getByText("Clamps: 1 of 1 there")).toBeTruthy());
    expect(screen.getByTestId("tools-missing").textContent).toBe("all there");
    await waitFor(() => expect(put).toHaveBeenCalled());
    expect(put.mock.calls[0]?.[0]).toEqual({
      base_version: 3,
      workshop: {
        has: [
          { thing: "clamp", size_mm: 900, many: 1 },
          { thing: "clamp", size_mm: 700, many: 3 },
        ],
      },
    });
    // taken off again, none that opens so far is left
    await hand.click(screen.getByRole("checkbox", { name: /4 clamps/ }));
    expect(workshop.document()?.has).toBeUndefined();
  });
});

describe("the rack", () => {
  const cutting = {
    stocks: [
      {
        of: "mdf",
        thickness_mm: 18,
        layout: {
          bins: [{ own: true, length_mm: 500, width_mm: 200 }],
          left: [{ sheet: 0, x_mm: 0, y_mm: 0, length_mm: 810.7, width_mm: 300.2 }],
        },
      },
      {
        of: "pine",
        thickness_mm: 18,
        layout: { bins: [], left: [{ sheet: 0, x_mm: 0, y_mm: 0, length_mm: 999, width_mm: 99 }] },
      },
    ],
  } as unknown as Cutting;
  const piece = (length_mm: number, board = "mdf") => ({ board, length_mm, width_mm: 200, thickness_mm: 18 });

  it("offers what is of this board, and once sawn takes what is left for what was used", async () => {
    stands.document = { rack: [piece(500), piece(700), piece(800, "pine")] };
    const changed = vi.fn();
    const hand = mounted(<Rack cutting={cutting} />, boxed, { change: changed });
    expect(await screen.findAllByRole("button", { name: /^Saw from/ })).toHaveLength(1);
    await hand.click(screen.getByRole("button", { name: "Saw from it: 700 mm x 200 mm, 18 mm" }));
    const [{ value }] = changed.mock.calls[0]?.[0] as [{ value: { offcuts: object[] } }];
    expect(value.offcuts).toHaveLength(2);
    await hand.click(screen.getByRole("button", { name: /^It is sawn/ }));
    // the piece of 500 was planned in and is gone; what is left is in whole millimetres, and says from what
    expect(workshop.document()?.rack).toEqual([
      piece(700),
      piece(800, "pine"),
      { board: "mdf", length_mm: 810, width_mm: 300, thickness_mm: 18, from: "Flat, A" },
    ]);
    await hand.click(screen.getByRole("button", { name: "Take it off" }));
    expect(workshop.document()?.rack).toHaveLength(2);
  });
});

describe("habits", () => {
  it("of no box say what to do, of some what may be reckoned with", async () => {
    post.mockReturnValue({ boxes: [], habits: [], corrections: [] });
    mounted(<HabitsView />);
    expect(await screen.findByText(/No box was measured yet/)).toBeTruthy();
    cleanup();
    const cure = { id: "habit_leak", title: ["Reckon with it"], sentence: ["QL 10."], changes: [] };
    const figures = [{ of: "volume", reckoned: 90, measured: 86.4 }];
    post.mockReturnValue({
      boxes: [{ build: "Barn", revision: "B", own: false, figures }],
      habits: [
        { of: "volume", title: "net volume", unit: "L", boxes: 1, off_percent: -4, sentence: ["In one."] },
      ],
      corrections: [cure],
    });
    const take = vi.fn();
    const hand = mounted(<HabitsView />, { name: "A" }, { take });
    expect((await screen.findByTestId("boxes")).textContent).toContain("Barn, B");
    expect(screen.getByTestId("boxes").textContent).toContain("−4.0 %");
    expect(screen.getByRole("img").getAttribute("aria-label")).toContain("net volume −4.0 %");
    await hand.click(screen.getByRole("button", { name: "Reckon with it" }));
    expect(take).toHaveBeenCalledWith(cure.title, []);
  });
});
