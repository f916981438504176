import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { Tooltip } from "radix-ui";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { change } from "../app/settings";
import { QuantityField } from "./QuantityField";

type Props = Parameters<typeof QuantityField>[0];

/** A field of a page that keeps what it is told, and what it was told. */
function field(props: Partial<Props> & { start?: number | undefined }) {
  const told: (number | undefined)[] = [];
  const gestures: (string | undefined)[] = [];
  const Page = () => {
    const [value, setValue] = useState(props.start);
    return (
      <Tooltip.Provider>
        <QuantityField
          label="Depth"
          help={undefined}
          unit="mm"
          {...props}
          value={value}
          onChange={(v, gesture) => {
            told.push(v);
            gestures.push(gesture);
            setValue(v);
          }}
        />
      </Tooltip.Provider>
    );
  };
  render(<Page />);
  const input = screen.getByLabelText<HTMLInputElement>("Depth");
  return { told, gestures, input, hand: userEvent.setup() };
}

beforeEach(() => change({ system: "metric" }));
afterEach(cleanup);

describe("a field of a quantity", () => {
  it("takes a sum and says how it was read", async () => {
    const { told, input, hand } = field({ start: 100 });
    await hand.clear(input);
    await hand.type(input, "18+18+3/4 in{Enter}");
    // a unit at the end belongs to all that name none
    expect(told).toEqual([933.45]);
    expect(screen.getByText(/^= 933/)).toBeTruthy();
  });

  it("keeps what it cannot read as typed, with the reason, and takes nothing", async () => {
    const { told, input, hand } = field({ start: 100 });
    await hand.clear(input);
    await hand.type(input, "12 L{Enter}");
    expect(told).toEqual([]);
    expect(input.value).toBe("12 L");
    expect(input.getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByRole("alert").textContent).toMatch(/"L" is not known here; try/);
    // escape goes back to what stands
    await hand.type(input, "{Escape}");
    expect([input.value, input.getAttribute("aria-invalid")]).toEqual(["100", null]);
  });

  it("names the bound that is passed, in the units of the page", async () => {
    const { told, input, hand } = field({ start: 100, min: 20, max: 508 });
    await hand.clear(input);
    await hand.type(input, "509{Enter}");
    expect(screen.getByRole("alert").textContent).toBe("expected: at most 508 mm");
    change({ system: "inch" });
    await hand.clear(input);
    await hand.type(input, "21{Enter}");
    expect(screen.getByRole("alert").textContent).toBe("expected: at most 20 in");
    expect(told).toEqual([]);
  });

  it("means inches where inches are shown, filled or empty", async () => {
    change({ system: "inch" });
    const { told, input, hand } = field({ start: 254, optional: true });
    expect(input.value).toBe("10");
    await hand.clear(input);
    await hand.type(input, "11 1/2{Enter}");
    expect(told.at(-1)).toBeCloseTo(292.1, 6);
    await hand.clear(input);
    await hand.tab();
    expect(told.at(-1)).toBeUndefined();
    await hand.type(input, "2{Enter}");
    expect(told.at(-1)).toBeCloseTo(50.8, 6);
    // and a unit of the other system is what it says
    await hand.clear(input);
    await hand.type(input, "60 mm{Enter}");
    expect(told.at(-1)).toBe(60);
  });

  it("says what is taken while it is empty, in the units of the page", () => {
    change({ system: "inch" });
    const { input } = field({ empty: 2438.4, optional: true });
    expect(input.placeholder).toBe("96");
    cleanup();
    expect(field({ empty: { value: 50.8, words: "derived" } }).input.placeholder).toBe("2 derived");
    cleanup();
    expect(field({ empty: "none" }).input.placeholder).toBe("none");
  });

  it("does not go without a value it needs", async () => {
    const { told, input, hand } = field({ start: 100 });
    await hand.clear(input);
    await hand.tab();
    expect(told).toEqual([]);
    expect(screen.getByRole("alert").textContent).toMatch(/a value is needed here, for example 100/);
  });

  it("is nudged by arrow keys, coarse and fine, and not past its bounds", async () => {
    const { told, gestures, input, hand } = field({ start: 90, max: 101 });
    await hand.click(input);
    await hand.keyboard("{ArrowUp}{Shift>}{ArrowUp}{/Shift}{Alt>}{ArrowDown}{/Alt}{ArrowUp}");
    // steps of the leading digit's tenth; the ten of a hundred would go past
    expect(told).toEqual([91, 100, 99, 100]);
    expect(new Set(gestures)).toEqual(new Set(["Depth-keys"]));
  });

  it("counts whole things one by one and takes no halves", async () => {
    const { told, input, hand } = field({ start: 2, unit: "", whole: true });
    await hand.click(input);
    await hand.keyboard("{ArrowUp}");
    await hand.clear(input);
    await hand.type(input, "2.5{Enter}");
    expect(told).toEqual([3]);
    expect(screen.getByRole("alert").textContent).toMatch(/a whole number/);
  });

  it("shows what the server found wrong with it", () => {
    const { input } = field({ start: 100, problem: "thicker than the box" });
    expect(screen.getByRole("alert").textContent).toBe("thicker than the box");
    expect(input.getAttribute("aria-describedby")).toBe(screen.getByRole("alert").id);
  });
});
