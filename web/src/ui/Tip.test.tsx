import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { Tooltip } from "radix-ui";
import { afterEach, beforeAll, beforeEach, expect, it, vi } from "vitest";
import { change } from "../app/settings";
import { termOf } from "../lib/glossary";
import { Tip } from "./Tip";

beforeAll(() => {
  globalThis.ResizeObserver = class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
});
beforeEach(() => {
  vi.useFakeTimers();
  change({ help: true });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const press = vi.fn();
function tip() {
  render(
    <Tooltip.Provider>
      <Tip text="Wanted tuning of the box." term={termOf("tuning")}>
        <button type="button" onClick={press}>
          Tuned to
        </button>
      </Tip>
    </Tooltip.Provider>,
  );
  return screen.getByRole("button");
}
const touch = { pointerType: "touch", pointerId: 1 };
const wait = (ms: number) =>
  act(() => {
    vi.advanceTimersByTime(ms);
  });

it("opens under a finger that rests, with the place's words, the term and its drawing, and presses nothing", () => {
  const button = tip();
  fireEvent.pointerDown(button, touch);
  wait(200);
  expect(screen.queryByText(/Wanted tuning/)).toBeNull();
  wait(400);
  expect(screen.getAllByText(/Wanted tuning/).length).toBeGreaterThan(0);
  expect(screen.getAllByText(/swings against the air in the box/).length).toBeGreaterThan(0);
  expect(screen.getAllByRole("img", { name: /Three boxes/ }).length).toBeGreaterThan(0);
  fireEvent.pointerUp(button, touch);
  fireEvent.click(button);
  expect(press).not.toHaveBeenCalled();
});

it("of a short touch stays shut and lets the press through", () => {
  const button = tip();
  fireEvent.pointerDown(button, touch);
  wait(100);
  fireEvent.pointerUp(button, touch);
  wait(1000);
  fireEvent.click(button);
  expect(screen.queryByText(/Wanted tuning/)).toBeNull();
  expect(press).toHaveBeenCalledOnce();
});

it("is not there where help is closed", () => {
  const button = tip();
  act(() => change({ help: false }));
  fireEvent.pointerDown(screen.getByRole("button"), touch);
  wait(1000);
  expect(screen.queryByText(/Wanted tuning/)).toBeNull();
  expect(button.isConnected).toBe(false);
});
