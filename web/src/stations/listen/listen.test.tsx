import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import {
  Refused,
  type ForListeners,
  type ListeningOutcome,
  type ListeningSession,
  type Problem,
} from "../../api/client";
import { Hearing } from "../../pages/listen/Hearing";
import { asks } from "../../pages/listen/ListenerPage";
import { mounted } from "../../tests/mounted";
import { Outcome } from "./Outcome";
import { ListenStation } from "./ListenStation";

const put = vi.hoisted(() => vi.fn());
const post = vi.hoisted(() => vi.fn());
vi.mock("../../api/client", async (original) => {
  const answer = (data: unknown) => Promise.resolve({ data, response: new Response(null, { status: 200 }) });
  return {
    ...(await original<typeof import("../../api/client")>()),
    get: async (call: Promise<{ data: unknown }>) => (await call).data,
    api: {
      GET: (at: string) =>
        answer(
          at === "/api/programme"
            ? {
                pieces: [
                  { id: "walk", title: "Walking line", shows: "evenness", seconds: 8, band_hz: [41, 200] },
                ],
                hours_from_70_db: Array.from({ length: 61 }, (_, i) => 8 * 2 ** ((15 - i) / 3)),
              }
            : at === "/api/builds/{id}/measurements"
              ? ["in_box", "in_front", "at_seat"].map((kind, i) => ({
                  id: `m${i}`,
                  document: { about: { name: `Taken ${kind}`, taken: { kind } } },
                }))
              : [],
        ),
      PUT: async (_: string, asked: { body: unknown }) => answer(await (put(asked.body) as unknown)),
      POST: async (at: string, asked: { body: unknown }) => answer(await (post(at, asked.body) as unknown)),
    },
  };
});

beforeEach(() => {
  localStorage.clear();
  put.mockReset();
  post.mockReset().mockImplementation((at: string) => {
    if (at === "/api/listening/question")
      return { kind: "trials", sentence: "37 trials", needed: { first: 37, always_from: 42 } };
    if (at === "/api/listening/match")
      return { band_hz: [35, 120], levels_db: [90, 92], trims_db: [0, -2], apart_db: 2, tolerance_db: 0.1 };
    if (at === "/api/listening/match/measured")
      return { band_hz: [41, 120], levels_db: [70, 71], trims_db: [0, -1], apart_db: 1, tolerance_db: 0.1 };
    return { code: "ACDEFH" };
  });
});
afterEach(cleanup);

const session = (test: ForListeners["test"], candidates = 2): ForListeners => ({
  title: "Evening",
  test,
  candidates,
  pieces: [{ name: "Drum and rest", id: "drum" }],
  switching: "helper",
  ended: false,
});
const scores = session({ kind: "scores", scales: ["deep", "overall"] });

function hearing(of: ForListeners, envelopes: number, sealed = vi.fn(() => Promise.resolve())) {
  const what = { piece: 0, envelopes, sounds: [] };
  const page = (
    <Hearing code="ACDEFH" listener="me" number={0} of={1} hearing={what} session={of} sealed={sealed} />
  );
  return { hand: mounted(page), sealed };
}

