import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, expect, test, vi } from "vitest";
import { Carry } from "./Carry";

function shown(empty = false) {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Carry empty={empty} />
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

const file = new File(["PK"], "hall.oak.zip", { type: "application/zip" });
const answers = (status: number, body: unknown) =>
  vi.spyOn(globalThis, "fetch").mockResolvedValue(new Response(JSON.stringify(body), { status }));

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

test("a build that is here is left, and offered as a copy", async () => {
  const user = userEvent.setup();
  shown();
  const fetched = answers(200, { id: "k", name: "Hall", was_here: true });
  await user.upload(screen.getByLabelText("Bring a build in"), file);
  expect((await screen.findByRole("status")).textContent).toContain("Hall is here already");
  fetched.mockResolvedValue(new Response(JSON.stringify({ id: "n", name: "Hall (copy)", was_here: false })));
  await user.click(screen.getByRole("button", { name: "Bring it in as a copy" }));
  expect((await screen.findByRole("status")).textContent).toContain("Hall (copy) came in.");
  expect(fetched.mock.calls.map((c) => c[0])).toEqual([
    "/api/builds/file?again=stays",
    "/api/builds/file?again=copy",
  ]);
  expect(screen.getByRole("link", { name: "Open it" }).getAttribute("href")).toBe("/builds/n/box");
});

test("what is refused, and a server that is away, are said with the file's name", async () => {
  const user = userEvent.setup();
  shown();
  answers(422, { status: 422, title: "x", detail: "the file is damaged: cut off" });
  await user.upload(screen.getByLabelText("Bring a build in"), file);
  expect((await screen.findByRole("alert")).textContent).toContain(
    "hall.oak.zip: the file is damaged: cut off.",
  );
  vi.spyOn(globalThis, "fetch").mockRejectedValue(new TypeError("network"));
  await user.upload(screen.getByLabelText("Bring a build in"), file);
  expect((await screen.findByText(/does not answer/)).getAttribute("role")).toBe("alert");
});

test("a whole workshop is restored only where nothing is", async () => {
  shown();
  expect(screen.queryByLabelText("Restore a whole workshop")).toBeNull();
  const user = userEvent.setup();
  shown(true);
  const fetched = answers(200, { builds: 8 });
  await user.upload(screen.getByLabelText("Restore a whole workshop"), file);
  expect(await screen.findByText(/restored with 8 builds/)).toBeTruthy();
  expect(fetched.mock.calls[0]?.[0]).toBe("/api/workshop/file");
});
