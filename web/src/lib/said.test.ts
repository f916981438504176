import { expect, it } from "vitest";
import type { Text } from "../api/client";
import { lowered, plain, said } from "./said";

it("says each quantity in the system that is wanted, and the words as they are", () => {
  const text: Text = [
    "The woofer is ",
    { values: [178], unit: "mm", metric: "178 mm", inch: "7 in" },
    " deep; ",
    { values: [95], unit: "L", metric: "95 L", inch: "3.35 ft³" },
  ];
  expect(said(text, "inch")).toBe("The woofer is 7 in deep; 3.35 ft³");
  expect(plain(text)).toBe("The woofer is 178 mm deep; 95 L");
  expect(said([], "inch")).toBe("");
  expect(plain(lowered(text))).toBe("the woofer is 178 mm deep; 95 L");
});
