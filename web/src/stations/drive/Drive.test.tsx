import { act, cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Tooltip } from "radix-ui";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refused, type Design, type DriveView, type Problem } from "../../api/client";
import { DriveLevel } from "../../app/DriveLevel";
import { change } from "../../app/settings";
import { apply, set, type Change } from "../../lib/pointer";
import { WorkbenchContext } from "../../workbench/context";
import type { Workbench } from "../../workbench/workbench";
import { ChainSketch } from "./ChainSketch";
import { choose } from "./chosen";
import { LadderDrawing } from "./LadderDrawing";
import type { ChainPart } from "./ladder";
import { Draft } from "../../ui/form";
import { LowCutPanel } from "./LowCutPanel";
import { Pegs } from "./Pegs";
import { Wished } from "./Wished";

const answers: { drive?: Partial<DriveView>; lowCut?: DriveView["low_cut"] } = {};
vi.mock("./useDrive", () => ({ useDrive: () => answers.drive, useLowCut: () => answers.lowCut }));

const member = (title: string, pointer = "/chain/filters/0") => ({
  pointer,
  title,
  off: false,
  own_db: [0, -3, 0],
  own_phase_deg: [0, 0, 0],
});

/** As much of a workbench as the station needs: a document that is really changed. */
function bench(document: Partial<Design>, evaluation: unknown = {}) {
  const listeners = new Set<() => void>();
  const whole = { version: 8, woofer: {}, enclosure: { family: "sealed" }, ...document } as Design;
  let state = { revisions: [{ letter: "A", document: whole, evaluation }], current: "A" };
  const now = () => state.revisions[0]!.document;
  const replace = (next: Design) => {
    state = { ...state, revisions: [{ letter: "A", document: next, evaluation }] };
    act(() => listeners.forEach((listener) => listener()));
  };
  const subscribe = (listener: () => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  };
  const fake = {
    snapshot: () => state,
    subscribe,
    subscribeLive: subscribe,
    get current() {
      return state.revisions[0];
    },
    change: vi.fn((changes: Change[]) => replace(apply(now(), changes))),
    set: vi.fn((pointer: string, value: unknown) => replace(set(now(), pointer, value))),
    take: vi.fn((_: unknown, changes: Change[]) => replace(apply(now(), changes))),
    endGesture: vi.fn(),
  };
  const show = (what: React.ReactNode) =>
    render(
      <Tooltip.Provider>
        <WorkbenchContext value={fake as unknown as Workbench}>{what}</WorkbenchContext>
      </Tooltip.Provider>,
    );
  return { fake, now, show };
}

const band = (level_db = -3) => ({ filter: { kind: "band" as const, frequency_hz: 40, level_db, q: 1.4 } });

beforeEach(() => change({ system: "metric" }));
afterEach(() => {
  cleanup();
  choose(null);
  delete answers.drive;
  delete answers.lowCut;
});

describe("the chain as blocks on a wire", () => {
  it("shows where everything is, from what plays to the woofers, without a chain too", () => {
    bench({}).show(<ChainSketch />);
    const titles = screen.getAllByRole("heading", { level: 2 }).map((h) => h.textContent);
    expect(titles).toEqual([
      "What plays",
      "Line level",
      "Amplifier",
      "Leads",
      "Parts at the terminals",
      "Woofers",
    ]);
    expect(screen.getByText("not stated")).toBeDefined();
  });

  it("switches a filter off and keeps it, opens it under its name, copies and takes it out", async () => {
    const user = userEvent.setup();
    const { now, show } = bench({ chain: { filters: [band()] } });
    show(<ChainSketch />);
    await user.click(screen.getByRole("checkbox", { name: "Band on" }));
    expect(now().chain?.filters?.[0]).toEqual({ ...band(), off: true });
    await user.click(screen.getByRole("checkbox", { name: "Band on" }));
    expect(now().chain?.filters?.[0]).toEqual(band());
    await user.click(screen.getByRole("button", { name: /^Band/ }));
    await user.click(screen.getByRole("button", { name: "Copy it" }));
    expect(now().chain?.filters).toEqual([band(), band()]);
    await user.click(screen.getByRole("button", { name: "Take out" }));
    expect(now().chain?.filters).toEqual([band()]);
  });

  it("offers at the amplifier only what it has", async () => {
    const user = userEvent.setup();
    const amplifier = { power_w: 300, load_ohm: 8, minimum_load_ohm: 4, polarity: true };
    const { now, show } = bench({ chain: { amplifier } });
    show(<ChainSketch />);
    await user.click(screen.getByRole("button", { name: "Add a filter: amplifier" }));
    const block = screen.getByRole("heading", { name: "Amplifier" }).closest("li")!;
    const offered = within(block)
      .getAllByRole("button")
      .map((b) => b.textContent);
    expect(offered).toContain("Polarity turned");
    expect(offered).toContain("Gain");
    expect(offered).not.toContain("Band");
    await user.click(within(block).getByRole("button", { name: "Polarity turned" }));
    expect(now().chain?.filters).toEqual([{ stage: "amplifier", filter: { kind: "polarity" } }]);
  });

  it("says the price of a boost in the page's units", async () => {
    const user = userEvent.setup();
    const price = {
      lift_db: 6,
      watts: 40,
      watts_without: 10,
      excursion_mm: 12.7,
      excursion_without_mm: 6.35,
      level_cost_db: 4.2,
    };
    const seen = { member: member("Band"), stage: "line", fixed: false, ranges: [], beyond: false, price };
    answers.drive = {
      frequency_hz: [10, 100, 1000],
      filters: [seen] as never,
      parts: [],
      leads: member("Leads", "/chain/cable"),
    };
    bench({ chain: { filters: [band(6)] } }).show(<ChainSketch />);
    await user.click(screen.getByRole("button", { name: /^Band/ }));
    expect(screen.getByTestId("price").textContent).toMatch(
      /40 W in place of 10 W, cone 13 mm.*4\.2 dB off the loudest/,
    );
    act(() => change({ system: "inch" }));
    expect(screen.getByTestId("price").textContent).not.toMatch(/mm/);
  });
});

