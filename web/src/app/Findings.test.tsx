import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Tooltip } from "radix-ui";
import { MemoryRouter, Route, Routes, useLocation } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Finding, Problem, Text } from "../api/client";
import { WorkbenchContext } from "../workbench/context";
import type { BuildState, Workbench } from "../workbench/workbench";
import { Findings } from "./Findings";
import { change } from "./settings";

const mm = (value: number, metric: string, inch: string): Text[number] => ({
  values: [value],
  unit: "mm",
  metric,
  inch,
});
const finding = (part: Partial<Finding>) =>
  ({
    kind: "port_will_not_fit",
    station: "airway",
    severity: "broken",
    limit_source: "physics",
    pointer: "/enclosure/port",
    title: ["Port will not fit"],
    sentence: ["The port is ", mm(508, "508 mm", "20 in"), " long."],
    remedies: [],
    ...part,
  }) as Finding;
const remedy = {
  title: ["A slot ", mm(25.4, "25 mm", "1 in"), " high"],
  predicted: ["fits"],
  changes: [{ pointer: "/enclosure/port/section/height_mm", value: 25.4 }],
};

/** As much of a workbench as the list needs. */
function bench(part: { list?: Finding[]; problem?: Partial<Problem>; taken?: Text; behind?: boolean }) {
  const document = { name: "A" };
  const current = {
    id: "A",
    letter: "A",
    document,
    found: part.list && { in: part.behind ? { name: "older" } : document, list: part.list },
    problem: part.problem,
  };
  const state = {
    revisions: [current],
    current: "A",
    taken: part.taken && { title: part.taken },
  } as unknown as BuildState;
  const listeners = new Set<() => void>();
  const subscribe = (listener: () => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  };
  let shown = state;
  const catchUp = (list: Finding[]) => {
    shown = { ...state, revisions: [{ ...current, found: { in: document, list } }] } as unknown as BuildState;
    listeners.forEach((listener) => listener());
  };
  const fake = {
    snapshot: () => shown,
    subscribe,
    subscribeLive: subscribe,
    current,
    take: vi.fn(),
    takeBack: vi.fn(),
  };
  const Where = () => <output>{useLocation().pathname}</output>;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={["/builds/7/box"]}>
        <WorkbenchContext value={fake as unknown as Workbench}>
          <Routes>
            <Route
              path="/builds/:id/:station"
              element={
                <Tooltip.Provider>
                  <Findings />
                </Tooltip.Provider>
              }
            />
          </Routes>
          <Where />
        </WorkbenchContext>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { ...fake, catchUp, hand: userEvent.setup() };
}

beforeEach(() => change({ system: "metric" }));
afterEach(cleanup);

describe("the findings", () => {
  it("say what, how bad and on whose word, in the units of the page", () => {
    bench({ list: [finding({ remedies: [remedy] })] });
    const entry = screen.getByRole("listitem");
    expect(within(entry).getByRole("button", { name: /^broken limit: ?Port will not fit$/ })).toBeTruthy();
    expect(entry.textContent).toContain("The port is 508 mm long.");
    expect(entry.textContent).toContain("physics and geometry");
    act(() => change({ system: "inch" }));
    expect(entry.textContent).toContain("The port is 20 in long.");
    expect(entry.textContent).toContain("A slot 1 in high");
    expect(entry.textContent).not.toContain("mm");
  });

  it("lead to the station that can do something about them", async () => {
    const { hand } = bench({ list: [finding({})] });
    await hand.click(screen.getByRole("button", { name: /Port will not fit/ }));
    expect(screen.getByText("/builds/7/airway")).toBeTruthy();
  });

  it("have a remedy taken with one press and taken back with one press", async () => {
    const { hand, take, takeBack } = bench({ list: [finding({ remedies: [remedy] })], taken: ["A slot"] });
    await hand.click(screen.getByRole("button", { name: /A slot 25 mm high/ }));
    expect(take).toHaveBeenCalledWith(remedy.title, remedy.changes);
    await hand.click(screen.getByRole("button", { name: "Take it back" }));
    expect(takeBack).toHaveBeenCalledOnce();
  });

  it("have a remedy made for the design before wait for its like in this one", async () => {
    const { hand, take, catchUp } = bench({ list: [finding({ remedies: [remedy] })], behind: true });
    const button = screen.getByRole("button", { name: /A slot 25 mm high/ });
    expect(button.getAttribute("aria-disabled")).toBe("true");
    await hand.click(button);
    expect(take).not.toHaveBeenCalled();
    const fresh = { ...remedy, title: ["A slot 30 mm high"], changes: [] };
    act(() => catchUp([finding({ remedies: [{ ...fresh, title: ["Another way"] }, fresh] })]));
    expect(take).toHaveBeenCalledExactlyOnceWith(fresh.title, fresh.changes);
  });

  it("are none only once everything was looked at", () => {
    bench({ list: [] });
    // and what is not begun was not judged
    const said = screen.getByText(/^Nothing stands against what was judged/).textContent;
    expect(said).toContain("Not begun, so not judged: Brief, Box, Quiet, Cabinet, Drive, Room.");
    cleanup();
    // the list is of the design before
    bench({ list: [], behind: true });
    expect(screen.queryByText(/^Nothing stands against what was judged/)).toBeNull();
    expect(screen.getByRole("list").getAttribute("aria-busy")).toBe("true");
    cleanup();
    bench({});
    expect(screen.queryByText(/^Nothing stands against what was judged/)).toBeNull();
  });

  it("of a design that cannot be worked out are none: it is said why", () => {
    bench({ list: [], problem: { detail: "the woofer's fs is missing" } });
    expect(screen.getByRole("alert").textContent).toBe("the woofer's fs is missing");
    expect(screen.queryByText(/^Nothing stands against what was judged/)).toBeNull();
  });
});
