import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, type BuildSummary } from "../api/client";
import { builds, buildsAway } from "../api/queries";
import { Preferences } from "../app/Preferences";
import { Button } from "../ui/Button";
import { BuildCard } from "./BuildCard";
import { fits, ordered, tagsOf, type Order } from "./cards";
import { Carry } from "./Carry";
import { NewBuild } from "./begin/NewBuild";
import { PutAway } from "./PutAway";
import { Tasks } from "./Tasks";
import { WorkshopHas } from "./WorkshopHas";
import { WorkshopPalette } from "./WorkshopPalette";

const NONE: BuildSummary[] = [];

export function WorkshopPage() {
  const { data, isPending, error, refetch } = useQuery(builds());
  const [making, setMaking] = useState(false);
  const [away, setAway] = useState<BuildSummary | null>(null);
  const [words, setWords] = useState("");
  const [tag, setTag] = useState("");
  const [order, setOrder] = useState<Order>("oldest");
  const [copying, setCopying] = useState("");
  const [uncopied, setUncopied] = useState("");
  const client = useQueryClient();
  const tags = tagsOf(data ?? []);
  const shown =
    data &&
    ordered(
      data.filter((b) => fits(b, words) && (!tag || hasTag(b, tag))),
      order,
    );

  const putAway = async (build: BuildSummary, restore: boolean) => {
    const params = { params: { path: { id: build.id } } };
    if (restore) await get(api.POST("/api/builds/{id}/restore", params));
    else await get(api.DELETE("/api/builds/{id}", params));
    setAway(restore ? null : build);
    await Promise.all([client.invalidateQueries(builds()), client.invalidateQueries(buildsAway())]);
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
    <main className="mx-auto flex min-h-full max-w-5xl 2xl:max-w-[96rem] flex-col px-6 py-8">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule pb-4">
        <h1 className="font-display text-3xl font-bold text-oak">Oak Drum</h1>
        <p className="flex-1 text-soft max-sm:order-last max-sm:basis-full">
          Subwoofers and bass cabinets, from a woofer's numbers to a tuned box.
        </p>
        <Preferences />
      </header>
      <div className="mt-6 flex items-baseline justify-between">
        <h2 className="font-display text-xl font-semibold">On the bench</h2>
        <Button look="strong" onClick={() => setMaking(true)}>
          Start your own
        </Button>
      </div>
      {data && <Tasks />}
      {data && data.length > 4 && (
        <div className="mt-3 flex flex-wrap items-center gap-2">
          <input
            type="search"
            aria-label="Search the workshop"
            placeholder="Search: a name, a woofer, an enclosure, a tag"
            data-search
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
          {tags.length > 0 && (
            <select
              aria-label="Only those tagged"
              className="h-8 rounded-sm border border-rule bg-panel px-1"
              value={tag}
              onChange={(e) => setTag(e.target.value)}
            >
              <option value="">all tags</option>
              {tags.map((t) => (
                <option key={t} value={t}>
                  {t}
                </option>
              ))}
            </select>
          )}
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
      <ul className="mt-3 grid grid-cols-1 gap-3 md:grid-cols-2 2xl:grid-cols-3">
        {shown?.map((b) => (
          <BuildCard
            key={b.id}
            build={b}
            copying={copying === b.id}
            busy={!!copying}
            onCopy={() => void copy(b)}
            onAway={() => void putAway(b, false)}
            onChanged={() => void client.invalidateQueries(builds())}
            onTag={setTag}
          />
        ))}
      </ul>
      {shown?.length === 0 && (words || tag) && (
        <p className="mt-4 text-soft">
          Nothing here is called or tagged that, nor has such a woofer or enclosure.
        </p>
      )}
      {data?.length === 0 && (
        <p className="mt-4 text-soft">The bench is empty. Start your own: a name and a woofer are enough.</p>
      )}
      {data && <WorkshopHas />}
      {data && <PutAway onBack={(b) => putAway(b, true)} />}
      {data && <Carry empty={data.length === 0} />}
      <WorkshopPalette builds={data ?? NONE} />
      <NewBuild open={making} onOpenChange={setMaking} />
    </main>
  );
}

const hasTag = (b: BuildSummary, tag: string) => b.tags.some((t) => t.toLowerCase() === tag.toLowerCase());
