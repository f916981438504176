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
  const [words, setWords] = useState("");
  const [order, setOrder] = useState<Order>("oldest");
  const [copying, setCopying] = useState("");
  const [uncopied, setUncopied] = useState("");
  const client = useQueryClient();
  const shown =
    data &&
    ordered(
      data.filter((b) => fits(b, words)),
      order,
    );

  const putAway = async (build: BuildSummary, restore: boolean) => {
    const params = { params: { path: { id: build.id } } };
    if (restore) await get(api.POST("/api/builds/{id}/restore", params));
    else await get(api.DELETE("/api/builds/{id}", params));
    setAway(restore ? null : build);
    await client.invalidateQueries(builds());
  };

  /** The same build once more, with all that belongs to it: it leaves as a file and comes in as a copy. */
  const copy = async (build: BuildSummary) => {
    setCopying(build.id);
    setUncopied("");
    try {
      const file = await fetch(`/api/builds/${build.id}/file`);
      const headers = { "content-type": "application/zip" };
      const body = file.ok ? await file.blob() : undefined;
      const made = body && (await fetch("/api/builds/file?again=copy", { method: "POST", body, headers }));
      if (!made?.ok) setUncopied(build.name);
    } catch {
      setUncopied(build.name);
    }
    setCopying("");
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
      {data && data.length > 4 && (
        <div className="mt-3 flex flex-wrap items-center gap-2">
          <input
            type="search"
            aria-label="Search the workshop"
            placeholder="Search: a name, a woofer, an enclosure"
            className="h-8 min-w-0 flex-1 rounded-sm border border-rule bg-panel px-2"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          <select
            aria-label="Order"
            className="h-8 rounded-sm border border-rule bg-panel px-1"
            value={order}
            onChange={(e) => setOrder(e.target.value as Order)}
          >
            <option value="oldest">oldest first</option>
            <option value="newest">newest first</option>
            <option value="name">by name</option>
            <option value="woofer">by woofer</option>
          </select>
        </div>
      )}
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
      {uncopied && (
        <p role="alert" className="mt-3 text-brick">
          {uncopied} could not be copied; nothing was changed. Try again.
        </p>
      )}
      <ul className="mt-3 grid gap-3 md:grid-cols-2">
        {shown?.map((b) => (
          <li
            key={b.id}
            // of many only those in view are laid out
            style={{ contentVisibility: "auto", containIntrinsicSize: "auto 8.5rem" }}
            className="relative border border-rule bg-panel p-4 hover:border-oak"
          >
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
                aria-label={`Copy ${b.name}`}
                disabled={!!copying}
                className="relative z-10 text-xs text-soft hover:text-ink"
                onClick={() => void copy(b)}
              >
                {copying === b.id ? "copying…" : "copy"}
              </button>
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
      {shown?.length === 0 && words && (
        <p className="mt-4 text-soft">Nothing here is called that, nor has such a woofer or enclosure.</p>
      )}
      {data?.length === 0 && (
        <p className="mt-4 text-soft">The bench is empty. Start your own: a name and a woofer are enough.</p>
      )}
      {data && <WorkshopHas />}
      {data && <Carry empty={data.length === 0} />}
      <NewBuild open={making} onOpenChange={setMaking} />
    </main>
  );
}

type Order = "oldest" | "newest" | "name" | "woofer";

/** Whether a build is one of those looked for: every word stands somewhere in what its card says. */
export function fits(b: BuildSummary, words: string): boolean {
  const text = `${b.name} ${b.woofer_name} ${b.family.replaceAll("_", " ")} ${b.purpose}`.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** The list, which comes oldest first, in another order. */
export function ordered(list: BuildSummary[], order: Order): BuildSummary[] {
  const by = (of: (b: BuildSummary) => string) =>
    list.toSorted((a, b) => of(a).localeCompare(of(b), undefined, { numeric: true }));
  if (order === "newest") return list.toReversed();
  if (order === "name") return by((b) => b.name);
  return order === "woofer" ? by((b) => `${b.woofer_name} ${b.name}`) : list;
}
