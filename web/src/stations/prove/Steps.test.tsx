import { cleanup, screen, waitFor } from "@testing-library/react";
import { mounted } from "../../tests/mounted";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { CookedCurve, Measurement, MeasurementRecord } from "../../api/client";
import { Combine } from "./Combine";
import { Done, withStep } from "./Done";
import { Inside } from "./Inside";

const put = vi.hoisted(() => vi.fn());
const post = vi.hoisted(() => vi.fn());
vi.mock("../../api/client", async (original) => {
  const answer = (data: unknown) => Promise.resolve({ data, response: new Response(null, { status: 200 }) });
  return {
    ...(await original<typeof import("../../api/client")>()),
    api: {
      PUT: (_: string, asked: unknown) => answer(put(asked)),
      POST: (_: string, asked: unknown) => answer(post(asked)),
    },
  };
});

const document: Measurement = {
  format: "oak-drum-measurement",
  version: 1,
  about: { name: "Cone", taken: { kind: "near_cone" } },
  source: { kind: "recording", name: "cone.wav" },
  harmonics: [
    { order: 2, frequency_hz: [20, 40, 80], percent: [3, 1, 0.5] },
    { order: 3, frequency_hz: [20, 40], percent: [1, 0.4] },
  ],
};
const record = { id: "m1", build_id: "7", version: 3, document } as unknown as MeasurementRecord;
const cooked: CookedCurve = {
  curve: { frequency_hz: [10, 20], magnitude: [70, 80] },
  impulse: Array.from({ length: 40 }, (_, i) => [i * 8 - 20, i === 3 ? 1 : 0.1, 1]),
  remarks: [],
  excess: { delay_ms: 1.25, turned: true, most_deg: -31, at_hz: 45 },
};

beforeEach(() => {
  put
    .mockReset()
    .mockImplementation(({ body }: { body: { base_version: number; document: Measurement } }) => ({
      ...record,
      version: body.base_version + 1,
      document: body.document,
    }));
  post.mockReset().mockReturnValue({ id: "m9", document: { about: { name: "Sum" }, source: {} } });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("steps", () => {
  it("take the place of those of their kind, or are taken out", () => {
    const two = withStep("smooth", { kind: "smooth", per_octave: 6 })(
      withStep("offset", { kind: "offset", db: 3 })(document),
    );
    expect(two.steps?.map((s) => s.kind)).toEqual(["offset", "smooth"]);
    const moved = withStep("offset", { kind: "offset", db: -1 })(two);
    expect(moved.steps?.[0]).toEqual({ kind: "offset", db: -1 });
    expect(withStep("offset", undefined)(moved).steps?.map((s) => s.kind)).toEqual(["smooth"]);
  });

  it("are asked for in fields: a band, an offset, the phase", async () => {
    let last = document;
    const save = vi.fn((change: (d: Measurement) => Measurement) => {
      last = change(last);
      return Promise.resolve();
    });
    const user = mounted(<Done record={record} save={save} />);
    await user.type(screen.getByLabelText("Kept from"), "20{Enter}");
    expect(last.steps?.[0]).toEqual({ kind: "trim", from_hz: 20, to_hz: 100000 });
    await user.type(screen.getByLabelText("Moved by"), "-3{Enter}");
    await user.selectOptions(screen.getByLabelText("Phase of Cone"), "minimum");
    expect(last.steps?.map((s) => s.kind)).toEqual(["trim", "offset", "minimum_phase"]);
  });

  it("take a calibration file off, and say where it is none", async () => {
    const save = vi.fn(() => Promise.resolve());
    const step = { kind: "calibration", name: "mic.txt", frequency_hz: [20, 200], deviation_db: [-1, 0] };
    const fetched = vi.fn(() => Promise.resolve(Response.json(step)));
    vi.stubGlobal("fetch", fetched);
    const user = mounted(<Done record={record} save={save} />);
    const file = new File(["20 -1"], "mic.txt");
    await user.upload(screen.getByLabelText("Calibration of Cone"), file);
    await waitFor(() => expect(save).toHaveBeenCalledOnce());
    fetched.mockImplementation(() =>
      Promise.resolve(Response.json({ detail: "no two lines begin with numbers" }, { status: 422 })),
    );
    await user.upload(screen.getByLabelText("Calibration of Cone"), file);
    expect((await screen.findByRole("alert")).textContent).toContain("mic.txt: no two lines");
  });
});

describe("what is inside a measurement", () => {
  it("is its response with a gate drawn over it, its phase taken apart, its distortion", async () => {
    const user = mounted(<Inside record={record} cooked={cooked} />);
    expect(screen.getByTestId("excess").textContent).toContain("polarity turned");
    expect(screen.getByTestId("excess").textContent).toContain("cannot mend");
    expect(screen.getByLabelText("Distortion by order")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Gate it" }));
    await waitFor(() => expect(put).toHaveBeenCalledOnce());
    expect(put.mock.lastCall?.[0]).toMatchObject({
      body: { base_version: 3, document: { steps: [{ kind: "gate", from_ms: -5, to_ms: 300 }] } },
    });
  });

  it("changes a gate by its ends, each save made from the one before", async () => {
    const gated = withStep("gate", { kind: "gate", from_ms: -5, to_ms: 300 })(document);
    const user = mounted(<Inside record={{ ...record, document: gated }} cooked={cooked} />);
    await user.clear(screen.getByLabelText("Gate to"));
    await user.type(screen.getByLabelText("Gate to"), "80{Enter}");
    await user.click(screen.getByRole("button", { name: "No gate" }));
    await waitFor(() => expect(put).toHaveBeenCalledTimes(2));
    const asked = put.mock.calls.map(([a]) => (a as { body: { base_version: number } }).body.base_version);
    expect(asked).toEqual([3, 4]);
    expect(put.mock.calls[0]?.[0]).toMatchObject({ body: { document: { steps: [{ to_ms: 80 }] } } });
  });
});

describe("measurements are combined", () => {
  it("as what they are: summed for a distance, spliced at a frequency", async () => {
    const user = mounted(<Combine build="7" laid={[record, { ...record, id: "m2" }]} />);
    await user.click(screen.getByRole("button", { name: "Combine 2 measurements" }));
    expect(post.mock.lastCall?.[0]).toMatchObject({
      body: { measurements: ["m1", "m2"], how: { kind: "sum", distance_m: 1 }, revision: "r1" },
    });
    expect(await screen.findByText(/Sum: kept/)).toBeTruthy();
    await user.selectOptions(screen.getByLabelText("As"), "splice");
    await user.clear(screen.getByLabelText("At"));
    await user.type(screen.getByLabelText("At"), "150{Enter}");
    await user.click(screen.getByRole("button", { name: "Combine 2 measurements" }));
    expect(post.mock.lastCall?.[0]).toMatchObject({ body: { how: { kind: "splice", at_hz: 150 } } });
    cleanup();
    mounted(<Combine build="7" laid={[record]} />);
    expect(screen.queryByText(/Combine what/)).toBeNull();
  });
});
