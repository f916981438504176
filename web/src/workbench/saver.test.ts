// @vitest-environment jsdom

import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refused, type Problem } from "../api/client";
import { Saver, type Kept } from "./saver";

type Doc = { text: string };
type Answer = "saved" | "away" | "bad" | { version: number; current: Doc };

/** A server that keeps one record and answers as it is told. */
function server() {
  const puts: [number, string][] = [];
  const answers: Answer[] = [];
  let version = 1;
  const put = async (base: number, doc: Doc) => {
    puts.push([base, doc.text]);
    const answer = answers.shift() ?? "saved";
    await Promise.resolve();
    if (answer === "saved") return { version: (version = base + 1), updated_at: `at ${version}` };
    if (answer === "away") throw new Refused(undefined);
    if (answer === "bad") throw new Refused({ status: 422, detail: "bad" } as Problem);
    throw new Refused({ status: 409, ...answer } as unknown as Problem);
  };
  return { puts, answers, put };
}

const KEY = "test";
const joined = (base: Doc, mine: Doc, theirs: Doc): Doc => ({
  text: `${base.text}|${mine.text}|${theirs.text}`,
});

function opened(merge?: typeof joined, version = 1, text = "a") {
  const { puts, answers, put } = server();
  const heard: Kept<Doc>[] = [];
  const told = { key: KEY, put, changed: (kept: Kept<Doc>) => heard.push(kept), ...(merge && { merge }) };
  const saver = new Saver<Doc>(version, { text }, "at first", told);
  saver.begin();
  return { saver, puts, answers, heard };
}

const later = (ms: number) => vi.advanceTimersByTimeAsync(ms);
const unsent = () => JSON.parse(localStorage.getItem(KEY) ?? "null") as { document: Doc } | null;

describe("saving", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    localStorage.clear();
  });
  afterEach(() => void vi.useRealTimers());

  it("sends the newest once it rests, and holds it in the browser until then", async () => {
    const { saver, puts } = opened();
    saver.set({ text: "b" });
    await later(300);
    saver.set({ text: "c" });
    expect(unsent()?.document.text).toBe("c");
    await later(499);
    expect(puts).toEqual([]);
    await later(1);
    expect(puts).toEqual([[1, "c"]]);
    expect(saver.kept).toMatchObject({ version: 2, save: "saved", savedAt: "at 2" });
    expect(unsent()).toBeNull();
  });

  it("sends what changed while it was being sent, from the version that was made", async () => {
    const { saver, puts } = opened();
    saver.set({ text: "b" });
    const going = saver.saveNow();
    expect(saver.kept.save).toBe("saving");
    saver.set({ text: "c" });
    await going;
    expect(saver.kept).toMatchObject({ version: 2, save: "waiting" });
    await later(500);
    expect(puts).toEqual([
      [1, "b"],
      [2, "c"],
    ]);
  });

  it("saved at once while a save is on its way: that one is waited for, and the newest is sent after it", async () => {
    const { saver, puts } = opened();
    saver.set({ text: "b" });
    void saver.saveNow();
    saver.set({ text: "c" });
    await saver.saveNow();
    expect(puts).toEqual([
      [1, "b"],
      [2, "c"],
    ]);
    expect(saver.kept).toMatchObject({ version: 3, save: "saved" });
  });

  it("tries again while the server is away", async () => {
    const { saver, puts, answers } = opened();
    answers.push("away", "away");
    saver.set({ text: "b" });
    await later(500);
    expect(saver.kept.save).toBe("away");
    await later(1500);
    expect(saver.kept.save).toBe("away");
    saver.set({ text: "c" });
    await later(1500);
    expect(puts.at(-1)).toEqual([1, "c"]);
    expect(saver.kept.save).toBe("saved");
  });

  it("says what a refusal says until it is saved", async () => {
    const { saver, answers } = opened();
    answers.push("bad");
    saver.set({ text: "b" });
    await later(500);
    expect(saver.kept).toMatchObject({ save: "refused", problem: { detail: "bad" } });
    saver.set({ text: "c" });
    await later(500);
    expect(saver.kept.save).toBe("saved");
    expect(saver.kept.problem).toBeUndefined();
  });

  it("takes up in another tab what this one had not sent", async () => {
    const first = opened();
    first.saver.set({ text: "b" });
    first.saver.close();
    await later(5000);
    expect(first.puts).toEqual([]);
    const second = opened();
    expect(second.saver.kept).toMatchObject({ save: "waiting", value: { text: "b" } });
    await later(0);
    expect(second.puts).toEqual([[1, "b"]]);
  });

  it("writes a moving hand's work into the browser now and then only", async () => {
    const { saver } = opened();
    const write = vi.spyOn(Storage.prototype, "setItem");
    for (let i = 0; i < 100; i++) {
      saver.set({ text: `${i}` }, true);
      await later(10);
    }
    expect(write.mock.calls.length).toBeLessThan(8);
    write.mockRestore();
    saver.write();
    expect(unsent()?.document.text).toBe("99");
  });
});

