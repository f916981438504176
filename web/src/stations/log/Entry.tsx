import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, Refused, type LogEntry } from "../../api/client";
import { plain } from "../../lib/said";
import { Button } from "../../ui/Button";
import { Modal } from "../../ui/Modal";
import { usePart } from "../../workbench/context";
import { outbox } from "../../workbench/outbox";
import { useBuilding } from "../cabinet/useCabinet";
import { titleOf } from "./kinds";
import { Preview } from "./Preview";
import type { Shown } from "./useLog";

/** One entry: when, what it is about, its words and its photos; it can be changed and taken out. */
export function Entry({ shown }: { shown: Shown }) {
  const build = usePart((b) => b.build.id);
  const client = useQueryClient();
  const [editing, setEditing] = useState<string>();
  const [gone, setGone] = useState(false);
  const [wrong, setWrong] = useState("");
  const { entry, waiting } = shown;
  const kind = entry.kind ?? "note";
  const keep = async (text: string, base = waiting?.base_version ?? shown.version) => {
    setEditing(undefined);
    await outbox.put({
      id: shown.id,
      build,
      base_version: base,
      entry: { ...entry, text: text.trim() },
      photos: waiting?.photos ?? [],
      written_at: waiting?.written_at ?? shown.at,
    });
  };
  const take = async (out: boolean) => {
    setWrong("");
    try {
      if (out && (await outbox.takeBack(shown.id)) && !shown.version) return;
      const params = { path: { id: shown.id } };
      if (out) await get(api.DELETE("/api/log/{id}", { params }));
      else await get(api.POST("/api/log/{id}/restore", { params }));
      setGone(out);
      if (!out) await client.invalidateQueries({ queryKey: ["log", build] });
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      setWrong(problem?.detail ?? "The server does not answer; the entry stands.");
    }
  };
  if (gone)
    return (
      <li className="border-b border-rule py-2 text-soft">
        Taken out.{" "}
        <button type="button" className="text-oak underline" onClick={() => void take(false)}>
          Bring it back
        </button>
      </li>
    );
  return (
    <li className="border-b border-rule py-2 last:border-b-0" data-testid="entry">
      <p className="flex flex-wrap items-baseline gap-x-2 text-xs text-soft">
        <time dateTime={shown.at}>
          {new Date(shown.at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}
        </time>
        {kind !== "note" && (
          <span className={kind === "mistake" ? "text-brick" : "text-verdigris"}>{titleOf(kind)}</span>
        )}
        <About entry={entry} />
        <span className="ml-auto flex gap-2">
          {kind !== "remedy" && (
            <button
              type="button"
              className="text-oak underline decoration-dotted"
              onClick={() => setEditing(entry.text ?? "")}
            >
              change
            </button>
          )}
          <button
            type="button"
            className="text-oak underline decoration-dotted"
            onClick={() => void take(true)}
          >
            take out
          </button>
        </span>
      </p>
      {editing === undefined ? (
        entry.text && <p className="ruled text-sm whitespace-pre-wrap">{entry.text}</p>
      ) : (
        <div className="space-y-1 py-1">
          <textarea
            aria-label="What happened"
            className="w-full rounded-sm border border-rule bg-panel px-2 py-1 text-sm"
            rows={4}
            maxLength={20000}
            autoFocus
            value={editing}
            onChange={(e) => setEditing(e.target.value)}
          />
          <div className="flex gap-2">
            <Button
              look="strong"
              disabled={!editing.trim() && !entry.photos?.length}
              onClick={() => void keep(editing)}
            >
              Keep
            </Button>
            <Button onClick={() => setEditing(undefined)}>Leave it</Button>
          </div>
        </div>
      )}
      <Photos entry={entry} waiting={waiting?.photos ?? []} />
      {waiting && !waiting.problem && (
        <p className="text-xs text-ochre" data-testid="waiting">
          kept in this browser until the server answers
        </p>
      )}
      {waiting?.problem && (
        <p role="alert" className="border-l-2 border-brick pl-2 text-xs text-brick">
          Not sent:{" "}
          {waiting.problem.errors?.[0] ? plain(waiting.problem.errors[0].message) : waiting.problem.detail}.{" "}
          {waiting.problem.status === 409 ? (
            <button
              type="button"
              className="text-oak underline"
              onClick={() => void keep(entry.text ?? "", waiting.problem?.version ?? shown.version)}
            >
              Keep mine over it
            </button>
          ) : (
            waiting.photos.length > 0 && (
              <button
                type="button"
                className="text-oak underline"
                onClick={() => void outbox.put({ ...waiting, photos: [] })}
              >
                Send it without its photos
              </button>
            )
          )}
        </p>
      )}
      {wrong && (
        <p role="alert" className="text-xs text-brick">
          {wrong}
        </p>
      )}
    </li>
  );
}

/** What an entry is about, in a few words. */
function About({ entry }: { entry: LogEntry }) {
  const steps = useBuilding()?.steps;
  const { revision, step, part, measurement } = entry.tied ?? {};
  const named = steps?.find((s) => s.id === step);
  const words = [
    revision && `revision ${revision}`,
    step && (named ? plain(named.title) : step.replaceAll("_", " ")),
    part && `part ${part}`,
    measurement,
  ].filter(Boolean);
  return <span>{words.join(" · ")}</span>;
}

/** Photos, taped in; each opens large. */
function Photos({ entry, waiting }: { entry: LogEntry; waiting: Blob[] }) {
  const [large, setLarge] = useState<string>();
  const photos = entry.photos ?? [];
  if (!photos.length && !waiting.length) return null;
  return (
    <div className="flex flex-wrap gap-4 py-2">
      {photos.map((photo, i) => (
        <button
          key={photo.digest}
          type="button"
          className="relative"
          aria-label={`Photo ${i + 1}, open large`}
          onClick={() => setLarge(photo.digest)}
        >
          <Tape />
          <img
            src={`/api/photos/${photo.digest}?small=true`}
            alt=""
            loading="lazy"
            width={photo.width}
            height={photo.height}
            className="h-32 w-auto border border-rule bg-panel p-1"
          />
        </button>
      ))}
      {waiting.map((photo, i) => (
        <span key={i} className="relative opacity-70">
          <Tape />
          <Preview photo={photo} className="h-32" />
        </span>
      ))}
      <Modal title="Photo" open={!!large} onOpenChange={(open) => !open && setLarge(undefined)} wide>
        {large && <img src={`/api/photos/${large}`} alt="" className="mx-auto max-h-[75vh] max-w-full" />}
      </Modal>
    </div>
  );
}

const Tape = () => (
  <span
    aria-hidden
    className="absolute -top-1.5 left-1/2 h-3 w-10 -translate-x-1/2 -rotate-2 border border-rule/60 bg-selected/90"
  />
);
