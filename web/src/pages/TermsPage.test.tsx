import { cleanup, render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { afterEach, beforeAll, expect, it } from "vitest";
import { TERMS } from "../lib/glossary";
import { STATIONS } from "../stations/stations";
import { TermsPage } from "./TermsPage";

beforeAll(() => {
  Element.prototype.scrollIntoView = () => undefined;
});
afterEach(cleanup);

const page = (at = "/terms") =>
  render(
    <MemoryRouter initialEntries={[at]}>
      <TermsPage />
    </MemoryRouter>,
  );

it("tells every term once, under its station", () => {
  page();
  expect(screen.getAllByRole("listitem")).toHaveLength(TERMS.length);
  expect(TERMS.every((t) => STATIONS.some((s) => s.id === t.station))).toBe(true);
  const airway = screen.getByRole("region", { name: "Airway" });
  expect(within(airway).getByRole("heading", { name: "Air speed" })).toBeTruthy();
  expect(within(airway).getAllByRole("img").length).toBeGreaterThan(1);
});

it("is searched with a slash from anywhere, by what a thing is also called", async () => {
  page();
  const hand = userEvent.setup();
  await hand.keyboard("/bass reflex");
  expect(screen.getByRole("searchbox")).toBe(document.activeElement);
  expect(screen.getAllByRole("heading", { level: 3 })[0]?.textContent).toBe("Vented box");
  await hand.clear(screen.getByRole("searchbox"));
  await hand.keyboard("no such word");
  expect(screen.getByText(/No term is called that/)).toBeTruthy();
});

it("closes the help for good, and opens it again", async () => {
  page();
  const hand = userEvent.setup();
  const box = screen.getByRole("checkbox", { name: "explain words where they stand" });
  await hand.click(box);
  expect(JSON.parse(localStorage.getItem("oak-drum.settings") ?? "{}")).toMatchObject({ help: false });
  await hand.click(box);
  expect(JSON.parse(localStorage.getItem("oak-drum.settings") ?? "{}")).toMatchObject({ help: true });
});
