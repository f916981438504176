// @vitest-environment jsdom

import { describe, expect, it } from "vitest";
import type { OpenRevision } from "../workbench/workbench";
import { STATIONS } from "./stations";

/** What stands under a station's name for a revision of which only this is known. */
const under = (
  id: string,
  part: { document?: object; evaluation?: object },
  system: "metric" | "inch" = "metric",
) => {
  const station = STATIONS.find((s) => s.id === id);
  const document = { woofer: {}, enclosure: { family: "transmission_line" }, ...part.document };
  return station?.headline({ ...part, document } as unknown as OpenRevision, system);
};
const evaluated = (part: object) => ({
  evaluation: {
    ports: [],
    curves: { radiator_excursion_mm: [] },
    ...part,
    summary: { chambers: [], figures: [], steps: [], ...("summary" in part ? (part.summary as object) : {}) },
  },
});

it("stations and their views have names of their own, and all can be opened", () => {
  expect(new Set(STATIONS.map((s) => s.id)).size).toBe(STATIONS.length);
  for (const { id, title, Inputs, views = [] } of STATIONS) {
    expect([id, title, Inputs].every(Boolean)).toBe(true);
    expect(new Set([id, ...views.map((v) => v.id)]).size).toBe(views.length + 1);
    expect(views.every((v) => v.title && v.Wide)).toBe(true);
  }
});

describe("a station's figure", () => {
  it("of a brief nobody gave is that it is not begun", () => {
    expect(under("brief", {})).toBe("not begun");
    expect(under("brief", { document: { brief: { level_db: 100 } } })).toBe("not begun");
    expect(under("brief", { document: { brief: { lowest_note_hz: 31 } } })).toBe("31 Hz");
    expect(under("brief", { document: { brief: { lowest_note_hz: 31, level_db: 98 } } })).toBe(
      "98 dB at 31 Hz",
    );
  });

  it("of woofers is how many and which", () => {
    expect(under("woofer", {})).toBe("own figures");
    expect(under("woofer", { document: { woofer: { name: "Attic 12" }, array: { count: 2 } } })).toBe(
      "2 x Attic 12",
    );
  });

  it("of a box is its tuning and its air, in the units of the page; its family until that is known", () => {
    const box = evaluated({
      summary: {
        chambers: [{ net_l: 56.6337 }],
        figures: [{ id: "fb_hz", label: "Tuning", unit: "Hz", value: 30.04 }],
      },
    });
    expect(under("box", {})).toBe("transmission line");
    expect(under("box", box)).toBe("30 Hz, 56.6 L");
    expect(under("box", box, "inch")).toBe("30 Hz, 2 ft³");
    const qtc = { summary: { figures: [{ id: "qtc", label: "Qtc", unit: "", value: 0.7071 }] } };
    expect(under("box", evaluated(qtc))).toBe("Qtc 0.707");
  });

  it("of the airway is the port and its air, the radiators' excursion, or that there is none", () => {
    const port = evaluated({ ports: [{ length_mm: 254.2 }], summary: { fastest_air_m_per_s: 12.6 } });
    expect(under("airway", port)).toBe("254 mm, 13 m/s");
    expect(under("airway", port, "inch")).toBe("10 in, 13 m/s");
    const radiators = evaluated({
      summary: { steps: [{}] },
      curves: { radiator_excursion_mm: [2, 12.7, 3] },
    });
    expect(under("airway", radiators)).toBe("radiators, 13 mm");
    expect(under("airway", radiators, "inch")).toBe("radiators, 0.500 in");
    expect(under("airway", evaluated({ path: {} }))).toBe("a mouth");
    expect(under("airway", evaluated({}))).toBe("no opening");
    expect(under("airway", {})).toBe("");
  });

  it("of quiet is the lowest of what rings, whichever is known", () => {
    expect(under("quiet", evaluated({ summary: { lowest_wave_hz: 290, lowest_panel_hz: 180 } }))).toBe(
      "panel 180 Hz",
    );
    expect(under("quiet", evaluated({ summary: { lowest_wave_hz: 290, lowest_panel_hz: 380 } }))).toBe(
      "wave 290 Hz",
    );
    expect(under("quiet", evaluated({ summary: { lowest_panel_hz: 180 } }))).toBe("panel 180 Hz");
    expect(under("quiet", evaluated({ summary: { lowest_wave_hz: 290 } }))).toBe("wave 290 Hz");
    expect(under("quiet", evaluated({ path: {} }))).toBe("along the path");
    expect(under("quiet", evaluated({}))).toBe("no chamber");
  });

  it("of a cabinet is its outside, or that there are no boards yet", () => {
    const cabinet = { width_mm: 254, height_mm: 508, depth_mm: 381 };
    expect(under("cabinet", {})).toBe("no boards yet");
    expect(under("cabinet", { document: { cabinet } })).toBe("254 x 508 x 381");
    expect(under("cabinet", { document: { cabinet } }, "inch")).toBe("10 x 20 x 15 in");
  });
});
