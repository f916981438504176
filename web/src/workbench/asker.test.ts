import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refused } from "../api/client";
import { Asker } from "./asker";

type Doc = { n: number };

/** A question that is answered when it is told to be. */
function slow() {
  const asked: { about: Doc; answer: (text: string) => void; fail: (cause: unknown) => void }[] = [];
  const ask = (about: Doc) => new Promise<string>((answer, fail) => asked.push({ about, answer, fail }));
  return { asked, ask };
}

const settle = () => vi.advanceTimersByTimeAsync(0);

describe("asking", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it("has one question under way and asks about the newest next", async () => {
    const { asked, ask } = slow();
    const got: [string, number][] = [];
    const asker = new Asker<Doc, string>({ ask, got: (answer, about) => got.push([answer, about.n]) });
    for (let n = 1; n <= 5; n++) asker.want({ n });
    expect(asked.map((a) => a.about.n)).toEqual([1]);
    asked[0]!.answer("first");
    await settle();
    expect(asked.map((a) => a.about.n)).toEqual([1, 5]);
    asked[1]!.answer("fifth");
    await settle();
    expect(got).toEqual([
      ["first", 1],
      ["fifth", 5],
    ]);
    expect(asked.length).toBe(2);
  });

  it("asks so often at most, and about the newest at the end", async () => {
    const asked: number[] = [];
    const ask = (about: Doc) => {
      asked.push(about.n);
      return Promise.resolve("");
    };
    const asker = new Asker<Doc, string>({ ask, got: () => undefined, everyMs: 120 });
    for (let n = 1; n <= 30; n++) {
      asker.want({ n });
      await vi.advanceTimersByTimeAsync(16);
    }
    await vi.advanceTimersByTimeAsync(240);
    expect(asked.length).toBeLessThanOrEqual(6);
    expect([asked[0], asked.at(-1)]).toEqual([1, 30]);
  });

  it("waits until the document rests, the first time aside", async () => {
    const { asked, ask } = slow();
    const asker = new Asker<Doc, string>({ ask, got: () => undefined, restMs: 150 });
    asker.want({ n: 1 });
    expect(asked.length).toBe(1);
    asked[0]!.answer("");
    await settle();
    for (let n = 2; n < 30; n++) {
      asker.want({ n });
      await vi.advanceTimersByTimeAsync(16);
    }
    expect(asked.length).toBe(1);
    await vi.advanceTimersByTimeAsync(150);
    expect(asked.map((a) => a.about.n)).toEqual([1, 29]);
    // what moves on meanwhile rests again, and is asked about though the answer came first
    asker.want({ n: 30 });
    asked[1]!.answer("");
    await settle();
    expect(asked.length).toBe(2);
    await vi.advanceTimersByTimeAsync(150);
    expect(asked.map((a) => a.about.n)).toEqual([1, 29, 30]);
    // one that has rested while the answer was still on its way is asked about at once
    asker.want({ n: 31 });
    await vi.advanceTimersByTimeAsync(150);
    expect(asked.length).toBe(3);
    asked[2]!.answer("");
    await settle();
    expect(asked.at(-1)!.about.n).toBe(31);
  });

  it("asks again where nobody answered, and goes on from a refusal", async () => {
    const { asked, ask } = slow();
    const refused: string[] = [];
    const got: string[] = [];
    const asker = new Asker<Doc, string>({
      ask,
      got: (answer) => got.push(answer),
      refused: (problem) => refused.push(problem.detail),
    });
    asker.want({ n: 1 });
    asked[0]!.fail(new Refused(undefined));
    await vi.advanceTimersByTimeAsync(1500);
    expect(asked.map((a) => a.about.n)).toEqual([1, 1]);
    asked[1]!.fail(new Refused({ type: "", title: "", status: 422, detail: "no" }));
    await vi.advanceTimersByTimeAsync(5000);
    expect(asked.length).toBe(2);
    expect(refused).toEqual(["no"]);
    asker.want({ n: 2 });
    asked[2]!.answer("yes");
    await settle();
    expect(got).toEqual(["yes"]);
  });

  it("lets go, and begins anew", async () => {
    const { asked, ask } = slow();
    const got: string[] = [];
    const asker = new Asker<Doc, string>({ ask, got: (answer) => got.push(answer) });
    const same = { n: 1 };
    asker.want(same);
    asker.stop();
    asked[0]!.answer("late");
    await settle();
    expect(got).toEqual([]);
    asker.want(same);
    asked[1]!.answer("again");
    await settle();
    expect(got).toEqual(["again"]);
  });
});