describe("pegs", () => {
  const scale = { left: 40, top: 10, width: 500, height: 200, low: 60, high: 100 };
  const curves = { frequency_hz: [10, 100, 1000], level_db: [70, 90, 85], unfiltered_level_db: [70, 93, 85] };

  it("stand at what can be pulled, and keys do what a hand does", async () => {
    const user = userEvent.setup();
    const { now, show } = bench({ chain: { filters: [band(), { ...band(), off: true }] } }, { curves });
    show(<Pegs scale={scale} />);
    const [peg, ...more] = screen.getAllByRole("slider");
    expect(more).toEqual([]);
    expect(peg?.getAttribute("aria-valuenow")).toBe("-3");
    act(() => peg?.focus());
    await user.keyboard("{ArrowUp}{ArrowRight}{PageUp}");
    const filter = now().chain?.filters?.[0]?.filter;
    expect(filter).toMatchObject({ kind: "band", level_db: -2.5, frequency_hz: 41.2, q: 1.3 });
    // what is held shows its depth and its width
    expect(screen.getByTestId("peg-dimensions").textContent).toMatch(/-2\.5 dB at 41\.2 Hz.*oct/);
  });
});

describe("the low cut", () => {
  const slope = { shape: "butterworth" as const, order: 4 };
  const cut = [{ stage: "amplifier", filter: { kind: "high_pass", frequency_hz: 24.2, slope } }];
  const put = [{ pointer: "/chain/filters", value: [band(), ...cut] }];
  const found = {
    volts: 49,
    to_hz: 24,
    note_hz: 24,
    wanted: true,
    choices: [
      {
        slope: { shape: "butterworth" as const, order: 4 },
        frequency_hz: 24.2,
        does: true,
        holds_v: 49.3,
        loss_db: 3.2,
        later_ms: 24,
        changes: put,
      },
      {
        slope: { shape: "own_q" as const, q: 1.2 },
        frequency_hz: 36,
        does: false,
        holds_v: 30,
        loss_db: 1.1,
        later_ms: 9,
        changes: [],
      },
    ],
  };

  it("is put in with one press, as the server says, and told where it does not hold", async () => {
    const user = userEvent.setup();
    answers.lowCut = found;
    const { now, show } = bench({ chain: { filters: [band()] } });
    show(<LowCutPanel />);
    expect(screen.getByTestId("low-cuts").textContent).toMatch(/holds to 30 V only/);
    await user.click(screen.getByRole("button", { name: "24.2 Hz" }));
    expect(now().chain?.filters).toEqual([band(), ...cut]);
  });

  it("says where none is wanted, and nothing where nothing is limited", () => {
    answers.lowCut = { ...found, wanted: false };
    bench({}).show(<LowCutPanel />);
    expect(screen.getByText(/no low cut is wanted/)).toBeDefined();
    cleanup();
    delete answers.lowCut;
    expect(bench({}).show(<LowCutPanel />).container.textContent).toBe("");
  });
});

