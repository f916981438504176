// @vitest-environment jsdom

import { expect, it } from "vitest";
import { fieldsOf } from "../lib/fields";
import { STATIONS } from "./stations";
import { whereIs } from "./where";

it("every field of a design has its station, but for what stands above them all", () => {
  const fields = fieldsOf({ woofer: {}, enclosure: { family: "sealed" }, cabinet: {}, room: {}, chain: {} });
  const nowhere = fields.filter((f) => !whereIs(f.pointer)).map((f) => f.pointer.split("/")[1]);
  expect([...new Set(nowhere)].sort()).toEqual(["listening"]);
  for (const f of fields) {
    const station = whereIs(f.pointer);
    if (station) expect(STATIONS.map((s) => s.id)).toContain(station);
  }
});

it("a beginning is a whole part of a pointer", () => {
  expect(whereIs("/air/temperature_c")).toBe("box");
  expect(whereIs("/airs")).toBeUndefined();
});
