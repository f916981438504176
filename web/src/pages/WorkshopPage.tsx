import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, get, type BuildSummary } from "../api/client";
import { builds } from "../api/queries";
import { change, useSettings } from "../app/settings";
import { FamilyMark } from "../stations/enclosure/FamilyMark";
import { Button } from "../ui/Button";
import { Carry } from "./Carry";
import { NewBuild } from "./NewBuild";
import { WorkshopHas } from "./WorkshopHas";

export function WorkshopPage() {
  const { data, isPending, error, refetch } = useQuery(builds());
  const { theme } = useSettings();
  const [making, setMaking] = useState(false);
  const [away, setAway] = useState<BuildSummary | null>(null);
  const client = useQueryClient();

  const putAway = async (build: BuildSummary, restore: boolean) => {
    const params = { params: { path: { id: build.id } } };
    if (restore) await get(api.POST("/api/builds/{id}/restore", params));
    else await get(api.DELETE("/api/builds/{id}", params));
    setAway(restore ? null : build);
    await client.invalidateQueries(builds());
  };

  return (
    <main className="mx-auto flex min-h-full max-w-5xl flex-col px-6 py-8">
      <header className="flex items-baseline gap-4 border-b border-rule pb-4">
        <h1 className="font-display text-3xl font-bold text-oak">Oak Drum</h1>
        <p className="flex-1 text-soft">
          Subwoofers and bass cabinets, from a woofer's numbers to a tuned box.
        </p>
        <button
          type="button"
          className="text-soft hover:text-ink"
          onClick={() => change({ theme: theme === "dark" ? "light" : "dark" })}
        >
          {theme === "dark" ? "Day light" : "Evening light"}
        </button>
      </header>
      <div className="mt-6 flex items-baseline justify-between">
        <h2 className="font-display text-xl font-semibold">On the bench</h2>
        <Button look="strong" onClick={() => setMaking(true)}>
          Start your own
        </Button>
      </div>
      {isPending && <p className="mt-4 text-soft">Opening the workshop…</p>}
      {error && (
        <p role="alert" className="mt-4 text-brick">
          The workshop does not answer.{" "}
          <button type="button" className="underline" onClick={() => void refetch()}>
            Try again
          </button>
        </p>
      )}
      {away && (
        <p role="status" className="mt-3 border-l-2 border-ochre pl-2">
          {away.name} is put away.{" "}
          <button type="button" className="text-oak underline" onClick={() => void putAway(away, true)}>
            Take it back out
          </button>
        </p>
      )}
      <ul className="mt-3 grid gap-3 md:grid-cols-2">
        {data?.map((b) => (
          <li key={b.id} className="relative border border-rule bg-panel p-4 hover:border-oak">
            <div className="flex items-start gap-3">
              <span className="mt-0.5 text-oak">
                <FamilyMark id={b.family} />
              </span>
              <div className="min-w-0 flex-1">
                <Link
                  to={`/builds/${b.id}/box`}
                  className="font-display text-lg font-semibold after:absolute after:inset-0"
                >
                  {b.name}
                </Link>
                <p className="text-soft">
                  {b.woofer_name || "own figures"} · {b.family.replaceAll("_", " ")} ·{" "}
                  {b.letters.length === 1 ? "revision" : "revisions"} {b.letters.join(", ")}
                </p>
                {b.purpose && <p className="mt-2 line-clamp-3">{b.purpose}</p>}
              </div>
              <button
                type="button"
                aria-label={`Put ${b.name} away`}
                className="relative z-10 text-xs text-soft hover:text-brick"
                onClick={() => void putAway(b, false)}
              >
                put away
              </button>
            </div>
          </li>
        ))}
      </ul>
      {data?.length === 0 && (
        <p className="mt-4 text-soft">The bench is empty. Start your own: a name and a woofer are enough.</p>
      )}
      {data && <WorkshopHas />}
      {data && <Carry empty={data.length === 0} />}
      <NewBuild open={making} onOpenChange={setMaking} />
    </main>
  );
}