describe("the circuit", () => {
  const parts: ChainPart[] = [
    { placement: "in_line", part: { kind: "coil", inductance_mh: 4.7 } },
    { placement: "across", off: true, part: { kind: "zobel", resistance_ohm: 6.8, capacitance_uf: 33 } },
  ];

  it("is pressed, stepped and added to on the drawing", async () => {
    const user = userEvent.setup();
    const [onChoose, onStep, onInsert] = [vi.fn(), vi.fn(), vi.fn()];
    render(
      <LadderDrawing
        parts={parts}
        chosen={null}
        onChoose={onChoose}
        onStep={onStep}
        onInsert={onInsert}
        amplifier="Plate"
        woofers="Woofer"
      />,
    );
    await user.click(screen.getByRole("button", { name: "Coil, 4.7 mH" }));
    expect(onChoose).toHaveBeenCalledWith(0);
    act(() => screen.getByRole("button", { name: /R and C in series, 33 µF, 6.8 Ω/ }).focus());
    await user.keyboard("{ArrowUp}{ArrowDown}{Enter}");
    expect(onStep.mock.calls).toEqual([
      [1, 1],
      [1, -1],
    ]);
    expect(onChoose).toHaveBeenLastCalledWith(1);
    await user.click(screen.getByRole("button", { name: "Insert a part at place 3" }));
    expect(onInsert).toHaveBeenCalledWith(2);
    // one that is off says so
    expect(screen.getByText("off")).toBeDefined();
  });
});

describe("the drive", () => {
  const evaluation = {
    summary: { drive: { volts: 21.64, nominal_w: 58.5, lowest_load_ohm: 5, lowest_load_hz: 40 } },
  };

  it("is told in volts, in watts into nominal, or as loud as it goes", async () => {
    const user = userEvent.setup();
    const drive = { kind: "voltage" as const, volts: 12 };
    const { now, show } = bench({ drive, woofer: { nominal_ohm: 8, xmax_mm: 9 } }, evaluation);
    show(<DriveLevel />);
    const choice = screen.getByRole("combobox", { name: "Drive told in" });
    await user.selectOptions(choice, "power");
    expect(now().drive).toEqual({ kind: "power", watts: 58.5 });
    await user.selectOptions(choice, "loudest");
    expect(now().drive).toEqual({ kind: "loudest" });
    expect(screen.getByTestId("loudest-drive").textContent).toMatch(/21\.6 V/);
    await user.selectOptions(choice, "voltage");
    expect(now().drive).toEqual({ kind: "voltage", volts: 21.6 });
  });

  it("offers no watts without a nominal impedance, and no loudest where nothing ends it", () => {
    bench({ drive: { kind: "voltage", volts: 12 } }, evaluation).show(<DriveLevel />);
    expect(screen.getAllByRole("option").map((o) => o.textContent)).toEqual(["volts"]);
  });
});

describe("what is looked for by a wish", () => {
  const schema = { properties: { bands: { type: "integer", title: "Bands" } }, required: ["bands"] };
  const panel = (ask: () => Promise<{ changes: Change[] }>) => (
    <Wished
      title="Look"
      open
      draft={new Draft(schema, { bands: 2 }, 0)}
      from="/flatten"
      find="Find"
      ask={ask}
      take="Take"
      taken="Taken"
      testid="found"
    >
      {() => <p>Found something</p>}
    </Wished>
  );

  it("is offered for the design it was found for, and no longer once that has moved on", async () => {
    const user = userEvent.setup();
    const changes = [{ pointer: "/chain/filters", value: [band(-6)] }];
    const { fake, now, show } = bench({ chain: { filters: [band()] } });
    show(panel(() => Promise.resolve({ changes })));
    await user.click(screen.getByRole("button", { name: "Find" }));
    expect(screen.getByTestId("found").textContent).toMatch(/Found something/);
    fake.set("/name", "another");
    expect(screen.queryByTestId("found")).toBeNull();
    await user.click(screen.getByRole("button", { name: "Find" }));
    await user.click(screen.getByRole("button", { name: "Take" }));
    expect(now().chain?.filters).toEqual([band(-6)]);
  });

  it("has the server's faults at its own fields, and those about the design in words alone", async () => {
    const user = userEvent.setup();
    const errors = [
      { code: "contradiction", pointer: "/flatten/bands", message: ["the amplifier has 1 band"] },
      { code: "missing", pointer: "/woofer/fs_hz", message: ["missing"] },
    ];
    bench({}).show(
      panel(() => Promise.reject(new Refused({ detail: "it has 1 band", errors } as unknown as Problem))),
    );
    await user.click(screen.getByRole("button", { name: "Find" }));
    const said = screen.getAllByRole("alert").map((a) => a.textContent);
    expect(said).toContain("the amplifier has 1 band");
    expect(said).toContain("it has 1 band");
    expect(said).not.toContain("missing");
  });
});
