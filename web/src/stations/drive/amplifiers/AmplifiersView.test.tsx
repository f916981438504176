import { cleanup, render, screen, within } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, expect, it, vi } from "vitest";
import type { Amplifier, AmplifierRecord, Suits } from "../../../api/client";
import { WorkbenchContext } from "../../../workbench/context";
import type { Workbench } from "../../../workbench/workbench";
import { AmplifiersView } from "./AmplifiersView";

const server: { suits: Suits["amplifiers"]; shelf: AmplifierRecord[]; refuse?: object } = {
  suits: [],
  shelf: [],
};
const posted = vi.fn();
vi.mock("../../../api/client", async (original) => ({
  ...(await original<typeof import("../../../api/client")>()),
  api: {
    GET: () => Promise.resolve({ data: server.shelf, response: new Response() }),
    POST: (path: string, what: unknown) => {
      posted(path, what);
      if (path === "/api/drive/amplifiers") {
        const data = { note_hz: 32, lowest_load_ohm: 5.8, coils_w: 400, amplifiers: server.suits };
        return Promise.resolve({ data, response: new Response() });
      }
      return Promise.resolve(
        server.refuse
          ? { error: server.refuse, response: new Response() }
          : { data: {}, response: new Response() },
      );
    },
  },
}));

afterEach(() => {
  cleanup();
  posted.mockClear();
  delete server.refuse;
});

const amplifier = (name: string, more: Partial<Amplifier> = {}): Amplifier => ({
  name,
  power_w: 300,
  load_ohm: 8,
  minimum_load_ohm: 4,
  ...more,
});

function show(shelf: Amplifier[], own?: Amplifier, more: object = {}) {
  server.shelf = shelf.map((a, i) => ({
    id: `id-${i}`,
    version: 1,
    updated_at: "",
    document: { format: "oak-drum-amplifier", version: 1, amplifier: a },
  }));
  const document = {
    version: 8,
    woofer: {},
    enclosure: { family: "sealed" },
    chain: { amplifier: own, ...more },
  };
  const state = { revisions: [{ letter: "A", document }], current: "A" };
  const take = vi.fn();
  const nothing = () => () => undefined;
  const fake = {
    snapshot: () => state,
    subscribe: nothing,
    subscribeLive: nothing,
    current: state.revisions[0],
    take,
  };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <WorkbenchContext value={fake as unknown as Workbench}>
          <AmplifiersView />
        </WorkbenchContext>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return take;
}

it("shows what is judged in its order, and takes one whole: a chain without amplifier counts it again", async () => {
  const [plate, field, odd] = [
    amplifier("Plate"),
    amplifier("Field", { supply: "battery" }),
    amplifier("Odd"),
  ];
  server.suits = [
    { index: 1, verdict: "suits", reasons: [["The cone ends it."]], costs_db: 0.4, level_db: 104.26 },
    { index: 0, verdict: "not", reasons: [["The load falls to 2 ohm."]] },
    { index: 2, verdict: "unread", reasons: [["Look at its sheet."]] },
    // of a list that was longer when it was asked about
    { index: 7, verdict: "suits", reasons: [] },
  ];
  const take = show([plate, field, odd], odd, { amplifier_off: true });
  const rows = within(await screen.findByTestId("amplifiers"))
    .getAllByRole("row")
    .slice(1);
  expect(rows.map((r) => r.textContent)).toEqual([
    expect.stringMatching(/^Field.*on a battery.*suits.*The cone ends it\..*104\.3.*0\.4/),
    expect.stringMatching(/^Plate.*may not.*The load falls/),
    expect.stringMatching(/^Odd.*in use.*not judged/),
  ]);
  await userEvent.click(within(rows[0]!).getByRole("button", { name: "Take it" }));
  expect(take).toHaveBeenCalledWith("Field taken", [
    { pointer: "/chain/amplifier", value: field },
    { pointer: "/chain/amplifier_off", value: undefined },
  ]);
});

it("offers the build's own amplifier to the shelf, and says why one is not kept", async () => {
  server.suits = [];
  server.refuse = { status: 422, errors: [{ pointer: "/amplifier/name", message: ["it needs a name"] }] };
  show([], amplifier(""));
  await userEvent.click(await screen.findByRole("button", { name: "Put it on the shelf" }));
  expect(await screen.findByText("Not kept: it needs a name")).toBeTruthy();
  expect(posted.mock.calls[0]?.[0]).toBe("/api/amplifiers");
  expect(screen.getByText("No amplifier stands here yet.")).toBeTruthy();
});

it("offers no amplifier to the shelf that stands there", async () => {
  show([amplifier("Plate")], amplifier("Plate"));
  expect(await screen.findByText(/This build has/)).toBeTruthy();
  expect(screen.queryByRole("button", { name: "Put it on the shelf" })).toBeNull();
});