describe("a hearing", () => {
  it("is sealed once every scale of every envelope is scored", async () => {
    const { hand, sealed } = hearing(scores, 2);
    const seal = screen.getByRole("button", { name: "Seal this answer" });
    const rulers = ["deep of P", "overall of P", "deep of Q", "overall of Q"];
    for (const name of rulers) {
      expect(seal).toHaveProperty("disabled", true);
      expect(screen.getByRole("slider", { name }).getAttribute("aria-valuetext")).toBe("not scored yet");
      await hand.click(screen.getByRole("slider", { name }));
    }
    await hand.click(seal);
    expect(put).toHaveBeenCalledWith({
      key: "me",
      slip: {
        scores: [
          [5.5, 5.5],
          [5.5, 5.5],
        ],
      },
    });
    expect(sealed).toHaveBeenCalled();
  });

  it("keeps what is chosen where the server does not answer, and over a reload", async () => {
    put.mockRejectedValue(new Refused(undefined));
    const abx = session({ kind: "difference", method: "abx", trials: 4 });
    const { hand } = hearing(abx, 3);
    await hand.click(screen.getByRole("radio", { name: "X is B" }));
    await hand.click(screen.getByRole("button", { name: "Seal this answer" }));
    expect((await screen.findByRole("alert")).textContent).toMatch(/What you answered stays here/);
    cleanup();
    hearing(abx, 3);
    expect(screen.getByRole("radio", { name: "X is B" }).getAttribute("aria-checked")).toBe("true");
  });

  it("of one and two more is answered with which of the two is like it", async () => {
    const duo = session({ kind: "difference", method: "duo_trio", trials: 4 });
    const { hand } = hearing(duo, 3);
    expect(screen.getAllByRole("radio").map((r) => r.textContent)).toEqual(["1 is like R", "2 is like R"]);
    await hand.click(screen.getByRole("radio", { name: "2 is like R" }));
    await hand.click(screen.getByRole("button", { name: "Seal this answer" }));
    expect(put).toHaveBeenCalledWith({ key: "me", slip: { choice: 1 } });
    expect(asks(duo)).toMatch(/R, then 1 and 2/);
  });

  it("that was answered on another phone goes on to the next", async () => {
    put.mockRejectedValue(new Refused({ status: 409, detail: "answered already" } as Problem));
    const pairs = session({ kind: "pairs", times: 2 });
    const { hand, sealed } = hearing(pairs, 2);
    await hand.click(screen.getByRole("radio", { name: "Q is better" }));
    await hand.click(screen.getByRole("button", { name: "Seal this answer" }));
    await waitFor(() => expect(sealed).toHaveBeenCalled());
    expect(asks(pairs)).toMatch(/two at a time/);
    expect(asks(scores)).toMatch(/hear 2 under letters/);
  });
});

describe("levels", () => {
  const document = { name: "Flat", woofer: {}, enclosure: { family: "sealed" } };

  it("are matched by what a microphone measured of each, an impedance not among it", async () => {
    const hand = mounted(<ListenStation />, document);
    await hand.selectOptions(screen.getByLabelText("How levels are matched"), "measurement");
    const first = await screen.findByLabelText("Measurement of As it is");
    expect([...first.querySelectorAll("option")].map((o) => o.textContent)).toEqual([
      "choose",
      "Taken in_front",
      "Taken at_seat",
    ]);
    await hand.click(screen.getByRole("button", { name: /^Begin/ }));
    expect((await screen.findByRole("alert")).textContent).toMatch(/a measurement of each is expected/);
    await hand.selectOptions(first, "m1");
    await hand.selectOptions(screen.getByLabelText("Measurement of With a change"), "m2");
    expect((await screen.findByTestId("match")).textContent).toContain("With a change: down 1.00 dB");
    expect(screen.getByTestId("match").textContent).toContain("from 41 to 120 Hz");
    expect(post).toHaveBeenCalledWith("/api/listening/match/measured", { measurements: ["m1", "m2"] });
  });

  it("cannot be read by a microphone where the browser gives none, and why is said", async () => {
    const hand = mounted(<ListenStation />, document);
    await hand.selectOptions(screen.getByLabelText("How levels are matched"), "noise");
    expect(screen.getByText(/A browser gives its inputs only|gives a page no sound inputs/)).toBeTruthy();
    expect(screen.queryByRole("checkbox", { name: /plays the noise/ })).toBeNull();
  });
});

