// @vitest-environment jsdom

import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BuildDetail, Design, WorkPlan } from "../api/client";
import { Workbench } from "./workbench";

/** A server in memory: revisions and their plans, with their versions. */
const server = vi.hoisted(() => ({
  revisions: new Map<string, { version: number; document: unknown; letter: string }>(),
  plans: new Map<string, { version: number; document: unknown }>(),
  asked: [] as unknown[],
}));

vi.mock("../api/client", async (original) => {
  type Sent = { params: { path: { id: string } }; body: Record<string, unknown> };
  const answer = (data: unknown) => Promise.resolve({ data, response: new Response() });
  const api = {
    PUT: (path: string, { params, body }: Sent) => {
      const kept = path.endsWith("/work") ? server.plans : server.revisions;
      const there = kept.get(params.path.id)!;
      if (there.version !== body.base_version) throw new Error("a stale save");
      Object.assign(there, { version: there.version + 1, document: body.document ?? body.work });
      return answer({ version: there.version, updated_at: `at ${there.version}` });
    },
    POST: (path: string, { body }: Sent) => {
      if (!path.endsWith("/revisions")) {
        server.asked.push(body);
        return answer({ findings: [] });
      }
      const letter = String.fromCharCode(65 + server.revisions.size);
      const made = { id: letter, letter, version: 1, document: body.document, updated_at: "at 1" };
      server.revisions.set(letter, made);
      // a copy takes what things cost, and nothing of it is done
      const from = server.plans.get(body.copied_from as string)?.document as WorkPlan | undefined;
      server.plans.set(letter, { version: 1, document: { prices: from?.prices } });
      return answer(made);
    },
    GET: (_: string, { params }: Sent) => answer(server.plans.get(params.path.id)),
  };
  return { ...(await original<object>()), api };
});
// curves never come: nothing here waits for them
vi.mock("../api/courier", () => ({
  post: (_: string, body: unknown) => (server.asked.push(body), new Promise(() => undefined)),
  postJson: (_: string, body: unknown) => (server.asked.push(body), new Promise(() => undefined)),
}));

const design = (litres: number) =>
  ({ name: "First", enclosure: { family: "sealed", net_volume_l: litres } }) as unknown as Design;
const litres = (document: Design | undefined) =>
  (document?.enclosure as { net_volume_l: number } | undefined)?.net_volume_l;

function opened(plan: WorkPlan = {}) {
  server.revisions.set("A", { version: 1, document: design(50), letter: "A" });
  server.plans.set("A", { version: 1, document: plan });
  const bench = new Workbench({
    id: "build",
    name: "Hall",
    revisions: [{ id: "A", letter: "A", version: 1, document: design(50), updated_at: "at 1" }],
    plans: [{ revision_id: "A", version: 1, document: plan }],
  } as unknown as BuildDetail);
  bench.begin();
  return bench;
}

let bench: Workbench;
beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  server.revisions.clear();
  server.plans.clear();
  server.asked.length = 0;
  bench = opened();
});
afterEach(() => {
  bench.close();
  vi.useRealTimers();
});
const volume = () => litres(bench.current?.document);

describe("what is done can be undone", () => {
  it("step by step, there and back", () => {
    bench.set("/enclosure/net_volume_l", 60);
    bench.set("/enclosure/net_volume_l", 70);
    bench.undo();
    expect(volume()).toBe(60);
    bench.undo();
    bench.undo();
    expect(volume()).toBe(50);
    bench.redo();
    expect(volume()).toBe(60);
    // another change leaves what was undone behind
    bench.set("/enclosure/net_volume_l", 65);
    bench.redo();
    expect(volume()).toBe(65);
  });

  it("a drag is one step, and two drags are two", () => {
    for (const v of [51, 52, 53]) bench.set("/enclosure/net_volume_l", v, "volume-drag");
    bench.endGesture();
    for (const v of [54, 55]) bench.set("/enclosure/net_volume_l", v, "volume-drag");
    bench.endGesture();
    bench.undo();
    expect(volume()).toBe(53);
    bench.undo();
    expect(volume()).toBe(50);
    expect(bench.current?.undo).toEqual([]);
  });

  it("what changes nothing is no step", () => {
    bench.set("/enclosure/net_volume_l", 50);
    expect(bench.current?.undo).toEqual([]);
  });
});

