import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Arrangements, FamiliesInRoom, RoomMap, RoomRecord, RoomView } from "../../api/client";
import { change } from "../../app/settings";
import { mounted } from "../../tests/mounted";
import { FamiliesView } from "./FamiliesView";
import { RoomFigure } from "./RoomFigure";
import { RoomPicture } from "./RoomPicture";
import { RoomStation } from "./RoomStation";
import { WavesView } from "./WavesView";
import { WhereView } from "./WhereView";

type Serve = (method: string, path: string, body: unknown) => { status: number; body: unknown };
const served = vi.hoisted((): { answer: Serve; view: unknown } => ({
  answer: () => ({ status: 500, body: undefined }),
  view: undefined,
}));
vi.mock("../../api/client", async (original) => {
  const call = (method: string) => (path: string, asked?: { body?: unknown }) => {
    const { status, body } = served.answer(method, path, asked?.body);
    const response = new Response(null, { status });
    return Promise.resolve(status < 300 ? { data: body, response } : { error: body, response });
  };
  const api = { GET: call("GET"), POST: call("POST"), PUT: call("PUT"), DELETE: call("DELETE") };
  return { ...(await original<typeof import("../../api/client")>()), api };
});
vi.mock("../../workbench/documentQuery", () => ({ useDocumentQuery: () => served.view }));

const room = {
  name: "Parlour",
  space: { kind: "room", length_m: 6, width_m: 4, height_m: 2.5, damping: { by: "time", t60_s: 0.5 } },
};
const standing = {
  room,
  cabinets: [{ x_m: 1, y_m: 1, faces: "right" }],
  seats: [
    { name: "Sofa", x_m: 4, y_m: 2, ears_m: 1.2 },
    { name: "", x_m: 4, y_m: 3, ears_m: 1.2 },
  ],
};
const document = { name: "A", woofer: {}, enclosure: { family: "sealed" }, room: standing };

const seat = (name: string, level: number) => ({
  name,
  level_db: [level, level, level],
  mean_db: level,
  distance_m: 3.2,
});
const view: RoomView = {
  frequency_hz: [10, 40, 200],
  open_level_db: [70, 80, 85],
  seats: [seat("Sofa", 90), seat("", 84)],
  mean_level_db: [87, 87, 87],
  spread_db: [3, 3, 3],
  group_delay_ms: [10, 8, 4],
  open_group_delay_ms: [9, 6, 3],
  band_hz: [30, 120],
  level_db: 87,
  between_seats_db: 3,
  along_band_db: 1.5,
  gain_db: 6.2,
  low_gain_db: 9.4,
  figures: {
    volume_m3: 60,
    t60_s: 0.5,
    schroeder_hz: 183,
    lowest_mode_hz: 28.6,
    leak_hz: 4,
    crossing_hz: 36,
  },
  cabinets: [
    { outside_m: [0.4, 0.6, 0.5], footprint_m: [0.5, 0.4], assumed: false, openings_m: [[1.2, 1, 0.3]] },
  ],
  modes: [
    {
      order: [1, 0, 0],
      frequency_hz: 28.6,
      kind: "axial",
      t60_s: 0.5,
      cabinets: [0.87],
      seats: [-0.5, -0.5],
      coupling_db: -7.2,
      together_db: [[-7.2, -3.4]],
      moves: [
        { moved: "seat_left", change_db: -2.5 },
        { moved: "cabinet_upper", change_db: 0.1 },
      ],
    },
  ],
  clashes: [],
  brief_gain_db: [],
  rests_on: ["An estimate."],
};

const text = (name: string | RegExp) => screen.getByText(name);
beforeEach(() => {
  change({ system: "metric" });
  served.view = view;
});
afterEach(cleanup);

it("the rail tells how far seats differ, or what cannot stand, or that it is in the open", () => {
  mounted(<RoomFigure />, document);
  expect(window.document.body.textContent).toBe("seats ±3.0 dB");
  cleanup();
  served.view = { ...view, clashes: [{ seat: false, index: 0, against: "wall", other: 0, by_m: 0.2 }] };
  mounted(<RoomFigure />, document);
  expect(window.document.body.textContent).toBe("cannot stand so");
  cleanup();
  served.view = { ...view, seats: [seat("Sofa", 90)] };
  mounted(<RoomFigure />, document);
  expect(window.document.body.textContent).toBe("±1.5 dB at the seat");
  cleanup();
  mounted(<RoomFigure />, { name: "A" });
  expect(window.document.body.textContent).toBe("in the open");
});

