import { cleanup, screen, waitFor } from "@testing-library/react";
import { mounted } from "../../tests/mounted";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Taken } from "../../api/client";
import { ByFile } from "./ByFile";
import { BySoundCard } from "./BySoundCard";
import { LevelMeter } from "./LevelMeter";
import { channelsFor, setting } from "./tape";

const card = vi.hoisted(() => ({
  open: vi.fn(),
  record: vi.fn(),
  loop: vi.fn(),
  close: vi.fn(() => Promise.resolve()),
}));
vi.mock("../../lib/soundcard", async (original) => ({
  ...(await original<typeof import("../../lib/soundcard")>()),
  noInputs: () => undefined,
  devices: (kind: string) =>
    Promise.resolve([{ id: `${kind}-1`, name: kind === "audioinput" ? "Line" : "Out" }]),
  SoundCard: { open: card.open },
}));

/** What was asked of the server, with its query taken apart. */
let asked: { path: string; query: URLSearchParams }[] = [];
let refused: object | undefined;
let impossible: object | undefined;
const downloads = vi.hoisted(() => vi.fn());
vi.mock("../../lib/download", () => ({ downloadText: downloads }));

beforeEach(() => {
  asked = [];
  refused = undefined;
  impossible = undefined;
  localStorage.clear();
  setting.replace({ wish: { ...setting.document().wish, channel: 1, loopback: null } });
  setting.say(undefined);
  vi.stubGlobal("fetch", (path: string) => {
    const url = new URL(path, "http://here");
    asked.push({ path: url.pathname, query: url.searchParams });
    if (refused && url.pathname.endsWith("/recording"))
      return Promise.resolve(Response.json(refused, { status: 422 }));
    if (impossible && url.pathname === "/api/sweep")
      return Promise.resolve(Response.json(impossible, { status: 422 }));
    if (url.pathname.startsWith("/api/builds")) {
      const document = { about: { name: "Cone" }, source: { kind: "recording" }, peak_dbfs: -12.34 };
      return Promise.resolve(Response.json({ id: "m", document }, { status: 201 }));
    }
    return Promise.resolve(new Response(new ArrayBuffer(8)));
  });
  const made = { record: card.record, loop: card.loop, close: card.close, rate: 48000 };
  card.open.mockReset().mockImplementation((_in, _out, _rate, levels: (p: number[]) => void) => {
    levels([-20, -0.5]);
    return Promise.resolve(made);
  });
  card.record.mockReset().mockResolvedValue([new Float32Array([0.1, 0.2])]);
  card.loop.mockReset().mockResolvedValue({ set: vi.fn(), stop: vi.fn() });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const wish = () => JSON.parse(asked.at(-1)?.query.get("wish") ?? "{}") as Record<string, unknown>;
const cone: Taken = { kind: "near_cone" };

describe("by files", () => {
  const file = new File(["x"], "cone one.wav", { type: "audio/wav" });

  it("the sweep is saved, and its recording brought back with what is known of it", async () => {
    const user = mounted(<ByFile taken={cone} />);
    await user.click(screen.getByRole("button", { name: /one channel/ }));
    await waitFor(() => expect(downloads).toHaveBeenCalledWith(expect.anything(), "audio/wav", "sweep.wav"));
    expect(asked[0]?.path).toBe("/api/sweep");
    expect(JSON.parse(asked[0]?.query.get("sweep") ?? "{}")).toMatchObject({ from_hz: 5, to_hz: 1000 });
    await user.upload(screen.getByLabelText("Recording"), file);
    expect(await screen.findByText(/Cone: kept. Its peak is -12.3 dB/)).toBeTruthy();
    expect(wish()).toMatchObject({ channel: 1, about: { name: "cone one", taken: cone } });
    expect(asked.at(-1)?.query.get("revision")).toBe("r1");
  });

  it("an impulse response has no sweep; an impedance takes both channels of the jig", async () => {
    const user = mounted(<ByFile taken={cone} />);
    await user.click(screen.getByLabelText(/impulse response already/));
    await user.upload(screen.getByLabelText("Recording"), file);
    await screen.findByText(/kept/);
    expect(wish().sweep).toBeNull();
    expect(channelsFor(setting.document().wish, true)).toMatchObject({ channel: 2, loopback: 1 });
    cleanup();
    mounted(<ByFile taken={{ kind: "in_box" }} />);
    expect(screen.getByLabelText("Reference resistor")).toBeTruthy();
    expect(screen.queryByLabelText(/impulse response already/)).toBeNull();
  });

  it("a sweep that cannot be is not saved, and its field says why", async () => {
    const message = ["with its repeats it may last 125 s at this rate"];
    impossible = { status: 422, detail: "no", errors: [{ pointer: "/sweep/times", message }] };
    const user = mounted(<ByFile taken={cone} />);
    await user.click(screen.getByRole("button", { name: /in two/ }));
    expect(await screen.findByText("Not saved: see the sweep.")).toBeTruthy();
    expect(screen.getByText(/may last 125 s/)).toBeTruthy();
  });

  it("what is refused is said, at its field too", async () => {
    const message = ["clipped: channel 1 reaches -0.1 dB of full scale"];
    refused = { status: 422, detail: "refused", errors: [{ pointer: "/wish/channel", message }] };
    const user = mounted(<ByFile taken={cone} />);
    await user.upload(screen.getByLabelText("Recording"), file);
    // under the file, and at the channel's own field
    expect(await screen.findAllByText(/clipped/)).toHaveLength(2);
  });
});

describe("by the sound card", () => {
  it("inputs are opened, levels shown, the sweep recorded and kept", async () => {
    const user = mounted(<BySoundCard taken={cone} safe={3} />);
    await user.click(screen.getByRole("button", { name: "Open the inputs" }));
    expect(await screen.findByText("clips: turn down")).toBeTruthy();
    expect(screen.getByText("-20 dB")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Sweep" }));
    expect(await screen.findByText(/Cone: kept/)).toBeTruthy();
    expect(asked.map((a) => a.path)).toContain("/api/sweep");
    expect(wish()).toMatchObject({ about: { name: "Sound card, revision A" } });
    expect(screen.getByRole("button", { name: "Save what was recorded" })).toBeTruthy();
    await user.selectOptions(screen.getByLabelText("Input device"), "audioinput-1");
    await waitFor(() => expect(card.open.mock.lastCall?.[0]).toBe("audioinput-1"));
    expect(card.close).toHaveBeenCalled();
  });

  it("what the browser does not give is said", async () => {
    card.open.mockRejectedValue(new DOMException("", "NotAllowedError"));
    const user = mounted(<BySoundCard taken={cone} safe={3} />);
    await user.click(screen.getByRole("button", { name: "Open the inputs" }));
    expect((await screen.findByRole("alert")).textContent).toContain("Allow the microphone");
  });

  it("a sweep that was stopped keeps nothing", async () => {
    card.record.mockRejectedValue(new DOMException("stopped", "AbortError"));
    const user = mounted(<BySoundCard taken={cone} safe={3} />);
    await user.click(screen.getByRole("button", { name: "Open the inputs" }));
    await user.click(await screen.findByRole("button", { name: "Sweep" }));
    expect(await screen.findByText("Stopped; nothing was kept.")).toBeTruthy();
    expect(asked.every((a) => !a.path.endsWith("/recording"))).toBe(true);
  });

  it("a steady sound begins low, follows the hand and is silenced", async () => {
    const user = mounted(<BySoundCard taken={cone} safe={3} />);
    await user.click(screen.getByRole("button", { name: "Open the inputs" }));
    await user.click(await screen.findByText("Set the level with a steady sound"));
    await user.click(screen.getByRole("button", { name: "Play" }));
    await waitFor(() => expect(card.loop).toHaveBeenCalledWith(expect.anything(), -50));
    await user.click(await screen.findByRole("button", { name: "Silence" }));
    expect(await screen.findByRole("button", { name: "Play" })).toBeTruthy();
  });

  it("tells each input by what it is for", () => {
    mounted(<LevelMeter peaks={[-70, -12, -5]} channel={2} loopback={1} jig />);
    expect(screen.getByText("1: before the resistor")).toBeTruthy();
    expect(screen.getByText("2: across the woofer")).toBeTruthy();
    expect(screen.getByText("3: not used")).toBeTruthy();
    expect(screen.getByText("silent")).toBeTruthy();
  });
});
