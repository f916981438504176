import { NavLink, useParams } from "react-router";
import { STATIONS } from "../stations/stations";
import { useCurrent } from "../workbench/context";
import { useSettings } from "./settings";

/** The stations in the order in which builders work, each with its state and its one telling figure. */
export function Rail() {
  const { id } = useParams();
  const current = useCurrent();
  const { system } = useSettings();
  return (
    <nav
      aria-label="Stations"
      className="flex overflow-x-auto border-b border-rule lg:flex-col lg:border-r lg:border-b-0"
    >
      {STATIONS.map((s, i) => {
        const own = current.evaluation?.findings.filter((f) => f.station === s.id) ?? [];
        const broken = own.some((f) => f.severity === "broken");
        const look = own.some((f) => f.severity === "look");
        const state = broken ? "something is broken here" : look ? "look here" : "fine";
        return (
          <NavLink
            key={s.id}
            to={`/builds/${id}/${s.id}`}
            className={({ isActive }) =>
              `flex min-w-28 flex-1 gap-2 border-b-3 px-3 py-2 lg:flex-none lg:border-b-0 lg:border-l-3 ${
                isActive ? "border-oak bg-selected" : "border-transparent hover:bg-panel"
              }`
            }
          >
            <span className="pt-[3px] text-xs text-soft">{i + 1}</span>
            <span className="min-w-0 flex-1">
              <span className="flex justify-between font-display text-base leading-tight font-semibold">
                {s.title}
                {(broken || look) && (
                  <span className={broken ? "text-brick" : "text-ochre"} title={state} aria-label={state}>
                    {broken ? "!!" : "!"}
                  </span>
                )}
              </span>
              <span className="block truncate text-xs text-soft">{s.tells(current, system)}</span>
            </span>
          </NavLink>
        );
      })}
    </nav>
  );
}
