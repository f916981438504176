import { expect, it } from "vitest";
import { eachLine } from "./lines";

const stream = (...pieces: string[]) =>
  new ReadableStream<Uint8Array>({
    start(out) {
      for (const piece of pieces) out.enqueue(new TextEncoder().encode(piece));
      out.close();
    },
  });
const read = async (...pieces: string[]) => {
  const list: unknown[] = [];
  await eachLine(stream(...pieces), (line) => list.push(line));
  return list;
};

it("lines are handed over whole, wherever the pieces are cut", async () => {
  expect(await read('{"a":1}\n{"b"', ":2}\n", '{"c":3}\n')).toEqual([{ a: 1 }, { b: 2 }, { c: 3 }]);
  expect(await read('{"a":1}\n{"last":true}')).toEqual([{ a: 1 }, { last: true }]);
  expect(await read("")).toEqual([]);
});

it("a line that is no JSON is an error, not silence", async () => {
  await expect(read("nonsense\n")).rejects.toThrow();
});
