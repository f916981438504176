import { cleanup, screen, waitFor } from "@testing-library/react";
import { mounted } from "../../tests/mounted";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { MeasurementRecord, WooferProof } from "../../api/client";
import { change } from "../../app/settings";
import { WooferView } from "./WooferView";

type Answer = { status: number; body: unknown };
const served = vi.hoisted(() => ({
  answer: (...asked: [string, unknown]): Answer => ({ status: 500, body: asked }),
}));
vi.mock("../../api/client", async (original) => {
  const call = (path: string, asked?: { body?: unknown }) => {
    const { status, body } = served.answer(path, asked?.body);
    const response = new Response(null, { status });
    return Promise.resolve(status < 300 ? { data: body, response } : { error: body, response });
  };
  return { ...(await original<typeof import("../../api/client")>()), api: { GET: call, POST: call } };
});
const loop = vi.hoisted(() => ({ set: vi.fn(), stop: vi.fn(), play: vi.fn() }));
vi.mock("../../lib/soundcard", () => ({ playAlone: loop.play }));
vi.mock("../../workbench/documentQuery", () => ({
  useDocumentQuery: () => ({
    break_in: {
      frequency_hz: 30,
      stroke_mm: 4,
      volts: 3.2,
      hours: 0.001,
      steps: [["Do not leave it unattended."]],
    },
  }),
}));

const drawn = { frequency_hz: [10, 20, 40], magnitude: [6, 30, 7] };
const proof = {
  figures: [
    { id: "fs_hz", value: 34, low: 33.9, high: 34.1, sigma: 0.001 },
    { id: "vas_l", value: 90, low: 86, high: 94, sigma: 0.02 },
  ],
  planned: [30, 120],
  law: "plain",
  laws: [],
  left_percent: 0.6,
  curves: [{ taken: "Woofer in free air", measured: drawn, fitted: drawn, left_percent: [1, 2, 1] }],
  remarks: [["Ranges are twice as wide"]],
  sheet: { name: "", maker: "", fs_hz: 34 },
  changes: [{ pointer: "/woofer/fs_hz", value: 34 }],
  effect: { sentence: ["With these figures the box is 3 dB down at 50.0 Hz."], open_db: 0.2 },
  other: { figures: [], sentence: ["Against the first: fs +2.0 %."] },
} as unknown as WooferProof;

const record = (id: string, taken: object) =>
  ({
    id,
    version: 1,
    document: { about: { name: id, taken }, source: { kind: "bench" } },
  }) as unknown as MeasurementRecord;

let list: MeasurementRecord[] = [];
let fit: Answer = { status: 200, body: proof };
let asked: [string, unknown][] = [];
const openAsRevision = vi.fn(() => Promise.resolve());

const show = () =>
  mounted(
    <WooferView />,
    { version: 8, name: "A", woofer: { fs_hz: 30, sd_cm2: 530 }, enclosure: {} },
    { openAsRevision: openAsRevision },
  );

beforeEach(() => {
  list = [record("free", { kind: "free_air" }), record("putty", { kind: "added_mass", mass_g: 40 })];
  fit = { status: 200, body: proof };
  asked = [];
  openAsRevision.mockClear();
  change({ system: "metric" });
  loop.play.mockReset().mockResolvedValue({ set: loop.set, stop: loop.stop });
  served.answer = (path, body) => {
    asked.push([path, body]);
    if (path.endsWith("/measurements")) return { status: 200, body: list };
    if (path === "/api/fit/woofer") return fit;
    return { status: 200, body: { name: "Bench ten" } };
  };
});
afterEach(cleanup);

const last = (path: string) => asked.findLast(([p]) => p === path)?.[1];

describe("the woofer by itself", () => {
  it("is fitted from what there is, held against its sheet, and designed with", async () => {
    const user = show();
    expect((await screen.findByTestId("woofer-figures")).textContent).toContain("+13.3 %");
    expect(last("/api/fit/woofer")).toMatchObject({ free: "free", mass: "putty", wish: { mass_percent: 1 } });
    expect(screen.getByTestId("effect").textContent).toContain("3 dB down at 50.0 Hz");
    expect(screen.getByTestId("other").textContent).toContain("fs +2.0 %");
    expect(screen.getByText(/twice as wide/)).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Design with these figures" }));
    expect(openAsRevision).toHaveBeenCalledWith(
      expect.objectContaining({ woofer: expect.objectContaining({ fs_hz: 34 }) as object }),
    );
    // the mass left out
    await user.selectOptions(screen.getByLabelText("With a mass"), "");
    await waitFor(() => expect((last("/api/fit/woofer") as { mass?: string }).mass).toBeUndefined());
  });

  it("is told in inches' units where the page is", async () => {
    change({ system: "inch" });
    show();
    expect((await screen.findByTestId("woofer-figures")).textContent).toContain("ft³");
  });

  it("is kept on the shelf with where its figures come from", async () => {
    const user = show();
    await screen.findByTestId("woofer-figures");
    await user.click(screen.getByText("Keep them on the shelf"));
    await user.selectOptions(screen.getByLabelText("Comes from"), "measured_broken_in");
    await user.type(screen.getByLabelText("Broken in"), "2{Enter}");
    await user.click(screen.getByRole("button", { name: "Keep as a set of figures" }));
    expect(await screen.findByText(/Kept with Bench ten/)).toBeTruthy();
    expect(last("/api/woofers/log")).toMatchObject({
      set: { provenance: "measured_broken_in", hours: 2, figures: { fs_hz: 34 } },
    });
  });

  it("says why there is no fit, and what to take where there is nothing", async () => {
    const message = ["with the mass on it the resonance is at 31.0 Hz"];
    fit = { status: 422, body: { status: 422, detail: "no", errors: [{ pointer: "/free", message }] } };
    show();
    expect((await screen.findByRole("alert")).textContent).toContain("with the mass on it");
    cleanup();
    list = [];
    show();
    expect(await screen.findByText(/was not measured by itself yet/)).toBeTruthy();
  });

  it("is broken in by a tone that ends by itself, and that is written down", async () => {
    vi.stubGlobal("fetch", () => Promise.resolve(new Response(new ArrayBuffer(8))));
    const user = show();
    await user.click(await screen.findByText("Break it in"));
    expect(screen.getByText("Do not leave it unattended.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Play 30 Hz" }));
    await waitFor(() => expect(loop.play).toHaveBeenCalledWith(expect.anything(), 48000, -60));
    // 3.6 s are the whole of it here
    const write = await screen.findByRole("button", { name: "Write it down" }, { timeout: 6000 });
    expect(loop.stop).toHaveBeenCalled();
    await user.click(write);
    expect(await screen.findByText(/Written down with Bench ten/)).toBeTruthy();
    expect((last("/api/woofers/log") as { note: string }).note).toContain("at 30 Hz, about 3.2 V");
    vi.unstubAllGlobals();
  }, 10_000);
});
