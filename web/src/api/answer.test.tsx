import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act } from "react";
import { createRoot } from "react-dom/client";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useAnswer } from "./answer";

let place: HTMLElement;
let root: ReturnType<typeof createRoot>;
let client: QueryClient;

beforeEach(() => {
  vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
  vi.useFakeTimers();
  place = document.createElement("div");
  root = createRoot(place);
  client = new QueryClient();
});
afterEach(() => {
  act(() => root.unmount());
  client.clear();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

type Ask = (n: number) => Promise<string>;

function Shown({ about, ask, rest }: { about: number | undefined; ask: Ask; rest: number }) {
  return <p>{useAnswer("double", about, () => ask(about ?? 0), rest) ?? "nothing yet"}</p>;
}

function show(about: number | undefined, ask: Ask, rest = 0) {
  return act(async () => {
    root.render(
      <QueryClientProvider client={client}>
        <Shown about={about} ask={ask} rest={rest} />
      </QueryClientProvider>,
    );
    await vi.advanceTimersByTimeAsync(1);
  });
}

test("the last answer stands until the next has come, and nothing is asked about nothing", async () => {
  const waiting: ((text: string) => void)[] = [];
  const ask = vi.fn(() => new Promise<string>((resolve) => waiting.push(resolve)));
  await show(undefined, ask);
  expect(ask).not.toHaveBeenCalled();
  await show(1, ask);
  expect(place.textContent).toBe("nothing yet");
  await act(async () => {
    waiting[0]?.("two");
    await vi.advanceTimersByTimeAsync(1);
  });
  expect(place.textContent).toBe("two");
  await show(2, ask);
  expect(place.textContent).toBe("two");
  await act(async () => {
    waiting[1]?.("four");
    await vi.advanceTimersByTimeAsync(1);
  });
  expect(place.textContent).toBe("four");
});

test("what does not rest is not asked about", async () => {
  const ask = vi.fn((n: number) => Promise.resolve(String(2 * n)));
  for (const n of [1, 2, 3, 4]) await show(n, ask, 100);
  await act(() => vi.advanceTimersByTimeAsync(150));
  await act(() => vi.advanceTimersByTimeAsync(1));
  expect(place.textContent).toBe("8");
  expect(ask.mock.calls.map(([n]) => n)).toEqual([1, 4]);
});

test("what was asked once is not asked again", async () => {
  const ask = vi.fn((n: number) => Promise.resolve(String(2 * n)));
  for (const n of [1, 2, 1]) await show(n, ask);
  expect(place.textContent).toBe("2");
  expect(ask).toHaveBeenCalledTimes(2);
});
