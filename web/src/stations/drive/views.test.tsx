import { cleanup, render, screen } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Design, PowerView as Power } from "../../api/client";
import { WorkbenchContext } from "../../workbench/context";
import type { Workbench } from "../../workbench/workbench";
import { OutView } from "./OutView";
import { PowerView } from "./PowerView";

const answers: { power?: Power } = {};
const asked = vi.fn();
vi.mock("../../workbench/documentQuery", () => ({
  useDocumentQuery: () => answers.power,
  useQueryAbout: () => undefined,
}));
vi.mock("./useDrive", () => ({
  useDrive: () => ({
    settings: [{ stage: "amplifier", filter: "Band", knob: "frequency", value: "44.0 Hz" }],
  }),
}));
vi.mock("../../api/client", async (original) => ({
  ...(await original<typeof import("../../api/client")>()),
  api: {
    POST: (path: string, what: { params: { query: Record<string, unknown> } }) => {
      asked(path, what.params.query);
      const biquads = { convention: "taken off", off_analog_db: 0, off_in_floats_db: 0.4, sections: [] };
      return Promise.resolve({ data: biquads, response: new Response() });
    },
  },
}));

const show = (what: React.ReactNode, chain: Design["chain"] = {}) => {
  const document = { version: 8, woofer: {}, enclosure: { family: "sealed" }, chain };
  const state = { revisions: [{ letter: "A", document }], current: "A" };
  const fake = {
    snapshot: () => state,
    subscribe: () => () => undefined,
    subscribeLive: () => () => undefined,
    current: state.revisions[0],
  };
  return render(
    <QueryClientProvider client={new QueryClient()}>
      <WorkbenchContext value={fake as unknown as Workbench}>{what}</WorkbenchContext>
    </QueryClientProvider>,
  );
};

vi.mock("../../ui/SchemaForm", () => ({
  SchemaForm: ({ pointer }: { pointer: string }) => <i>{pointer}</i>,
}));

afterEach(() => {
  cleanup();
  asked.mockClear();
  delete answers.power;
});

describe("power and heat", () => {
  const flow = [
    { title: "out of the amplifier", watts: 30 },
    { title: "heat in the coils", watts: 29 },
    { title: "sound", watts: 0.4 },
  ];
  const supply = {
    playing_w: 43.3,
    idle_w: 8,
    needed_wh: 216,
    capacity_wh: [270, 432] as [number, number],
    endless: false,
    lasts_h: 4.6,
    if_3_db_more_efficient_wh: 120,
  };
  const coil = {
    air_c: 20,
    minutes: [0, 1, 60],
    coil_c: [20, 120, 231],
    after_c: 231,
    rest_c: 240,
    rest_w: 80,
    frequency_hz: [10, 100, 1000],
    compression_db: [0.1, 2.4, 1],
    mean_compression_db: 1.9,
    max_level_db: [96, 110, null],
    max_level_hot_db: [96, 108, null],
  };

  it("tells where the watts go, what a battery lasts and how warm the coil gets, and that it is an estimate", () => {
    answers.power = { programme_v: 17.4, flow, supply, coil };
    show(<PowerView />, { amplifier: { power_w: 300, load_ohm: 8, minimum_load_ohm: 4, supply: "battery" } });
    expect(screen.getByTestId("flow").textContent).toMatch(/out of the amplifier30 W.*sound0\.4 W/);
    expect(screen.getByTestId("battery").textContent).toMatch(/216 Wh.*270 Wh.*432 Wh.*lasts 4\.6 h.*120 Wh/);
    expect(screen.getByTestId("coil").textContent).toMatch(/231 °C.*1\.9 dB.*estimate/);
    expect(screen.getByText(/^Highest level, cold and hot/)).toBeDefined();
    // a hot coil is marked, and who works with batteries is warned
    expect(screen.getByText("231 °C").className).toContain("brick");
    expect(screen.getByText(/Batteries can burn/)).toBeDefined();
  });

  it("says what is missing where no rated power is stated, and that a charger is enough", () => {
    answers.power = { programme_v: 17.4, flow, supply: { ...supply, endless: true, lasts_h: null } };
    show(<PowerView />);
    expect(screen.getByText(/State the woofer's rated power/)).toBeDefined();
    expect(screen.getByTestId("battery").textContent).toMatch(/it plays on\. A box/);
    expect(screen.queryByText(/Batteries can burn/)).toBeNull();
  });

  it("waits for its answer", () => {
    show(<PowerView />);
    expect(screen.getByText("Computing…")).toBeDefined();
  });
});

describe("what leaves the door", () => {
  it("asks for the rate, the sign and the stages that are chosen", async () => {
    const user = userEvent.setup();
    vi.stubGlobal(
      "URL",
      Object.assign(URL, { createObjectURL: () => "blob:", revokeObjectURL: () => undefined }),
    );
    show(<OutView />);
    expect(screen.getByTestId("settings").textContent).toMatch(/in the amplifier.*Band.*44\.0 Hz/);
    await user.selectOptions(screen.getByRole("combobox", { name: "Sampling rate" }), "96000");
    await user.selectOptions(screen.getByRole("combobox", { name: "Sign of a1 and a2" }), "added");
    await user.click(screen.getByRole("checkbox", { name: /set in the amplifier/ }));
    const saved = screen.getAllByRole("button", { name: "CSV" }).find((b) => b.className.includes("border"));
    if (saved) await user.click(saved);
    expect(asked).toHaveBeenLastCalledWith("/api/drive/biquads", {
      rate: 96000,
      added: true,
      amplifier: true,
      format: "csv",
    });
    await user.click(screen.getByRole("button", { name: "Print the card (PDF)" }));
    expect(asked).toHaveBeenLastCalledWith("/api/drive/card", { paper: "a4", system: "metric" });
  });
});
