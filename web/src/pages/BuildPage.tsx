import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Navigate, useParams } from "react-router";
import { Refused, type BuildDetail } from "../api/client";
import { build } from "../api/queries";
import { Findings } from "../app/Findings";
import { Keys } from "../app/Keys";
import { Rail } from "../app/Rail";
import { TopBar } from "../app/TopBar";
import { Conflict } from "../app/Conflict";
import { Lanes } from "../lanes/Lanes";
import { STATIONS } from "../stations/stations";
import { WorkbenchContext } from "../workbench/context";
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
  const { Inputs } = here;
  return (
    <div className="grid min-h-full grid-cols-1 lg:h-full lg:grid-cols-[132px_306px_minmax(0,1fr)_258px] lg:grid-rows-[auto_minmax(0,1fr)]">
      <TopBar />
      <Rail />
      <main className="min-h-0 border-rule px-3 py-2 lg:overflow-y-auto lg:border-r" aria-label={here.title}>
        <h1 className="sr-only">{here.title}</h1>
        <Inputs />
      </main>
      <section aria-label="Curves" className="h-[600px] min-h-0 lg:h-auto">
        <Lanes />
      </section>
      <Findings />
      <Keys />
      <Conflict />
    </div>
  );
}
