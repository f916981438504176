import { describe, expect, it } from "vitest";
import type { Design, Evaluation } from "../api/client";
import { apply } from "./pointer";
import { changesTo, flagsOf } from "./tuning";

type Handle = Evaluation["handles"][number];

const port: Handle = {
  id: "port-0",
  label: "tune",
  hz: 30,
  lowest_hz: 5,
  highest_hz: 300,
  first: [{ pointer: "/enclosure/port/sizing", value: { by: "tuning", tuning_hz: 30 } }],
  follows: [
    { pointer: "/enclosure/port/sizing/tuning_hz", plus: 0, times: 30, power: 1, least: 5, decimals: 1 },
  ],
};
const radiator: Handle = {
  id: "radiator",
  label: "tune",
  hz: 40,
  lowest_hz: 5,
  highest_hz: 300,
  first: [],
  follows: [
    { pointer: "/enclosure/radiators/added_mass_g", plus: -40, times: 100, power: -2, least: 0, decimals: 1 },
  ],
};

describe("handles on the frequency axis", () => {
  it("sets what has to be set first, then what follows", () => {
    const given = { enclosure: { port: { sizing: { by: "length", length_mm: 120 } } } };
    expect(apply(given, changesTo(port, 26.04))).toEqual({
      enclosure: { port: { sizing: { by: "tuning", tuning_hz: 26 } } },
    });
  });

  it("follows with a power, to the least there may be", () => {
    // half the tuning wants four times the moving mass
    expect(changesTo(radiator, 20)[0]?.value).toBe(360);
    expect(changesTo(radiator, 80)[0]?.value).toBe(0);
  });

  it("goes no further than anything is tuned", () => {
    expect(changesTo(port, 2).at(-1)?.value).toBe(5);
    expect(changesTo(port, 2000).at(-1)?.value).toBe(300);
  });

  it("stands where the document has it, ahead of the answer", () => {
    const document = {
      enclosure: { port: { sizing: { by: "tuning", tuning_hz: 33 } } },
    } as unknown as Design;
    const [flag] = flagsOf(document, { handles: [port] } as unknown as Evaluation);
    expect(flag?.hz).toBe(33);
    expect(flagsOf({} as Design, { handles: [port] } as unknown as Evaluation)[0]?.hz).toBe(30);
    expect(flagsOf(document, undefined)).toEqual([]);
  });
});
