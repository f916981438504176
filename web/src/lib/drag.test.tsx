import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useDrag } from "./drag";

const moved = vi.fn<(x: number, from: number) => void>();
const ended = vi.fn();

function Pulled({ hold = 7 }: { hold?: number | null }) {
  const drag = useDrag<number, HTMLDivElement>({
    begin: () => hold,
    move: (event, from) => moved(event.clientX, from),
    end: ended,
  });
  return <div role="slider" aria-valuenow={0} tabIndex={0} {...drag} />;
}

beforeEach(() => {
  moved.mockClear();
  ended.mockClear();
  // jsdom captures no pointers
  HTMLElement.prototype.setPointerCapture = vi.fn();
});
afterEach(cleanup);

const slider = () => screen.getByRole("slider");
const MOVE = "onpointerrawupdate" in window ? "pointerrawupdate" : "pointermove";
const move = (x: number) => fireEvent(slider(), new MouseEvent(MOVE, { clientX: x, bubbles: true }));

it("what is held is told with every move, until it is let go", () => {
  render(<Pulled />);
  move(1);
  expect(moved).not.toHaveBeenCalled();
  fireEvent.pointerDown(slider());
  move(2);
  move(3);
  fireEvent.pointerUp(slider());
  move(4);
  expect(moved.mock.calls).toEqual([
    [2, 7],
    [3, 7],
  ]);
  expect(ended).toHaveBeenCalledOnce();
});

it("a pull that the browser breaks off has ended too", () => {
  render(<Pulled />);
  fireEvent.pointerDown(slider());
  fireEvent.pointerCancel(slider());
  move(2);
  expect(moved).not.toHaveBeenCalled();
  expect(ended).toHaveBeenCalledOnce();
});

it("where there is nothing to hold nothing is pulled", () => {
  render(<Pulled hold={null} />);
  fireEvent.pointerDown(slider());
  move(2);
  expect(moved).not.toHaveBeenCalled();
});

it("a second finger does not make one move count twice", () => {
  render(<Pulled />);
  fireEvent.pointerDown(slider());
  fireEvent.pointerDown(slider());
  move(2);
  expect(moved).toHaveBeenCalledOnce();
});

it("under a finger shows beside it what the handle says, until it is let go; a mouse needs no lens", async () => {
  render(<Pulled />);
  const lens = () => document.querySelector<HTMLElement>("[data-lens]");
  slider().setAttribute("aria-valuetext", "31 Hz");
  fireEvent.pointerDown(slider(), { pointerType: "mouse" });
  expect(lens()).toBeNull();
  fireEvent.pointerUp(slider());
  const scrolls = () => fireEvent(slider(), new Event("touchmove", { bubbles: true, cancelable: true }));
  expect(scrolls()).toBe(true);
  fireEvent.pointerDown(slider(), { pointerType: "touch", clientX: 200, clientY: 300 });
  // what is held does not scroll the page
  expect(scrolls()).toBe(false);
  expect(lens()?.textContent).toBe("31 Hz");
  // above the finger, and below it where there is no room
  expect(parseFloat(lens()?.style.top ?? "")).toBeLessThan(300);
  slider().setAttribute("aria-valuetext", "29 Hz");
  fireEvent(slider(), new MouseEvent(MOVE, { clientX: 210, clientY: 20, bubbles: true }));
  await vi.waitFor(() => expect(lens()?.textContent).toBe("29 Hz"));
  expect(parseFloat(lens()?.style.top ?? "")).toBeGreaterThan(20);
  fireEvent.pointerUp(slider());
  expect(lens()).toBeNull();
  expect(scrolls()).toBe(true);
});
