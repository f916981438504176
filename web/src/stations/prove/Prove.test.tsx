import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { mounted } from "../../tests/mounted";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type {
  CookedCurve,
  CurvePreview,
  MeasurementRecord,
  MeasuringPlan,
  Proof,
  Reading,
  Verdict,
} from "../../api/client";
import { change } from "../../app/settings";
import { FileView } from "./FileView";
import { PracticeView } from "./PracticeView";
import { ProveFigure } from "./ProveFigure";
import { ProvePicture } from "./ProvePicture";
import { ProveStation } from "./ProveStation";
import { TakeView } from "./TakeView";
import { lay } from "./useMeasured";

type Asked = { params?: { path?: Record<string, string> }; body?: unknown };
type Serve = (method: string, path: string, body: unknown) => { status: number; body: unknown };
const served = vi.hoisted((): { answer: Serve } => ({ answer: () => ({ status: 500, body: undefined }) }));
vi.mock("../../api/client", async (original) => {
  const call = (method: string) => (path: string, asked: Asked) => {
    const filled = Object.entries(asked.params?.path ?? {}).reduce(
      (p, [k, v]) => p.replace(`{${k}}`, v),
      path,
    );
    const { status, body } = served.answer(method, filled, asked.body);
    const response = new Response(null, { status });
    return Promise.resolve(status < 300 ? { data: body, response } : { error: body, response });
  };
  const api = { GET: call("GET"), POST: call("POST"), PUT: call("PUT"), DELETE: call("DELETE") };
  return { ...(await original<typeof import("../../api/client")>()), api };
});
vi.mock("../../workbench/documentQuery", () => ({ useDocumentQuery: () => plan }));

const plan: MeasuringPlan = {
  places: [
    {
      taken: { kind: "in_box" },
      title: "Terminals of the box",
      tells: "Box and woofer.",
      steps: [["A resistor."]],
    },
    {
      taken: { kind: "near_cone" },
      title: "Close to the cone",
      tells: "The cone.",
      steps: [["On the axis."]],
    },
    {
      taken: { kind: "in_front", distance_m: 1 },
      title: "In front of the box",
      tells: "All of it.",
      steps: [],
    },
  ],
  safe_volts: 3.35,
  safe_why: "half of the cone's excursion",
  cautions: [["Ears: begin with the volume down."]],
};

const record = (id: string, name: string, part: object = {}, taken = "in_box"): MeasurementRecord =>
  ({
    id,
    build_id: "7",
    revision_id: null,
    version: 3,
    created_at: "2026-11-26T10:00:00Z",
    document: {
      format: "oak-drum-measurement",
      version: 1,
      about: { name, taken: { kind: taken } },
      source: { kind: "bench" },
      ...part,
    },
  }) as unknown as MeasurementRecord;

const cooked: CookedCurve = {
  curve: { frequency_hz: [10, 20, 40, 80], magnitude: [6, 30, 12, 7], snr_db: [5, 40, 40, 40] },
  impulse: [],
  remarks: ["smoothed over 1/6 octave: fits use it unsmoothed"],
};