it("the picture tells distances in the page's units, and a key moves by a centimetre", () => {
  const changed = vi.fn();
  mounted(<RoomPicture />, document, { change: changed, endGesture: () => undefined });
  const cabinet = screen.getByRole("slider", { name: "Cabinet 1, plan" });
  expect(cabinet.getAttribute("aria-valuetext")).toBe("0.75 m from the left wall, 0.8 m from the lower wall");
  fireEvent.keyDown(cabinet, { key: "ArrowRight" });
  expect(changed.mock.calls[0]?.[0]).toEqual([
    { pointer: "/room/cabinets/0/x_m", value: 1.01 },
    { pointer: "/room/cabinets/0/y_m", value: 1 },
  ]);
  // on the side view up is height, of a cabinet that of its underside
  fireEvent.keyDown(screen.getByRole("slider", { name: "Cabinet 1, side view" }), {
    key: "ArrowUp",
    shiftKey: true,
  });
  expect(changed.mock.calls[1]?.[0]).toEqual([
    { pointer: "/room/cabinets/0/x_m", value: 1 },
    { pointer: "/room/cabinets/0/raised_m", value: 0.1 },
  ]);
  cleanup();
  change({ system: "inch" });
  mounted(<RoomPicture />, document);
  expect(screen.getByRole("slider", { name: "Sofa, plan" }).getAttribute("aria-valuetext")).toContain(
    "6.56 ft",
  );
});

it("one press shows the open, another the room again; what cannot stand is judged as nothing", async () => {
  const user = mounted(<RoomPicture />, document);
  expect(screen.getByTestId("room-figures").textContent).toContain("+6.2 dB");
  await user.click(screen.getByRole("button", { name: "Without the room" }));
  expect(screen.getByRole("figure", { name: "Without the room" })).toBeTruthy();
  await user.click(screen.getByRole("button", { name: "With the room" }));
  cleanup();
  served.view = { ...view, clashes: [{ seat: false, index: 0, against: "wall", other: 0, by_m: 0.2 }] };
  mounted(<RoomPicture />, document);
  expect(screen.getByTestId("room-figures").textContent).not.toMatch(/±|9\.4/);
  expect(screen.getByRole("status").textContent).toContain("nothing is told");
  expect(screen.queryByRole("figure", { name: "At the seats" })).toBeNull();
  expect(screen.getByRole("slider", { name: "Cabinet 1, plan" }).getAttribute("aria-valuetext")).toContain(
    "cannot stand",
  );
});

it("a room is chosen, kept in the workshop, put away and back; a stale save says so", async () => {
  const record = {
    id: "q1",
    document: room,
    version: 3,
    updated_at: "2026-11-26T10:00:00Z",
  } as unknown as RoomRecord;
  let list = [record];
  const calls: string[] = [];
  served.answer = (method, path) => {
    calls.push(`${method} ${path}`);
    if (method === "GET") return { status: 200, body: list };
    if (method === "PUT") return { status: 409, body: { status: 409, errors: [] } };
    return { status: 204, body: undefined };
  };
  const take = vi.fn();
  const user = mounted(<RoomStation />, { name: "A" }, { take });
  await user.click(await screen.findByRole("button", { name: "Parlour" }));
  expect(take.mock.calls[0]?.[1]).toMatchObject([
    { pointer: "/room", value: { room, seats: [{ name: "Main seat" }] } },
  ]);
  cleanup();
  const other = { ...standing, room: { ...room, space: { ...room.space, length_m: 7 } } };
  const hand = mounted(<RoomStation />, { ...document, room: other }, { take, set: vi.fn() });
  await hand.click(await screen.findByRole("button", { name: "Keep mine" }));
  await waitFor(() => expect(text(/somebody saved this room meanwhile/)).toBeTruthy());
  cleanup();
  const again = mounted(<RoomStation />, document, { take, set: vi.fn() });
  await again.click(await screen.findByRole("button", { name: "put this room out of the workshop" }));
  list = [];
  await again.click(await screen.findByRole("button", { name: "Put it back" }));
  await waitFor(() => expect(text("Parlour is back.")).toBeTruthy());
  expect(calls).toContain("POST /api/rooms/{id}/restore");
});

