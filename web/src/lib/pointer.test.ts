import { expect, it } from "vitest";
import { apply, at, set } from "./pointer";

const document = { a: { b: 1, c: 2 }, d: "x" };

it("reads and sets without touching the original", () => {
  expect(at(document, "/a/b")).toBe(1);
  expect(at(document, "/a/x/y")).toBeUndefined();
  const changed = set(document, "/a/b", 5);
  expect(changed.a).toEqual({ b: 5, c: 2 });
  expect(document.a.b).toBe(1);
  expect(changed.d).toBe(document.d);
});

it("takes members away and makes parents", () => {
  expect(set(document, "/a/b", null).a).toEqual({ c: 2 });
  expect(set<unknown>(document, "/e/f", 1)).toMatchObject({ e: { f: 1 } });
  expect(
    apply(document, [
      { pointer: "/a/b", value: 7 },
      { pointer: "/d", value: "y" },
    ]),
  ).toEqual({
    a: { b: 7, c: 2 },
    d: "y",
  });
});
