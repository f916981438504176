import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Refused } from "./client";
import type { Answer, Errand } from "./courier";

/** A worker whose errands are seen, and answered by hand. */
class Fake {
  static made: Fake[] = [];
  errands: Errand[] = [];
  onmessage: (event: { data: Answer }) => void = () => undefined;
  onerror: () => void = () => undefined;
  terminate = vi.fn();
  constructor() {
    Fake.made.push(this);
  }
  postMessage(errand: Errand) {
    this.errands.push(errand);
  }
  answer(errand: Errand | undefined, status: number, text: string) {
    const bytes = new TextEncoder().encode(text).buffer;
    this.onmessage({ data: { id: errand?.id ?? 0, status, bytes } });
  }
}

let courier: typeof import("./courier");
const still = () => new AbortController().signal;

beforeEach(async () => {
  Fake.made = [];
  vi.stubGlobal("Worker", Fake);
  vi.resetModules();
  courier = await import("./courier");
});
afterEach(() => vi.unstubAllGlobals());

it("each answer comes to who asked for it, in whatever order they come", async () => {
  const first = courier.postJson<number>("/api/a", { of: 1 }, still());
  const second = courier.postJson<number>("/api/b", { of: 2 }, still());
  const [worker] = Fake.made;
  expect(Fake.made).toHaveLength(1);
  expect(worker?.errands.map((e) => [e.path, e.body])).toEqual([
    ["/api/a", '{"of":1}'],
    ["/api/b", '{"of":2}'],
  ]);
  worker?.answer(worker.errands[1], 200, "22");
  worker?.answer(worker.errands[0], 200, "11");
  expect(await Promise.all([first, second])).toEqual([11, 22]);
});

it("a refusal says what the server said, and no server is said to be none", async () => {
  const refused = courier.post("/api/a", {}, still());
  const garbled = courier.post("/api/a", {}, still());
  const away = courier.post("/api/a", {}, still());
  const [worker] = Fake.made;
  const [a, b, c] = worker?.errands ?? [];
  worker?.answer(a, 422, '{"status":422,"detail":"no woofer"}');
  worker?.answer(b, 502, "<html>");
  worker?.answer(c, 0, "");
  // modules were read anew, and so is the kind of error
  await expect(refused).rejects.toMatchObject({ message: "no woofer", problem: { status: 422 } });
  await expect(garbled).rejects.toMatchObject({ problem: undefined });
  await expect(away).rejects.toMatchObject({ message: new Refused(undefined).message });
});

it("what nobody waits for any more is called back", async () => {
  const leave = new AbortController();
  const asked = courier.post("/api/a", {}, leave.signal).catch((e: unknown) => e);
  const [worker] = Fake.made;
  leave.abort();
  expect(worker?.errands.at(-1)).toEqual({ id: worker?.errands[0]?.id });
  worker?.answer(worker.errands[0], 0, "");
  expect(await asked).toBeInstanceOf(Error);
});

it("a worker that cannot be had is as no server, and another one is tried the next time", async () => {
  const asked = courier.post("/api/a", {}, still());
  Fake.made[0]?.onerror();
  await expect(asked).rejects.toMatchObject({ problem: undefined });
  expect(Fake.made[0]?.terminate).toHaveBeenCalledOnce();
  const again = courier.post("/api/a", {}, still());
  expect(Fake.made).toHaveLength(2);
  Fake.made[1]?.answer(Fake.made[1].errands[0], 200, "ok");
  expect(new TextDecoder().decode(await again)).toBe("ok");
});
