import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { WorkbenchContext } from "../workbench/context";
import type { Workbench } from "../workbench/workbench";

/** Shows something in a build "7" with one revision A, key "r1", and gives the hand that uses it. */
export function mounted(what: ReactNode, document: object = { name: "A" }, more: Partial<Workbench> = {}) {
  const state = {
    build: { id: "7", name: "Flat" },
    revisions: [{ id: "r1", letter: "A", document, work: {} }],
    current: "A",
  };
  const fake = {
    snapshot: () => state,
    subscribe: () => () => undefined,
    subscribeLive: () => () => undefined,
    current: state.revisions[0],
    ...more,
  };
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <WorkbenchContext value={fake as unknown as Workbench}>
        <Tooltip.Provider>
          <MemoryRouter>{what}</MemoryRouter>
        </Tooltip.Provider>
      </WorkbenchContext>
    </QueryClientProvider>,
  );
  return userEvent.setup();
}
