import { act, cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import type { Design } from "../api/client";
import { WorkbenchContext } from "./context";
import { useDocumentQuery, type Question } from "./documentQuery";
import type { OpenRevision, Workbench } from "./workbench";

/** As much of a workbench as a question needs: a current document, and who is told of another. */
function bench(name: string) {
  const listeners = new Set<() => void>();
  const fake = {
    current: { document: { name } } as unknown as OpenRevision,
    subscribeEarly: (listener: () => void) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    paint: (draw: () => void) => act(draw),
  };
  const becomes = (next: string) => {
    fake.current = { document: { name: next } } as unknown as OpenRevision;
    listeners.forEach((listener) => listener());
  };
  return { workbench: fake as unknown as Workbench, becomes, listeners };
}

const asked: string[] = [];
const length: Question<number> = (about: Design) => {
  asked.push(about.name ?? "");
  return Promise.resolve((about.name ?? "").length);
};
function Answer() {
  const answer = useDocumentQuery(length);
  return <p>{answer === undefined ? "asking" : `${answer} letters`}</p>;
}

beforeEach(() => {
  asked.length = 0;
  vi.useFakeTimers();
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});
const settle = () => act(() => vi.advanceTimersByTimeAsync(50));

it("is asked once for all who show its answer, and anew when the document is another", async () => {
  const { workbench, becomes } = bench("hall");
  render(
    <WorkbenchContext value={workbench}>
      <Answer />
      <Answer />
    </WorkbenchContext>,
  );
  expect(screen.getAllByText("asking")).toHaveLength(2);
  await settle();
  expect(screen.getAllByText("4 letters")).toHaveLength(2);
  becomes("attic");
  await settle();
  expect(screen.getAllByText("5 letters")).toHaveLength(2);
  expect(asked).toEqual(["hall", "attic"]);
});

it("is asked no more once nobody shows its answer, and again when somebody does", async () => {
  const { workbench, becomes, listeners } = bench("hall");
  const page = (shown: boolean) => (
    <WorkbenchContext value={workbench}>{shown && <Answer />}</WorkbenchContext>
  );
  const { rerender } = render(page(true));
  await settle();
  rerender(page(false));
  expect(listeners.size).toBe(0);
  becomes("cellar");
  await settle();
  expect(asked).toEqual(["hall"]);
  rerender(page(true));
  await settle();
  expect(screen.getByText("6 letters")).toBeTruthy();
});

it("of two builds each has its own answer", async () => {
  const [one, other] = [bench("hall"), bench("village")];
  render(
    <>
      <WorkbenchContext value={one.workbench}>
        <Answer />
      </WorkbenchContext>
      <WorkbenchContext value={other.workbench}>
        <Answer />
      </WorkbenchContext>
    </>,
  );
  await settle();
  expect(screen.getByText("4 letters")).toBeTruthy();
  expect(screen.getByText("7 letters")).toBeTruthy();
});
