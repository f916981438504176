import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render, screen, within } from "@testing-library/react";
import { MemoryRouter, Route, Routes } from "react-router";
import { afterEach, beforeEach, expect, it } from "vitest";
import { WorkbenchContext } from "../workbench/context";
import type { BuildState, Workbench } from "../workbench/workbench";
import { Rail } from "./Rail";
import { change } from "./settings";

const cabinet = { width_mm: 254, height_mm: 508, depth_mm: 381 };
const finding = (station: string, severity: string) => ({ station, severity });

function rail(list: object[] | undefined) {
  const document = { woofer: { name: "Attic 12" }, enclosure: { family: "sealed" }, cabinet };
  const current = { id: "A", letter: "A", document, found: list && { in: document, list } };
  const state = { build: { id: "7" }, revisions: [current], current: "A" } as unknown as BuildState;
  const client = new QueryClient({ defaultOptions: { queries: { enabled: false } } });
  const fake = {
    snapshot: () => state,
    subscribe: () => () => undefined,
    subscribeLive: () => () => undefined,
  };
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={["/builds/7/cabinet"]}>
        <WorkbenchContext value={fake as unknown as Workbench}>
          <Routes>
            <Route path="/builds/:id/:station" element={<Rail />} />
          </Routes>
        </WorkbenchContext>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return (name: RegExp) => screen.getByRole("link", { name });
}

beforeEach(() => change({ system: "metric" }));
afterEach(cleanup);

it("leads to every station of this build, and says where one is", () => {
  const stop = rail([]);
  expect(screen.getAllByRole("link").map((a) => a.getAttribute("href"))).toEqual(
    ["brief", "woofer", "box", "airway", "quiet", "cabinet", "drive", "room", "prove", "log", "listen"].map(
      (s) => `/builds/7/${s}`,
    ),
  );
  expect(stop(/Cabinet/).getAttribute("aria-current")).toBe("page");
  expect(stop(/Box/).getAttribute("aria-current")).toBeNull();
});

it("tells each station's figure, in the units of the page", () => {
  const stop = rail([]);
  expect(stop(/Woofer/).textContent).toContain("Attic 12");
  expect(stop(/Cabinet/).textContent).toContain("254 x 508 x 381");
  expect(stop(/Prove/).textContent).toContain("not begun");
  act(() => change({ system: "inch" }));
  expect(stop(/Cabinet/).textContent).toContain("10 x 20 x 15 in");
});

it("marks a station by the worst of what was found there; one that is not begun is never fine", () => {
  const stop = rail([
    finding("airway", "look"),
    finding("airway", "broken"),
    finding("cabinet", "look"),
    finding("woofer", "caution"),
    finding("brief", "good"),
  ]);
  const mark = (name: RegExp) => within(stop(name)).queryByRole("img")?.getAttribute("aria-label");
  expect(mark(/Airway/)).toBe("something is broken here");
  expect(mark(/Cabinet/)).toBe("look here");
  expect(mark(/Woofer/)).toBe("judged, and nothing found");
  for (const name of [/Brief/, /Box/, /Quiet/, /Drive/, /Room/]) expect(mark(name)).toBe("not begun");
  // their figures say it in words
  for (const name of [/Prove/, /Log/, /Listen/]) expect(mark(name)).toBeUndefined();
});

it("calls nothing fine before it was judged", () => {
  const stop = rail(undefined);
  const mark = (name: RegExp) => within(stop(name)).queryByRole("img")?.getAttribute("aria-label");
  expect([mark(/Woofer/), mark(/Cabinet/)]).toEqual([undefined, undefined]);
  expect(mark(/Room/)).toBe("not begun");
});