describe("a remedy", () => {
  const remedy = [
    { pointer: "/enclosure/net_volume_l", value: 80 },
    { pointer: "/name", value: "Cured" },
  ];
  it("is taken whole and taken back with one press", () => {
    bench.take("80 L instead", remedy);
    expect([volume(), bench.current?.document.name]).toEqual([80, "Cured"]);
    expect(bench.snapshot().taken?.title).toEqual(["80 L instead"]);
    bench.takeBack();
    expect(bench.current?.document).toEqual(design(50));
    expect(bench.snapshot().taken).toBeUndefined();
  });
  it("that something else came after is taken back no more, but undone", () => {
    bench.take("80 L instead", remedy);
    bench.set("/enclosure/net_volume_l", 81);
    expect(bench.snapshot().taken).toBeUndefined();
    bench.takeBack();
    expect(volume()).toBe(81);
    bench.undo();
    bench.undo();
    expect(volume()).toBe(50);
  });
});

describe("what belongs to the workshop", () => {
  const tick = (plan: WorkPlan): WorkPlan => ({ ...plan, steps: [{ step: "cut", done: true }] });
  it("is no step to undo and no other design, and is kept by itself", async () => {
    const before = bench.current?.document;
    bench.changeWork(tick);
    await vi.advanceTimersByTimeAsync(600);
    expect(bench.current?.undo).toEqual([]);
    expect(bench.current?.document).toBe(before);
    expect(server.revisions.get("A")?.version).toBe(1);
    expect(server.plans.get("A")).toEqual({ version: 2, document: { steps: [{ step: "cut", done: true }] } });
  });
  it("asks for nothing anew but when a price is another", async () => {
    await vi.advanceTimersByTimeAsync(1000);
    const asked = server.asked.length;
    bench.changeWork(tick);
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.asked.length).toBe(asked);
    bench.changeWork((plan) => ({ ...plan, prices: { sheet: 58 } }));
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.asked.length).toBeGreaterThan(asked);
    expect(server.asked.at(-1)).toMatchObject({ work: { prices: { sheet: 58 } } });
  });
});

describe("revisions", () => {
  it("a copy is made of what stands now, price and all, and the original laid under it", async () => {
    bench.set("/enclosure/net_volume_l", 62);
    bench.changeWork(() => ({ prices: { sheet: 58 }, steps: [{ step: "cut", done: true }] }));
    await bench.copy();
    expect(litres(server.revisions.get("A")?.document as Design)).toBe(62);
    const state = bench.snapshot();
    expect([state.current, state.shown]).toEqual(["B", ["A"]]);
    expect([volume(), bench.current?.document.name]).toEqual([62, "Copy of A"]);
    expect(bench.current?.work).toEqual({ prices: { sheet: 58 } });
    // and each goes its own way
    bench.set("/enclosure/net_volume_l", 70);
    await vi.advanceTimersByTimeAsync(600);
    bench.select("A");
    expect(volume()).toBe(62);
    expect(litres(server.revisions.get("B")?.document as Design)).toBe(70);
  });

  it("a price typed just before, its save still on its way, goes into the copy", async () => {
    bench.changeWork(() => ({ prices: { sheet: 50 } }));
    await vi.advanceTimersByTimeAsync(500);
    bench.changeWork(() => ({ prices: { sheet: 61 } }));
    await bench.copy();
    expect(bench.current?.work.prices).toEqual({ sheet: 61 });
  });

  it("are gone through in their order and laid under one another", async () => {
    await bench.copy();
    await bench.copy();
    bench.step(1);
    expect(bench.snapshot().current).toBe("A");
    bench.step(-1);
    expect(bench.snapshot().current).toBe("C");
    bench.toggleShown("A");
    bench.select("A");
    // what is edited does not lie under itself
    expect(bench.snapshot().shown).not.toContain("A");
    bench.select("Z");
    expect(bench.snapshot().current).toBe("A");
  });

  it("stand as they were left when the build is opened again, with what was not sent", async () => {
    await bench.copy();
    bench.set("/enclosure/net_volume_l", 77);
    bench.close();
    expect(litres(server.revisions.get("B")?.document as Design)).toBe(50);
    const again = new Workbench({
      id: "build",
      name: "Hall",
      revisions: [...server.revisions].map(([id, r]) => ({ ...r, id, updated_at: "" })),
      plans: [],
    } as unknown as BuildDetail);
    expect([again.snapshot().current, again.snapshot().shown]).toEqual(["B", ["A"]]);
    expect(litres(again.current?.document)).toBe(77);
    again.begin();
    await vi.advanceTimersByTimeAsync(100);
    expect(litres(server.revisions.get("B")?.document as Design)).toBe(77);
    again.close();
  });
});
