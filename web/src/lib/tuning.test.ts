import { describe, expect, it } from "vitest";
import type { Design, Evaluation } from "../api/client";
import { flagsOf } from "./tuning";

const evaluation = (more: object) =>
  ({ ports: [], summary: { figures: [] }, ...more }) as unknown as Evaluation;

describe("flags on the frequency axis", () => {
  it("pulls a port's tuning", () => {
    const document = {
      enclosure: { port: { sizing: { by: "tuning", tuning_hz: 30 } } },
    } as unknown as Design;
    const [flag] = flagsOf(document, evaluation({ ports: [{ pointer: "/enclosure/port", tuning_hz: 29 }] }));
    expect(flag?.hz).toBe(30);
    expect(flag?.to(26.04)).toEqual([
      { pointer: "/enclosure/port/sizing", value: { by: "tuning", tuning_hz: 26 } },
    ]);
  });

  it("hangs mass on a radiator: half the tuning wants four times the mass", () => {
    const document = { enclosure: { radiators: { added_mass_g: 60 } } } as unknown as Design;
    const figures = [
      { id: "fb_hz", value: 40 },
      { id: "radiator_mass_g", value: 100 },
    ];
    const [flag] = flagsOf(document, evaluation({ summary: { figures } }));
    expect(flag?.to(20)[0]?.value).toBe(360);
  });

  it("stretches a line with what lies along it", () => {
    const document = {
      enclosure: { length_mm: 2000, woofer_at_mm: 500, fills: [{ from_mm: 0, to_mm: 1000, density: 8 }] },
    } as unknown as Design;
    const path = { at_mm: [0, 2000] };
    const [flag] = flagsOf(
      document,
      evaluation({ path, summary: { figures: [{ id: "fb_hz", value: 40 }] } }),
    );
    expect(flag?.to(20)[0]?.value).toEqual({
      length_mm: 4000,
      woofer_at_mm: 1000,
      fills: [{ from_mm: 0, to_mm: 2000, density: 8 }],
    });
  });
});
