import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { api, type BuildSummary, type Card } from "../api/client";
import { card } from "../api/queries";
import { change } from "../app/settings";
import { BuildCard, curvePath } from "./BuildCard";

const build = {
  id: "b1",
  name: "Village hall",
  version: 1,
  created_at: "2026-01-01T00:00:00Z",
  updated_at: "2026-01-02T00:00:00Z",
  tags: ["hall"],
  letters: ["A", "B"],
  family: "transmission_line",
  woofer_name: "Heron 15",
  purpose: "hymns",
} as BuildSummary;
const glance = {
  f3_hz: 31.4,
  compared: { note_hz: 30, air_l: 56.63, highest_db: 104.2 },
  outside_mm: [254, 1016, 381],
  frequency_hz: [10, 30, 100],
  level_db: [70, 87, 90],
} as unknown as Card;

const told = { onCopy: vi.fn(), onAway: vi.fn(), onChanged: vi.fn(), onTag: vi.fn() };
const patched = vi.fn<(body: unknown) => unknown>();

beforeEach(() => {
  change({ system: "metric" });
  Object.values(told).forEach((f) => f.mockClear());
  patched.mockReset().mockReturnValue({ data: {}, response: new Response() });
  vi.spyOn(api, "PATCH").mockImplementation(((_: string, { body }: { body: unknown }) =>
    Promise.resolve(patched(body))) as unknown as typeof api.PATCH);
  // everything is in view
  vi.stubGlobal(
    "IntersectionObserver",
    class {
      constructor(private readonly seen: (entries: { isIntersecting: boolean }[]) => void) {}
      observe() {
        this.seen([{ isIntersecting: true }]);
      }
      disconnect() {}
    },
  );
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

function shown() {
  const client = new QueryClient();
  client.setQueryData(card(build.id, build.updated_at).queryKey, glance);
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter>
        <BuildCard build={build} copying={false} busy={false} {...told} />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return userEvent.setup();
}

describe("a card", () => {
  it("tells what a build is known by, as the page is set, and draws its level", () => {
    shown();
    expect(screen.getByRole("link", { name: "Village hall" }).getAttribute("href")).toBe("/builds/b1/box");
    expect(screen.getByText(/Heron 15 · transmission line · revisions A, B/)).toBeTruthy();
    const line = () => screen.getByText(/^f3 /).closest("p")?.textContent;
    expect(line()).toBe("f3 31.4 Hz · 56.6 L · 104 dB at 30 Hz · 254 x 1016 x 381 mm");
    expect(screen.getByRole("img", { name: "Level: falls off below 31 Hz" })).toBeTruthy();
    cleanup();
    change({ system: "inch" });
    shown();
    expect(line()).toMatch(/2 ft³ .* 10 x 40 x 15 in$/);
  });

  it("is tagged by commas; what was not changed is not sent", async () => {
    const hand = shown();
    await hand.click(screen.getByRole("button", { name: "change tags: Village hall" }));
    await hand.keyboard("{Enter}");
    expect(patched).not.toHaveBeenCalled();
    await hand.click(screen.getByRole("button", { name: "change tags: Village hall" }));
    await hand.type(screen.getByRole("textbox"), ", loud{Enter}");
    await vi.waitFor(() => expect(told.onChanged).toHaveBeenCalledOnce());
    expect(patched).toHaveBeenCalledExactlyOnceWith({ tags: ["hall", "loud"] });
  });

  it("keeps what was typed where a tag is refused, with the reason", async () => {
    const problem = { detail: "a tag of 1 to 30 characters is expected", status: 422 };
    patched.mockReturnValue({ error: problem, response: new Response(null, { status: 422 }) });
    const hand = shown();
    await hand.click(screen.getByRole("button", { name: "change tags: Village hall" }));
    await hand.type(screen.getByRole("textbox"), ` ${"x".repeat(31)}{Enter}`);
    expect((await screen.findByRole("alert")).textContent).toContain("30 characters");
    expect(screen.getByRole("textbox").getAttribute("aria-invalid")).toBe("true");
    expect(told.onChanged).not.toHaveBeenCalled();
  });

  it("passes on a press on a tag, on copy and on put away", async () => {
    const hand = shown();
    await hand.click(screen.getByRole("button", { name: "hall" }));
    await hand.click(screen.getByRole("button", { name: "Copy Village hall" }));
    await hand.click(screen.getByRole("button", { name: "Put away Village hall" }));
    expect(told.onTag).toHaveBeenCalledWith("hall");
    expect([told.onCopy, told.onAway].map((f) => f.mock.calls.length)).toEqual([1, 1]);
  });
});

it("the small curve runs from edge to edge, the highest on top, no deeper than its box", () => {
  const points = curvePath({ frequency_hz: [10, 100, 1000], level_db: [20, 90, 84] })
    .slice(1)
    .split("L")
    .map((p) => p.split(" ").map(Number));
  expect(points.map((p) => p[0])).toEqual([0, 66, 132]);
  expect(points.map((p) => p[1])).toEqual([41, 1, 9]);
});
