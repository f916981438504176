import { act } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Guarded } from "./Guarded";

let place: HTMLElement;
let root: ReturnType<typeof createRoot>;

beforeEach(() => {
  vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
  vi.spyOn(console, "error").mockImplementation(() => undefined);
  place = document.createElement("div");
  document.body.append(place);
  root = createRoot(place);
});
afterEach(() => {
  act(() => root.unmount());
  place.remove();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

test("a part that breaks says so, leaves its neighbour alone, and can be tried again", () => {
  let broken = true;
  const Fragile = () => {
    if (broken) throw new Error("no such lane");
    return <p>whole</p>;
  };
  act(() =>
    root.render(
      <>
        <p>neighbour</p>
        <Guarded what="The curves">
          <Fragile />
        </Guarded>
      </>,
    ),
  );
  expect(place.querySelector("[role=alert]")?.textContent).toMatch(
    /The curves cannot be shown.*no such lane/,
  );
  expect(place.textContent).toContain("neighbour");
  broken = false;
  act(() => place.querySelector("button")?.click());
  expect(place.textContent).toContain("whole");
  expect(place.querySelector("[role=alert]")).toBeNull();
});