describe("a session", () => {
  it("is begun as it was set up, with what so many trials tell said before", async () => {
    const document = { name: "Flat", woofer: {}, enclosure: { family: "sealed" } };
    const hand = mounted(<ListenStation />, document);
    await hand.click(await screen.findByRole("button", { name: "Take 42" }));
    expect((await screen.findByTestId("match")).textContent).toContain("With a change: down 2.00 dB");
    await hand.selectOptions(screen.getByLabelText("How levels are matched"), "noise");
    await hand.click(screen.getByRole("button", { name: /^Begin/ }));
    expect((await screen.findByRole("alert")).textContent).toBe("Not begun: a reading is expected for each.");
    await hand.type(screen.getByLabelText("Reading of As it is, dB"), "81");
    await hand.type(screen.getByLabelText("Reading of With a change, dB"), "80,5");
    await hand.type(screen.getByLabelText("Level at the seat, dB"), "97");
    await waitFor(() => expect(screen.getByTestId("hearing").textContent).toMatch(/at most 30 min a day/));
    await hand.click(screen.getByRole("button", { name: /^Begin/ }));
    await screen.findByText("It has begun; its code is ACDEFH.");
    const sent = post.mock.calls.find(([at]) => at === "/api/builds/{id}/listening")?.[1] as {
      session: ListeningSession;
    };
    expect(sent.session).toMatchObject({
      test: { kind: "difference", method: "abx", trials: 42 },
      matched: { by: "noise", trims_db: [-0.5, 0] },
      level_db: 97,
      switching: "helper",
    });
  });
});

describe("what came of it", () => {
  const base = {
    conditions: "Blind.",
    warnings: ["The levels were not matched."],
    candidates: ["Open", "Shut"],
    pieces: ["Drum and rest"],
    difference_by_piece: [],
    scales: [],
    wins: [],
  };
  const plan = (test: ListeningSession["test"]) => ({ test, pieces: [] }) as unknown as ListeningSession;

  it("is a sentence, marks with their ranges, who preferred what and what was noted", () => {
    const told = { right: 12, trials: 16, p: 0.04, share: 0.75, range: [0.48, 0.93], heard: [0.5, 0, 0.86] };
    const listener = {
      name: "Ida",
      answered: 16,
      of: 16,
      votes: [],
      notes: [{ hearing: 3, note: "fuller" }],
    };
    const outcome = {
      ...base,
      sentence: "12 of 16 right: this is unlikely to be chance.",
      difference: told,
      listeners: [{ ...listener, difference: told }],
    } as unknown as ListeningOutcome;
    mounted(<Outcome outcome={outcome} session={plan({ kind: "difference", method: "abx", trials: 16 })} />);
    expect(screen.getByTestId("outcome").textContent).toBe(outcome.sentence);
    expect(screen.getByRole("img", { name: /Ida 12 of 16, from 48.0 to 93.0/ })).toBeTruthy();
    expect(screen.getByText("3: fuller")).toBeTruthy();
    expect(screen.getByText("The levels were not matched.")).toBeTruthy();
  });

  it("puts scores on rulers, with the pairs behind them, and votes in their order", () => {
    const pair = { first: 0, second: 1, difference: 2, range: [1, 3], p: 0.03, p_adjusted: 0.06 };
    const scale = {
      scale: "deep",
      sentence: "they agree",
      told: { means: [8, 6], ranges: [[7, 9], null], narrow: true, pairs: [pair] },
      by_listener: [[8, 6], []],
      by_piece: [[8, 6]],
    };
    const listeners = ["Ida", "Bo"].map((name) => ({ name, answered: 1, of: 1, votes: [], notes: [] }));
    const votes = {
      log_strengths: [-0.4, 0.4],
      errors: [0.2, 0.2],
      p: 0.1,
      likelihood_ratio: 2,
      half_wins: false,
      fewest: 9,
      votes: 9,
    };
    const wins = [
      [0, 3],
      [6, 0],
    ];
    const outcome = {
      ...base,
      sentence: "so",
      scales: [scale],
      votes,
      wins,
      listeners,
    } as unknown as ListeningOutcome;
    mounted(<Outcome outcome={outcome} session={plan({ kind: "scores", scales: ["deep"] })} />);
    expect(screen.getByRole("img", { name: "deep: Open 8.0, from 7.0 to 9.0; Shut 6.0" })).toBeTruthy();
    expect(screen.getByText("Open less Shut")).toBeTruthy();
    expect(screen.getByRole("img", { name: /^Strength by votes.*: Shut 6 won.*Open 3 won/ })).toBeTruthy();
  });
});
