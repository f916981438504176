import "fake-indexeddb/auto";
import { afterEach, expect, it, vi } from "vitest";
import { Refused, type LogRecord, type Problem } from "../api/client";
import { newKey, Outbox, type Post, type Waiting } from "./outbox";

const away = () => Promise.reject(new Refused(undefined));
const record = (w: Waiting) =>
  ({ id: w.id, build_id: w.build, document: w.entry, version: 1 }) as unknown as LogRecord;
const shown = (digest: string) => ({ digest, width: 4, height: 3 });

let count = 0;
const name = () => `outbox-${(count += 1)}`;
const written = (id: string, text: string, photos: Blob[] = []) => ({
  id,
  build: "7",
  base_version: 0,
  entry: { text },
  photos,
});

afterEach(() => void vi.useRealTimers());

it("keeps what is written while the server is away, over a closed tab, and sends it once", async () => {
  const base = name();
  const first = new Outbox({ photo: away, entry: away }, base);
  await first.put(written("a", "Cut the sides", [new Blob(["one"]), new Blob(["two"])]));
  await first.put(written("b", "Glued"));
  await first.flush();
  expect(first.snapshot().map((w) => w.id)).toEqual(["a", "b"]);

  const sent: Waiting[] = [];
  let photos = 0;
  const post: Post = {
    photo: () => Promise.resolve(shown(String((photos += 1)))),
    entry: (w) => {
      sent.push(w);
      return Promise.resolve(record(w));
    },
  };
  const again = new Outbox(post, base);
  await again.flush();
  expect(sent.map((w) => w.id)).toEqual(["a", "b"]);
  expect(sent[0]?.entry.photos).toEqual([shown("1"), shown("2")]);
  expect(again.snapshot()).toEqual([]);
  const third = new Outbox(post, base);
  await third.flush();
  expect(sent).toHaveLength(2);
});

it("sends each photo once though the way breaks between them", async () => {
  const base = name();
  let photos = 0;
  const broken: Post = {
    photo: () => ((photos += 1) === 2 ? away() : Promise.resolve(shown(String(photos)))),
    entry: away,
  };
  const first = new Outbox(broken, base);
  await first.put(written("a", "Two photos", [new Blob(["one"]), new Blob(["two"])]));
  await first.flush();
  let taken = 0;
  const again = new Outbox(
    {
      photo: () => Promise.resolve(shown(`again ${(taken += 1)}`)),
      entry: (w) => Promise.resolve(record(w)),
    },
    base,
  );
  const delivered = vi.fn();
  again.delivered = delivered;
  await again.flush();
  expect(taken).toBe(1);
  expect(delivered.mock.calls[0]?.[0]).toMatchObject({
    document: { photos: [shown("1"), shown("again 1")] },
  });
});

it("keeps what is refused with its reason, and goes on with the others", async () => {
  const problem = { status: 422, detail: "this is no photo" } as Problem;
  const sent: string[] = [];
  const box = new Outbox(
    {
      photo: () => Promise.reject(new Refused(problem)),
      entry: (w) => {
        sent.push(w.id);
        return Promise.resolve(record(w));
      },
    },
    name(),
  );
  await box.put(written("a", "A script", [new Blob(["#!/bin/sh"])]));
  await box.put(written("b", "Words"));
  await box.flush();
  expect(sent).toEqual(["b"]);
  expect(box.snapshot()).toMatchObject([{ id: "a", problem: { detail: "this is no photo" } }]);
  // without the photo it goes
  await box.put(written("a", "Words alone"));
  await box.flush();
  expect(sent).toEqual(["b", "a"]);
});

it("sends what was written over an entry that was on its way", async () => {
  const sent: string[] = [];
  let release = () => undefined as void;
  const box: Outbox = new Outbox(
    {
      photo: away,
      entry: async (w) => {
        sent.push(`${w.entry.text} over ${w.base_version}`);
        if (sent.length === 1) await new Promise<void>((done) => (release = done));
        return record(w);
      },
    },
    name(),
  );
  await box.put(written("a", "first"));
  const going = box.flush();
  await vi.waitFor(() => expect(sent).toEqual(["first over 0"]));
  await box.put(written("a", "second"));
  release();
  await going;
  await box.flush();
  expect(sent).toEqual(["first over 0", "second over 1"]);
  expect(await box.takeBack("a")).toBe(false);
});

it("waits for what is on its way before it says that nothing was left to take back", async () => {
  let release = () => undefined as void;
  const post: Post = {
    photo: away,
    entry: async (w) => {
      await new Promise<void>((done) => (release = done));
      return record(w);
    },
  };
  const box = new Outbox(post, name());
  await box.put(written("a", "a remedy"));
  const going = box.flush();
  await new Promise((done) => setTimeout(done, 10));
  const taken = box.takeBack("a");
  release();
  expect(await taken).toBe(false);
  await going;
  expect(box.snapshot()).toEqual([]);
});

it("makes keys that sort by time and are of version 7", () => {
  const keys = [newKey(1_700_000_000_000), newKey(1_700_000_000_001), newKey(1_800_000_000_000)];
  expect([...keys].sort()).toEqual(keys);
  expect(keys[0]).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
});