const proof: Proof = {
  measured: [
    {
      id: "m1",
      predicted: { frequency_hz: [10, 20, 40, 80], magnitude: [6, 34, 11, 7] },
      deviation: {
        from_hz: 10,
        to_hz: 80,
        offset_db: 0,
        rms_db: 1.4,
        rms_with_offset_db: 1.45,
        worst_db: -4.1,
        worst_hz: 43,
      },
      doubts: [{ kind: "noisy", sentence: "noisy below 12 Hz: those points are left out of fits" }],
      sentence: ["1.4 dB rms from 10 to 80 Hz."],
    },
  ],
  causes: {
    rms_db: 1.45,
    together_rms_db: 0.01,
    sentence: ["What explains most: QL 2.2."],
    each: [
      {
        unknown: "leak",
        title: "a leak",
        value: 2.2,
        low: 2.1,
        high: 2.3,
        rms_db: 0.01,
        explains_percent: 99.6,
        sentence: ["QL 2.2, a gap"],
      },
    ],
    together: [],
    undecided: [["A leak and the fill explain it equally well here."]],
  },
  fitted_box: {
    id: "m1",
    figures: [
      { id: "net_volume_l", value: 32, low: 31.9, high: 32.1, sigma: 0.001 },
      { id: "fc_hz", value: 42.6, low: 42.5, high: 42.7, sigma: 0.001 },
    ],
    expected: [32, 41],
    turns: [{ frequency_hz: 40.8, ohm: 15, peak: true }],
    expected_turns: [{ frequency_hz: 42.4, ohm: 23, peak: true }],
    left_percent: 0.1,
    fitted: { frequency_hz: [10, 80], magnitude: [6, 7] },
    ripples: [],
    remarks: [["It leaks: QL is 2.2."]],
  },
  no_fit: null,
  openings: {
    notch_hz: 40,
    peak_hz: 41,
    by_cone_hz: 40,
    by_port_hz: 40.5,
    planned_hz: 42,
    tones: [],
    sentence: ["The cone stands still at 40.0 Hz and the port is loudest at 41.0 Hz."],
  },
  cures: [
    { id: "leak", title: ["Find the leak"], sentence: ["A gap."], changes: [], then: [null] },
    {
      id: "keep",
      title: ["Leave it"],
      sentence: ["The design then shows what was measured."],
      changes: [{ pointer: "/enclosure/leak_q", value: 2.2 }],
      then: [{ frequency_hz: [10, 80], magnitude: [6, 7] }],
    },
  ],
};

const verdict: Verdict = {
  points: 50,
  told: [{ outcome: "missed", sentence: ["Missed: a leak of QL 3.0."] }],
  sentence: ["Part of it."],
};

let list: MeasurementRecord[] = [];
let preview: Partial<CurvePreview> = {};
/** What was sent: method, path with query, body. */
let sent: [string, string, unknown][] = [];
/** Paths that are refused, with what is said. */
let refused: Record<string, { status: number; body: object }> = {};

/** What the server would answer. */
function answer(method: string, path: string, body: unknown): { status: number; body: unknown } {
  sent.push([method, decodeURIComponent(path), body]);
  const no = Object.entries(refused).find(([part]) => path.includes(part))?.[1];
  if (no) return no;
  const ok = (body: unknown, status = 200) => ({ status, body });
  if (path.endsWith("/measurements")) return ok(list);
  const saved = list.find((m) => path.endsWith(`/measurements/${m.id}`));
  if (method === "PUT" && saved)
    return ok({ ...saved, version: saved.version + 1, ...(body as { document: object }) });
  if (path.endsWith("/curve")) return ok(cooked);
  if (path === "/api/prove") return ok(proof);
  if (path === "/api/prove/judge") return ok(verdict);
  if (path.startsWith("/api/curves/preview")) return ok(preview);
  if (method === "DELETE" || path.endsWith("/restore")) return ok(undefined, 204);
  return ok(record("new", "new"), 201);
}
served.answer = answer;

const openAsRevision = vi.fn(() => Promise.resolve());

const show = (what: React.ReactNode) =>
  mounted(
    what,
    { version: 8, name: "A", woofer: {}, enclosure: { family: "sealed", net_volume_l: 32 } },
    { openAsRevision: openAsRevision },
  );

const request = (method: string, part: string) =>
  sent.findLast(([m, path]) => m === method && path.includes(part));

