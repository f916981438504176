import { useEffect, useRef } from "react";
import { NavLink, useLocation, useParams } from "react-router";
import { STATIONS, type Station } from "../stations/stations";
import { useCurrentPart } from "../workbench/context";
import { useSettings } from "./settings";

/** The stations in the order in which builders work, each with its state and its one telling figure. */
export function Rail() {
  const { id } = useParams();
  const { pathname } = useLocation();
  const rail = useRef<HTMLElement>(null);
  // where it does not go on the page as a whole, the station one is at is in view
  useEffect(() => {
    const bar = rail.current;
    const here = bar?.querySelector<HTMLElement>('[aria-current="page"]');
    if (bar && here && bar.scrollWidth > bar.clientWidth)
      bar.scrollLeft = here.offsetLeft - (bar.clientWidth - here.offsetWidth) / 2;
  }, [pathname]);
  return (
    <nav
      ref={rail}
      aria-label="Stations"
      className="relative flex overflow-x-auto border-b border-rule contain-content lg:flex-col lg:border-r lg:border-b-0"
    >
      {STATIONS.map((station, i) => (
        <Stop key={station.id} station={station} number={i + 1} build={id ?? ""} />
      ))}
    </nav>
  );
}

const STATES = {
  broken: { mark: "!!", says: "something is broken here", look: "text-brick" },
  look: { mark: "!", says: "look here", look: "text-ochre" },
  fine: { mark: "✓", says: "judged, and nothing found", look: "font-normal text-verdigris" },
  unbegun: { mark: "○", says: "not begun", look: "font-normal text-soft" },
};

/** Drawn again when its figure or its state is another. */
function Stop({ station, number, build }: { station: Station; number: number; build: string }) {
  const { system } = useSettings();
  const tells = useCurrentPart((current) => station.headline(current, system));
  const worst = useCurrentPart((current) => {
    const own = current.found?.list.filter((f) => f.station === station.id) ?? [];
    return (["broken", "look"] as const).find((severity) => own.some((f) => f.severity === severity));
  });
  const judged = useCurrentPart((current) => current.found !== undefined && !current.problem);
  const begun = useCurrentPart((current) => station.begun?.(current));
  const state = worst ?? (begun === false ? "unbegun" : begun && judged ? "fine" : undefined);
  return (
    <NavLink
      to={`/builds/${build}/${station.id}`}
      className={({ isActive }) =>
        `flex min-w-28 flex-1 gap-2 border-b-3 px-3 py-2 lg:flex-none lg:border-b-0 lg:border-l-3 ${
          isActive ? "border-oak bg-selected" : "border-transparent hover:bg-panel"
        }`
      }
    >
      <span className="pt-[3px] text-xs text-soft">{number}</span>
      <span className="min-w-0 flex-1">
        <span className="flex justify-between font-display text-base leading-tight font-semibold">
          {station.title}
          {state && (
            <span
              role="img"
              className={STATES[state].look}
              title={STATES[state].says}
              aria-label={STATES[state].says}
            >
              {STATES[state].mark}
            </span>
          )}
        </span>
        <span className="block min-h-4 text-[11px] leading-[1.2] tracking-tight [overflow-wrap:anywhere] text-soft">
          {station.Figure ? <station.Figure /> : tells}
        </span>
      </span>
    </NavLink>
  );
}