describe("saved elsewhere", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    localStorage.clear();
  });
  afterEach(() => void vi.useRealTimers());

  async function conflict() {
    const made = opened();
    made.answers.push({ version: 5, current: { text: "theirs" } });
    made.saver.set({ text: "mine" });
    await later(500);
    expect(made.saver.kept).toMatchObject({
      save: "conflict",
      value: { text: "mine" },
      theirs: { version: 5, value: { text: "theirs" } },
    });
    return made;
  }

  it("sends nothing until one chooses", async () => {
    const { saver, puts } = await conflict();
    saver.set({ text: "mine again" });
    await later(5000);
    expect(puts.length).toBe(1);
    expect(unsent()?.document.text).toBe("mine again");
  });

  it("puts mine on top of theirs", async () => {
    const { saver, puts } = await conflict();
    saver.keepMine();
    await later(0);
    expect(puts.at(-1)).toEqual([5, "mine"]);
    expect(saver.kept.save).toBe("saved");
  });

  it("takes theirs, which is saved already", async () => {
    const { saver, puts } = await conflict();
    saver.takeTheirs();
    expect(saver.kept).toMatchObject({ version: 5, save: "saved", value: { text: "theirs" } });
    await later(5000);
    expect(puts.length).toBe(1);
    expect(unsent()).toBeNull();
  });

  it("finds nothing wrong where it was its own save that came back", async () => {
    const { saver, answers } = opened();
    answers.push({ version: 2, current: { text: "b" } });
    saver.set({ text: "b" });
    await later(500);
    expect(saver.kept).toMatchObject({ version: 2, save: "saved" });
  });

  it("asks also where theirs was saved while this browser was closed", () => {
    localStorage.setItem(KEY, JSON.stringify({ version: 1, document: { text: "mine" } }));
    const { saver } = opened(undefined, 3, "theirs");
    expect(saver.kept).toMatchObject({ version: 1, save: "conflict", theirs: { version: 3 } });
  });

  it("joins the two where they can be joined, and sends that", async () => {
    const { saver, puts, answers, heard } = opened(joined);
    answers.push({ version: 5, current: { text: "theirs" } });
    saver.set({ text: "mine" });
    await later(500);
    await later(10);
    expect(puts).toEqual([
      [1, "mine"],
      [5, "a|mine|theirs"],
    ]);
    expect(saver.kept.save).toBe("saved");
    expect(heard.every((kept) => kept.save !== "conflict")).toBe(true);
  });

  it("joins them also over a closed browser", async () => {
    const first = opened(joined);
    first.saver.set({ text: "mine" });
    first.saver.close();
    const second = opened(joined, 3, "theirs");
    await later(0);
    expect(second.puts).toEqual([[3, "a|mine|theirs"]]);
  });
});
