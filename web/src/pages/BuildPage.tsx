import { useQuery } from "@tanstack/react-query";
import { Suspense, useEffect, useState, type ReactNode } from "react";
import { Navigate, NavLink, useParams } from "react-router";
import { Refused, type BuildDetail } from "../api/client";
import { build } from "../api/queries";
import { Findings } from "../app/Findings";
import { BuildPalette } from "../app/BuildPalette";
import { Keys } from "../app/Keys";
import { Rail } from "../app/Rail";
import { useTour } from "../app/tour";
import { TourStrip } from "../app/TourStrip";
import { TopBar } from "../app/TopBar";
import { Beside, BesideChoice, useBeside } from "../app/Beside";
import { Conflict } from "../app/Conflict";
import { Lanes } from "../lanes/Lanes";
import { STATIONS, type Station } from "../stations/stations";
import { useWide } from "../lib/wide";
import { Guarded } from "../ui/Guarded";
import { Live, WorkbenchContext } from "../workbench/context";
import { Workbench } from "../workbench/workbench";
import { Lost } from "./Lost";

export function BuildPage() {
  const { id = "" } = useParams();
  const { data, error, isPending } = useQuery({
    ...build(id),
    retry: (count, cause) => !(cause instanceof Refused && cause.problem?.status === 404) && count < 20,
  });
  if (isPending) return <p className="grid h-full place-items-center text-soft">Opening the build…</p>;
  if (error || data.revisions.length === 0) return <Lost />;
  return <Open key={data.id} detail={data} />;
}

function Open({ detail }: { detail: BuildDetail }) {
  const [workbench] = useState(() => new Workbench(detail));
  useEffect(() => {
    workbench.begin();
    return () => workbench.close();
  }, [workbench]);
  return (
    <WorkbenchContext value={workbench}>
      <Bench />
    </WorkbenchContext>
  );
}

function Bench() {
  const { id, station } = useParams();
  const here = STATIONS.find((s) => s.id === station);
  if (!here) return <Navigate to={`/builds/${id}/box`} replace />;
  return <At here={here} />;
}

function At({ here }: { here: Station }) {
  const { id, view } = useParams();
  const touring = useTour().trying?.build === id;
  const large = useWide();
  const chosen = useBeside(here);
  const beside = large ? chosen : "nothing";
  const { Inputs, Picture } = here;
  const wide = here.views?.find((v) => v.id === view);
  if (view && !wide) return <Navigate to={`/builds/${id}/${here.id}`} replace />;
  return (
    <div
      className={`grid min-h-full max-lg:content-start max-lg:pb-12 lg:h-full ${large ? (beside === "nothing" ? "grid-cols-[150px_380px_minmax(0,1fr)_310px]" : "grid-cols-[150px_330px_minmax(0,1fr)_minmax(0,1fr)_300px]") : "grid-cols-1 lg:grid-cols-[132px_306px_minmax(0,1fr)_258px]"} ${touring ? "lg:grid-rows-[auto_auto_minmax(0,1fr)]" : "lg:grid-rows-[auto_minmax(0,1fr)]"}`}
    >
      <TopBar />
      {touring && <TourStrip />}
      <Rail />
      {wide ? (
        <main
          className={`flex min-h-0 min-w-0 flex-col border-rule px-3 py-2 ${large && beside !== "nothing" ? "col-span-3" : "lg:col-span-2"} lg:overflow-y-auto lg:border-r`}
          aria-label={wide.title}
        >
          <h1 className="sr-only">{wide.title}</h1>
          <Views station={here} />
          <Part key={`${here.id}/${wide.id}`} what={wide.title}>
            <wide.Wide />
          </Part>
        </main>
      ) : (
        <>
          <main
            className="min-h-0 border-rule px-3 py-2 contain-content lg:overflow-y-auto lg:border-r"
            aria-label={here.title}
          >
            <h1 className="sr-only">{here.title}</h1>
            {here.views && <Views station={here} />}
            {large && beside === "nothing" && <BesideChoice />}
            <Part key={here.id} what={here.title}>
              <Inputs />
            </Part>
          </main>
          {Picture ? (
            <section
              aria-label={`${here.title} drawn`}
              className="min-h-0 min-w-0 px-3 py-2 contain-content lg:overflow-y-auto"
            >
              <Part key={here.id} what={`${here.title} drawn`}>
                <Live>
                  <Picture />
                </Live>
              </Part>
            </section>
          ) : (
            <section aria-label="Curves" className="h-[600px] min-h-0 contain-content lg:h-auto">
              <Part what="The curves">
                <Live>
                  <Lanes />
                </Live>
              </Part>
            </section>
          )}
          {beside !== "nothing" && <Beside what={beside} />}
        </>
      )}
      <Findings />
      <Keys />
      <BuildPalette />
      <Conflict />
    </div>
  );
}

/** A part of the page: fetched when it is opened, its faults its own. */
function Part({ what, children }: { what: string; children: ReactNode }) {
  return (
    <Guarded what={what}>
      <Suspense fallback={<p className="p-2 text-soft">Opening {what}…</p>}>{children}</Suspense>
    </Guarded>
  );
}

/** The views of a station side by side, where it has more than one. */
function Views({ station }: { station: Station }) {
  const { id } = useParams();
  const views = [
    { id: "", title: station.id === "woofer" ? "In the box" : station.title },
    ...(station.views ?? []),
  ];
  return (
    <nav
      aria-label={`Views of ${station.title}`}
      className="mb-2 flex shrink-0 flex-wrap gap-x-3 border-b border-rule"
    >
      {views.map((v) => (
        <NavLink
          key={v.id}
          end
          to={`/builds/${id}/${station.id}${v.id && `/${v.id}`}`}
          className={({ isActive }) =>
            `-mb-px border-b-2 pb-1 font-display text-base font-semibold ${
              isActive ? "border-oak" : "border-transparent text-soft hover:text-ink"
            }`
          }
        >
          {v.title}
        </NavLink>
      ))}
    </nav>
  );
}