it("seats and cabinets are added beside the last, an area at once, and taken away", async () => {
  served.answer = () => ({ status: 200, body: [] });
  const set = vi.fn();
  const user = mounted(<RoomStation />, document, { set });
  await user.click(
    within(screen.getByRole("region", { name: "Cabinets" })).getByRole("button", { name: "another" }),
  );
  expect(set.mock.calls[0]).toEqual([
    "/room/cabinets",
    [standing.cabinets[0], { ...standing.cabinets[0], y_m: 1.6 }],
  ]);
  const seats = within(screen.getByRole("region", { name: "Seats" }));
  await user.click(seats.getByRole("button", { name: "an area" }));
  const added = set.mock.calls[1]?.[1] as { x_m: number; y_m: number }[];
  expect(added).toHaveLength(8);
  expect(added.every((s) => s.x_m <= 5.8 && s.y_m <= 3.8)).toBe(true);
  await user.click(screen.getByRole("button", { name: "Remove seat 1" }));
  expect(set.mock.calls[2]).toEqual(["/room/seats", [standing.seats[1]]]);
  await user.click(screen.getByLabelText("Somebody lives behind a wall"));
  expect(set.mock.calls[3]?.[0]).toBe("/room/neighbour");
});

const x_m = [0.5, 1.5, 2.5, 3.5, 4.5, 5.5];
const y_m = [0.5, 1.5, 2.5, 3.5];
const slope = y_m.flatMap(() => x_m);
const values = { uneven_db: 2, between_db: 1, along_db: 1.7, loud_db: 3, low_db: 5 };
const map: RoomMap = {
  x_m,
  y_m,
  uneven_db: slope,
  between_db: slope,
  loud_db: slope,
  low_db: slope,
  now: values,
  best: [
    {
      x_m: 0.5,
      y_m: 0.5,
      values,
      why: ["Near a corner."],
      changes: [{ pointer: "/room/cabinets/0/x_m", value: 0.5 }],
    },
  ],
  band_hz: [30, 120],
};
const found: Arrangements = {
  now: { ...values, uneven_db: 6 },
  list: [
    {
      title: ["in both left corners"],
      searched: false,
      values,
      cabinets: [],
      changes: [{ pointer: "/room/cabinets", value: [] }],
    },
  ],
  tried: 1234,
};

it("the map is drawn, its best place and an arrangement are taken with one press", async () => {
  served.answer = (_, path) => ({ status: 200, body: path.endsWith("map") ? map : found });
  const take = vi.fn();
  const user = mounted(<WhereView />, document, { take });
  await user.click(await screen.findByRole("button", { name: "Put it there" }));
  expect(take.mock.calls[0]).toEqual(["Cabinet 1 moved", map.best[0]?.changes]);
  expect(screen.getByTestId("room-map").getAttribute("data-places")).toBe("24");
  await user.click(await screen.findByRole("button", { name: "put them so" }));
  expect(take.mock.calls[1]?.[1]).toEqual(found.list[0]?.changes);
  expect(text(/1,234 sets of places/)).toBeTruthy();
});

it("waves are listed with what moving does; without walls there are none", async () => {
  served.answer = () => ({
    status: 200,
    body: { plan: [1, -1], side: [1, -1], columns: 2, rows: 1, storeys: 1 },
  });
  const user = mounted(<WavesView />, document);
  expect(await screen.findByText(/of the main seat toward the left wall/)).toBeTruthy();
  // another seat hears more of it
  expect(screen.getByTestId("room-modes").textContent).toContain("-7");
  await user.selectOptions(screen.getByLabelText("Heard at"), "seat b");
  expect(screen.getByTestId("room-modes").textContent).toContain("-3");
  expect(screen.queryByText(/cabinet 1 toward the upper/)).toBeNull();
  expect(screen.getByTestId("room-modes").textContent).toContain("28.6");
  cleanup();
  const outdoors = { kind: "outdoors", length_m: 9, width_m: 9 };
  mounted(<WavesView />, { ...document, room: { ...standing, room: { ...room, space: outdoors } } });
  expect(text(/no standing waves/)).toBeTruthy();
});

it("families are told by how they fall in the open and here", async () => {
  const body: FamiliesInRoom = {
    frequency_hz: [12, 120],
    gain_db: [20, 0],
    slope_hz: [15, 40],
    list: [
      {
        family: "sealed",
        title: "Sealed",
        level_db: [60, 90],
        in_room_db: [80, 90],
        falls_db: 11.4,
        falls_in_room_db: -0.6,
      },
    ],
  };
  served.answer = () => ({ status: 200, body });
  mounted(<FamiliesView />, document);
  expect(await screen.findByText("falls 11.4")).toBeTruthy();
  expect(text("rises 0.6")).toBeTruthy();
});
