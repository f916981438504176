import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { change } from "../app/settings";
import { Plot } from "./Plot";
import { Head } from "./Table";

const x = [10, 100, 1000];
const words = () => [...document.querySelectorAll("svg text")].map((t) => t.textContent);

beforeEach(() => change({ system: "metric" }));
afterEach(cleanup);

describe("a plot", () => {
  it("is told in the units of the page, to a bound that is round in them", () => {
    render(
      <Plot
        title="Cone stroke"
        unit="travel"
        x={x}
        ticks={[100]}
        range={[0, 19]}
        curves={[{ values: [1, 2, 3] }]}
      />,
    );
    expect(words()).toEqual(expect.arrayContaining(["20", "Cone stroke mm"]));
    const metric = document.querySelector("path[stroke='var(--ink)']")?.getAttribute("d");
    act(() => change({ system: "inch" }));
    // 19 mm are 0.748 in
    expect(words()).toEqual(expect.arrayContaining(["0.75", "Cone stroke in"]));
    expect(document.querySelector("path[stroke='var(--ink)']")?.getAttribute("d")).not.toBe(metric);
  });

  it("marks its axis at round numbers of the unit it is told in", () => {
    change({ system: "inch" });
    render(
      <Plot
        title="Length"
        unit="mm"
        x={[20, 2000]}
        xUnit="cm2"
        ticks={[5, 10]}
        range={[0, 300]}
        curves={[]}
      />,
    );
    expect(words()).toEqual(expect.arrayContaining(["5", "10", "in²"]));
    const marks = [...document.querySelectorAll("path[stroke='var(--rule)']")].map((p) =>
      Number(/^M([\d.]+)/.exec(p.getAttribute("d") ?? "")?.[1]),
    );
    const share = (cm2: number) => Math.log(cm2 / 20) / Math.log(100);
    expect(marks[0]).toBeCloseTo(40 + share(5 * 6.4516) * 572, 6);
  });

  it("is pulled at with hand and keys, within its axis", () => {
    const picked = vi.fn<(v: number) => void>();
    const done = vi.fn();
    render(
      <Plot
        title="Level"
        unit="dB"
        x={x}
        ticks={[]}
        range={[60, 100]}
        curves={[]}
        at={900}
        onPick={picked}
        onDone={done}
      />,
    );
    const slider = screen.getByRole("slider", { name: "Level" });
    fireEvent.keyDown(slider, { key: "ArrowLeft" });
    fireEvent.keyDown(slider, { key: "ArrowRight" });
    fireEvent.keyDown(slider, { key: "ArrowRight", shiftKey: true });
    fireEvent.keyDown(slider, { key: "a" });
    expect(picked.mock.calls.map(([v]) => Math.round(v))).toEqual([841, 963, 963]);
    fireEvent.blur(slider);
    expect(done).toHaveBeenCalledOnce();
  });

  it("draws nothing where there is nothing, and a letter where its curve ends on the axis", () => {
    render(
      <Plot
        title="Level"
        unit="dB"
        x={x}
        across={[10, 300]}
        ticks={[]}
        range={[0, 100]}
        height={117}
        curves={[{ values: [10, 60, 90], letter: "A" }, { values: [] }]}
      />,
    );
    const [first, second] = document.querySelectorAll("path[stroke='var(--ink)']");
    // the third point lies beyond the axis
    expect(first?.getAttribute("d")?.split("L")).toHaveLength(2);
    expect(second?.hasAttribute("d")).toBe(false);
    expect(Number(screen.getByText("A").getAttribute("y"))).toBeCloseTo(17 + 0.4 * 100 + 4, 6);
  });
});

it("a head of a column names the unit of the page", () => {
  change({ system: "inch" });
  render(
    <table>
      <thead>
        <tr>
          <Head unit="mm2">gap</Head>
          <Head unit="Hz">tuning</Head>
        </tr>
      </thead>
    </table>,
  );
  expect(screen.getAllByRole("columnheader").map((h) => h.textContent)).toEqual(["gap, in²", "tuning, Hz"]);
});