beforeEach(() => {
  list = [];
  sent = [];
  refused = {};
  preview = {};
  openAsRevision.mockClear();
  change({ system: "metric" });
  // files are sent as they are
  vi.stubGlobal("fetch", (path: string, init: RequestInit) => {
    const { status, body } = answer(init.method ?? "GET", path, undefined);
    return Promise.resolve(new Response(JSON.stringify(body), { status }));
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("what was measured", () => {
  it("is nothing at first, and says where to begin", async () => {
    show(
      <>
        <ProveFigure />
        <ProveStation />
      </>,
    );
    expect(await screen.findByText(/Nothing was measured at this build yet/)).toBeTruthy();
    expect(screen.getByText("not begun")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Take a measurement" }).getAttribute("href")).toBe("/take");
  });

  it("is laid on or not, taken away and put back", async () => {
    list = [record("m1", "Terminals"), record("m2", "Cone", {}, "near_cone")];
    const user = show(
      <>
        <p>
          figure: <ProveFigure />
        </p>
        <ProveStation />
      </>,
    );
    expect(await screen.findByText("Terminals")).toBeTruthy();
    expect(screen.getByText(/figure: 2 curves/)).toBeTruthy();
    await user.click(screen.getByRole("checkbox", { name: /^Cone/ }));
    // one alone is asked about, and its figure is told in the rail
    expect(await screen.findByText("1.4 dB rms from 10 to 80 Hz.")).toBeTruthy();
    expect(screen.getByText(/figure: 1.4 dB rms off/)).toBeTruthy();
    await waitFor(() => expect(request("POST", "/api/prove")?.[2]).toMatchObject({ measurements: ["m1"] }));
    await user.click(screen.getAllByText("Take it away")[0] as HTMLElement);
    expect(request("DELETE", "/api/measurements/m1")).toBeTruthy();
    await user.click(await screen.findByRole("button", { name: "Put it back" }));
    expect(request("POST", "/api/measurements/m1/restore")).toBeTruthy();
    lay("m2", true);
  });

  it("is smoothed and placed by steps that are saved from the version they were made from", async () => {
    list = [record("m1", "Terminals")];
    const user = show(<ProveStation />);
    await user.selectOptions(await screen.findByLabelText("Smoothing of Terminals"), "6");
    await waitFor(() => expect(request("PUT", "/api/measurements/m1")).toBeTruthy());
    expect(request("PUT", "/api/measurements/m1")?.[2]).toMatchObject({
      base_version: 3,
      document: { steps: [{ kind: "smooth", per_octave: 6 }] },
    });
    sent = [];
    await user.selectOptions(screen.getByLabelText("Taken"), "in_front");
    await waitFor(() => expect(request("PUT", "/api/measurements/m1")).toBeTruthy());
    expect(request("PUT", "/api/measurements/m1")?.[2]).toMatchObject({
      document: { about: { taken: { kind: "in_front", distance_m: 1 } } },
    });
    refused = { "/api/measurements/m1": { status: 409, body: { status: 409, title: "Saved elsewhere" } } };
    await user.selectOptions(screen.getByLabelText("Smoothing of Terminals"), "3");
    expect((await screen.findByRole("alert")).textContent).toContain("changed elsewhere meanwhile");
  });
});

describe("measured against predicted", () => {
  it("tells where to begin where there is nothing", async () => {
    show(<ProvePicture />);
    expect(await screen.findByText("Measured against predicted")).toBeTruthy();
  });

  it("draws both, says why, and makes a cure a revision", async () => {
    list = [record("m1", "Terminals")];
    const user = show(<ProvePicture />);
    expect(await screen.findByText("1.4 dB rms", { exact: false })).toBeTruthy();
    expect((await screen.findByTestId("why")).textContent).toBe("What explains most: QL 2.2.");
    expect(screen.getByRole("img", { name: "explains 100 %" })).toBeTruthy();
    expect(screen.getByText(/equally well here/)).toBeTruthy();
    expect(screen.getByTestId("openings").textContent).toContain("stands still at 40.0 Hz");
    const box = screen.getByLabelText("The box by its impedance");
    expect(box.textContent).toContain("32 L");
    expect(box.textContent).toContain("planned 41 Hz");
    expect(box.textContent).toContain("peak 40.8 Hz");
    // what has no changes is done at the box alone
    expect(
      within(screen.getByTestId("cure-leak")).queryByRole("button", { name: "Take as a revision" }),
    ).toBeNull();
    const keep = within(screen.getByTestId("cure-keep"));
    await user.click(keep.getByRole("button", { name: "Show its curve" }));
    expect(keep.getByRole("button", { name: "Hide its curve" }).getAttribute("aria-pressed")).toBe("true");
    await user.click(keep.getByRole("button", { name: "Take as a revision" }));
    expect(openAsRevision).toHaveBeenCalledWith(
      expect.objectContaining({
        name: "Leave it",
        enclosure: { family: "sealed", net_volume_l: 32, leak_q: 2.2 },
      }),
    );
    expect(await screen.findByText("Leave it: taken as a new revision.")).toBeTruthy();
  });

  it("tells volumes in cubic feet where the page does", async () => {
    list = [record("m1", "Terminals")];
    change({ system: "inch" });
    show(<ProvePicture />);
    expect((await screen.findByLabelText("The box by its impedance")).textContent).toContain("1.13 ft³");
  });
});

describe("a file", () => {
  const reading = {
    separator: "semicolon",
    decimal_comma: true,
    columns: ["frequency", "magnitude", "left_out"],
    unit: "ohm",
    kilohertz: false,
    radians: false,
  } as const;
  const seen = {
    reading: { ...reading, columns: [...reading.columns] },
    reasons: ["commas inside numbers are read as decimal signs"],
    names: ["Hz", "Z", ""],
    rows: [["10", "6,1", "3"]],
    warnings: [],
    wrong: null,
    points: 2,
    quantity: "impedance",
    curve: { frequency_hz: [10, 20], magnitude: [6.1, 9] },
  };
  const file = new File(["10;6,1;3\n20;9;2\n"], "terminals.txt", { type: "text/plain" });

  it("is shown as it was read, corrected and kept", async () => {
    preview = seen;
    const user = show(<FileView />);
    await user.upload(screen.getByLabelText("File with a curve"), file);
    expect(await screen.findByText("2 points", { exact: false })).toBeTruthy();
    expect(screen.getByText(/read as decimal signs/)).toBeTruthy();
    await user.selectOptions(screen.getByLabelText("Column 3"), "phase");
    const asked = sent.at(-1)?.[1] ?? "";
    expect(asked).toContain('"columns":["frequency","magnitude","phase"]');
    // a column that takes another's part leaves that one out
    await user.selectOptions(screen.getByLabelText("Column 3"), "frequency");
    expect(sent.at(-1)?.[1]).toContain('"columns":["left_out","magnitude","frequency"]');
    await user.click(screen.getByLabelText(/phases in radians/));
    expect(sent.at(-1)?.[1]).toContain('"radians":true');
    // only places of an impedance are offered
    const places = within(screen.getByLabelText("Where it was taken")).getAllByRole("option");
    expect(places.map((o) => o.textContent)).not.toContain("close to the cone");
    await user.clear(screen.getByRole("textbox", { name: "Name" }));
    await user.type(screen.getByRole("textbox", { name: "Name" }), "Glued up");
    await user.click(screen.getByRole("button", { name: "Keep it" }));
    const kept = request("POST", "/api/builds/7/measurements/import");
    expect(kept?.[1]).toContain('"name":"Glued up"');
    expect(kept?.[1]).toContain("revision=r1");
  });

  it("is corrected twice before the server has answered once, and neither correction is lost", async () => {
    preview = seen;
    const user = show(<FileView />);
    await user.upload(screen.getByLabelText("File with a curve"), file);
    await screen.findByText("2 points", { exact: false });
    const answers: ((columns: Reading["columns"]) => void)[] = [];
    vi.stubGlobal("fetch", (path: string) => {
      sent.push(["POST", decodeURIComponent(path), undefined]);
      return new Promise<Response>((resolve) => {
        answers.push((columns) =>
          resolve(Response.json({ ...seen, reading: { ...reading, columns }, points: answers.length })),
        );
      });
    });
    await user.selectOptions(screen.getByLabelText("Column 3"), "phase");
    await user.selectOptions(screen.getByLabelText("Column 1"), "left_out");
    expect(sent.at(-1)?.[1]).toContain('"columns":["left_out","magnitude","phase"]');
    const keep = () => screen.getByRole<HTMLButtonElement>("button", { name: "Keep it" });
    expect(keep().disabled).toBe(true);
    // the first answer comes last: it is not shown
    answers[1]?.(["left_out", "magnitude", "phase"]);
    await screen.findByText("2 points", { exact: false });
    answers[0]?.(["frequency", "magnitude", "phase"]);
    await waitFor(() => expect(keep().disabled).toBe(false));
    expect(screen.getByLabelText<HTMLSelectElement>("Column 1").value).toBe("left_out");
  });

  it("that cannot be read so is shown all the same", async () => {
    preview = {
      ...seen,
      wrong: 'line 9, column 2: "x" is no number',
      points: 0,
      curve: { frequency_hz: [], magnitude: [] },
    };
    const user = show(<FileView />);
    await user.upload(screen.getByLabelText("File with a curve"), file);
    expect((await screen.findByRole("alert")).textContent).toContain("line 9, column 2");
    expect(screen.getByTestId("columns")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Keep it" }).disabled).toBe(true);
  });

  it("that is a recording is sent where recordings are brought back", async () => {
    const user = show(<FileView />);
    await user.upload(screen.getByLabelText("File with a curve"), new File(["RIFF"], "cone.wav"));
    expect((await screen.findByRole("alert")).textContent).toContain("by files");
    expect(sent.some(([, path]) => path.includes("preview"))).toBe(false);
  });

  it("that is no curve is refused in words", async () => {
    refused = { "/api/curves/preview": { status: 422, body: { detail: "no two lines begin with numbers" } } };
    const user = show(<FileView />);
    await user.upload(screen.getByLabelText("File with a curve"), file);
    expect((await screen.findByRole("alert")).textContent).toContain("no two lines");
    expect(screen.queryByTestId("columns")).toBeNull();
  });
});

describe("taking one", () => {
  it("tells place by place what to plug and how loud, with its cautions, and measures on the bench", async () => {
    const user = show(<TakeView />);
    expect(screen.getByText("A resistor.")).toBeTruthy();
    expect(screen.getByText(/Ears: begin/)).toBeTruthy();
    expect(screen.getByText("3.4 V", { exact: false })).toBeTruthy();
    await user.click(screen.getByText("Close to the cone"));
    expect(screen.getByText("On the axis.")).toBeTruthy();
    expect(screen.queryByLabelText(/in a small room/)).toBeNull();
    await user.click(screen.getByRole("button", { name: "Measure" }));
    expect(await screen.findByText(/kept/)).toBeTruthy();
    expect(request("POST", "/measurements/bench")?.[2]).toMatchObject({
      name: "Bench, revision A",
      revision: "r1",
      wish: { taken: { kind: "near_cone" }, room: false, volts: 2 },
    });
    await user.click(screen.getByText("In front of the box"));
    expect(screen.getByLabelText(/in a small room/)).toBeTruthy();
  });

  it("says why the bench records nothing", async () => {
    refused = {
      "/measurements/bench": { status: 422, body: { status: 422, detail: "too quiet: channel 1" } },
    };
    const user = show(<TakeView />);
    await user.click(screen.getByRole("button", { name: "Measure" }));
    expect((await screen.findByRole("alert")).textContent).toContain("too quiet");
  });
});

describe("practice", () => {
  it("measures a hidden cabinet, takes what is said and tells how near it came", async () => {
    list = [record("m1", "Practice", { source: { kind: "practice", seed: 1, difficulty: "plain" } })];
    const user = show(<PracticeView />);
    expect((await screen.findByTestId("practised")).textContent).toContain("Measured 1 time");
    await user.click(screen.getByRole("button", { name: "Close to the cone" }));
    expect(request("POST", "/measurements/bench")?.[2]).toMatchObject({
      cabinet: { kind: "practice", seed: 1, difficulty: "plain" },
    });
    // a sealed box has no port that could be off
    expect(screen.queryByLabelText("Its port is off by")).toBeNull();
    await user.type(screen.getByLabelText("It leaks; QL is"), "3,5");
    await user.type(screen.getByLabelText("Its air is off by"), "x");
    await user.click(screen.getByRole("button", { name: "That is it" }));
    expect((await screen.findByRole("alert")).textContent).toContain('"x" is no number');
    await user.clear(screen.getByLabelText("Its air is off by"));
    await user.click(screen.getByRole("button", { name: "That is it" }));
    expect((await screen.findByTestId("verdict")).textContent).toContain("50 of 100");
    expect(request("POST", "/api/prove/judge")?.[2]).toMatchObject({ said: [{ kind: "leak", q: 3.5 }] });
    // another cabinet begins anew
    await user.click(screen.getByRole("button", { name: "Another cabinet" }));
    expect(screen.getByText("Cabinet 2")).toBeTruthy();
    expect(screen.queryByTestId("verdict")).toBeNull();
    expect(screen.getByLabelText<HTMLInputElement>("It leaks; QL is").value).toBe("");
  });
});
