import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, beforeAll, expect, it, vi } from "vitest";
import { matches, Palette } from "./Palette";

beforeAll(() => {
  // the browser's own, which jsdom lacks
  globalThis.ResizeObserver = class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  Element.prototype.scrollIntoView = () => undefined;
});
afterEach(cleanup);

it("orders by how well words fit", () => {
  const score = (typed: string, ...keywords: string[]) => matches("", typed, keywords);
  expect(score("tuning", "Tuning")).toBe(1);
  expect(score("tun", "Tuning")).toBeGreaterThan(score("tun", "Port tuning"));
  expect(score("port", "Port tuning")).toBeGreaterThan(score("port", "Length", "Port"));
  expect(score("bass reflex", "Vented box", "bass reflex")).toBeGreaterThan(0);
  expect(score("bass horn", "Vented box", "bass reflex")).toBe(0);
});

it("opens by its key, runs what is chosen once it is closed, and gathers anew each time", async () => {
  const run = vi.fn();
  const groups = vi.fn(() => [
    { title: "Stations", entries: [{ key: "s", words: "Airway", run: () => undefined }] },
    { title: "Fields", entries: [{ key: "f", words: "Tuning", beside: "Port", run }] },
  ]);
  const hand = userEvent.setup();
  render(<Palette groups={groups} />);
  expect(groups).not.toHaveBeenCalled();
  await hand.keyboard("{Control>}k{/Control}");
  expect(screen.getByRole("option", { name: /Airway/ })).toBeTruthy();
  await hand.keyboard("tuni");
  expect(screen.queryByRole("option", { name: /Airway/ })).toBeNull();
  await hand.keyboard("{Enter}");
  expect(screen.queryByRole("dialog")).toBeNull();
  await vi.waitFor(() => expect(run).toHaveBeenCalledOnce());
  await hand.keyboard("{Control>}k{/Control}");
  await hand.keyboard("no such thing");
  expect(screen.getByText("Nothing here is called that.")).toBeTruthy();
  expect(groups).toHaveBeenCalledTimes(2);
});
