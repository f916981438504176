import { expect, it } from "vitest";
import type { CabinetView, Design, MountedPart } from "../../api/client";
import { placed } from "./placing";

const part = (pointer: string | undefined, face = 0, across_mm = 150.4, up_mm = 300.6) =>
  ({ pointer, face, across_mm, up_mm }) as unknown as MountedPart;
const view = (...mounted_parts: MountedPart[]) => ({ mounted_parts }) as unknown as CabinetView;
const document = (cabinet: object) => ({ cabinet }) as unknown as Design;

it("a part with a place of its own gets it", () => {
  expect(placed(document({}), view(), part("/cabinet/terminals/at"), 40, 60, "back")).toEqual({
    pointer: "/cabinet/terminals/at",
    value: { face: "back", across_mm: 40, up_mm: 60 },
  });
});

it("of several in a list those before it are written down as they stand", () => {
  const first = part("/cabinet/woofers_at/0", 0);
  const second = part("/cabinet/woofers_at/1", 3);
  const third = part("/cabinet/woofers_at/2", 0);
  const made = placed(document({}), view(first, second, third), third, 210, 500, "baffle");
  expect(made).toEqual({
    pointer: "/cabinet/woofers_at",
    value: [
      { face: "baffle", across_mm: 150, up_mm: 301 },
      { face: "side", across_mm: 150, up_mm: 301 },
      { face: "baffle", across_mm: 210, up_mm: 500 },
    ],
  });
});

it("what is stated already stays as it is stated", () => {
  const stated = { face: "back", across_mm: 99.5, up_mm: 98 };
  const second = part("/cabinet/woofers_at/1");
  const made = placed(document({ woofers_at: [stated] }), view(second), second, 1, 2, "top");
  expect(made?.value).toEqual([stated, { face: "top", across_mm: 1, up_mm: 2 }]);
});

it("nothing is placed that has no place, or comes after one that is not there", () => {
  expect(placed(document({}), view(), part(undefined), 1, 2, "baffle")).toBeUndefined();
  const second = part("/cabinet/openings_at/1");
  expect(placed(document({}), view(second), second, 1, 2, "baffle")).toBeUndefined();
});
