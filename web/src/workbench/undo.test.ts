import { expect, it } from "vitest";
import { recorded, redone, undone, type Trail } from "./undo";

const nothing: Trail<string> = { undo: [], redo: [] };

it("goes back and forth through what was changed", () => {
  // a was changed to b and b to c
  const trail = recorded(recorded(nothing, "a", false), "b", false);
  const back = undone(trail, "c")!;
  expect(back).toEqual({ document: "b", undo: ["a"], redo: ["c"] });
  const further = undone(back, back.document)!;
  expect(further).toEqual({ document: "a", undo: [], redo: ["c", "b"] });
  expect(undone(further, further.document)).toBeUndefined();
  expect(redone(further, further.document)).toEqual({ document: "b", undo: ["a"], redo: ["c"] });
});

it("undoes a gesture as one step, and a new change ends what could be redone", () => {
  const moved = recorded(recorded(nothing, "a", false), "b", true);
  expect(undone(moved, "c")?.document).toBe("a");
  const back = undone(moved, "c")!;
  expect(redone(recorded(back, back.document, false), "x")).toBeUndefined();
});
