import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { CameIn, Problem } from "../api/client";
import { builds } from "../api/queries";
import { Disclosure } from "../ui/Disclosure";
import { Button } from "../ui/Button";

/** What was said to a file that was brought in. */
type Said = { text: string; build?: CameIn; wrong?: boolean; file?: File };

/** Builds and the whole workshop as files: brought in, saved, restored. */
export function Carry({ empty }: { empty: boolean }) {
  const client = useQueryClient();
  const [said, setSaid] = useState<Said>();
  const [busy, setBusy] = useState(false);
  const send = async <T,>(path: string, file: File): Promise<T | undefined> => {
    setBusy(true);
    setSaid({ text: `Reading ${file.name}…` });
    try {
      const headers = { "content-type": "application/zip" };
      const answer = await fetch(path, { method: "POST", body: file, headers });
      const body = (await answer.json()) as T & Problem;
      if (answer.ok) return body;
      setSaid({ text: `${file.name}: ${body.detail}. Nothing of it was taken in.`, wrong: true });
    } catch {
      setSaid({ text: "The server does not answer; nothing was taken in.", wrong: true });
    } finally {
      setBusy(false);
    }
  };
  const take = async (file: File | undefined, again: "stays" | "copy") => {
    if (!file) return;
    const came = await send<CameIn>(`/api/builds/file?again=${again}`, file);
    if (!came) return;
    await client.invalidateQueries(builds());
    setSaid(
      came.was_here
        ? { text: `${came.name} is here already and was left as it is.`, build: came, file }
        : { text: `${came.name} came in.`, build: came },
    );
  };
  const restore = async (file: File | undefined) => {
    if (!file) return;
    const done = await send<{ builds: number }>("/api/workshop/file", file);
    if (!done) return;
    await client.invalidateQueries();
    setSaid({ text: `The workshop is restored with ${done.builds} builds.` });
  };
  const pick = (label: string, then: (file: File | undefined) => void) => (
    <label className="flex flex-wrap items-baseline gap-x-2">
      <span>{label}</span>
      <input
        type="file"
        aria-label={label}
        accept=".zip,application/zip"
        disabled={busy}
        className="max-w-64"
        onChange={(e) => {
          then(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
    </label>
  );
  return (
    <div className="mt-6 border-t border-rule pt-3">
      <Disclosure title="Files in and out" indented>
        <div className="space-y-2 py-1">
          {pick("Bring a build in", (file) => void take(file, "stays"))}
          <p>
            <a className="text-oak underline" href="/api/workshop/file" download>
              Save the whole workshop as one file
            </a>{" "}
            <span className="text-soft">
              Shelf, rooms and every build that is not put away; a build by itself is saved at its Log, under
              Out.
            </span>
          </p>
          {empty && pick("Restore a whole workshop", (file) => void restore(file))}
        </div>
      </Disclosure>
      {said && (
        <p role={said.wrong ? "alert" : "status"} className={`pt-1 ${said.wrong ? "text-brick" : ""}`}>
          {said.text}{" "}
          {said.build && (
            <Link className="text-oak underline" to={`/builds/${said.build.id}/box`}>
              Open it
            </Link>
          )}{" "}
          {said.file && (
            <Button disabled={busy} onClick={() => void take(said.file, "copy")}>
              Bring it in as a copy
            </Button>
          )}
        </p>
      )}
    </div>
  );
}
