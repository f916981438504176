// @vitest-environment jsdom

import { afterEach, expect, it, vi } from "vitest";
import type { BuildDetail, Design } from "../api/client";
import { Workbench } from "./workbench";

const asked = vi.hoisted(() => [] as Design[]);
vi.mock("../api/curves", () => ({
  curves: (document: Design) => (asked.push(document), Promise.resolve({ curves: {} })),
}));
vi.mock("../api/client", async (original) => {
  const answer = () => Promise.resolve({ data: { findings: [], version: 2 }, response: new Response() });
  return { ...(await original<object>()), api: { PUT: answer, POST: answer } };
});
afterEach(() => vi.useRealTimers());

/** No curve hangs on where things stand in a room: while something is pulled about there none is asked for, afterwards once. */
it("a room that is pulled about asks for curves when the hand lets go", async () => {
  vi.useFakeTimers();
  const room = { cabinets: [{ x_m: 1 }] };
  const document = {
    name: "A",
    enclosure: { family: "sealed", net_volume_l: 50 },
    room,
  } as unknown as Design;
  const bench = new Workbench({
    id: "build",
    name: "Hall",
    revisions: [{ id: "A", letter: "A", version: 1, document, updated_at: "at 1" }],
    plans: [{ revision_id: "A", version: 1, document: {} }],
  } as unknown as BuildDetail);
  bench.begin();
  const rest = () => vi.advanceTimersByTimeAsync(5);
  await rest();
  expect(asked).toHaveLength(1);
  for (const x of [1.1, 1.2, 1.3]) {
    bench.set("/room/cabinets/0/x_m", x, "room-drag");
    await rest();
  }
  expect(asked).toHaveLength(1);
  bench.endGesture();
  await rest();
  expect(asked).toHaveLength(2);
  expect(asked[1]).toBe(bench.current?.document);
  bench.endGesture();
  // a volume is asked about with every move
  for (const litres of [51, 52]) {
    bench.set("/enclosure/net_volume_l", litres, "volume-drag");
    await rest();
  }
  expect(asked).toHaveLength(4);
  // what is typed is asked about at once, for its faults
  bench.endGesture();
  bench.set("/room/cabinets/0/x_m", 2);
  await rest();
  expect(asked).toHaveLength(5);
  bench.close();
});
