import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useSyncExternalStore } from "react";
import type { LogEntry, LogRecord, TimelineEvent } from "../../api/client";
import { askAgain, log, timeline, type LogFilter } from "../../api/queries";
import { usePart } from "../../workbench/context";
import { outbox, type Waiting } from "../../workbench/outbox";

/** What waits in this browser for the server, of the open build. */
export function useWaiting(): Waiting[] {
  const build = usePart((b) => b.build.id);
  const all = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  return useMemo(() => all.filter((w) => w.build === build), [all, build]);
}

/** An entry as it is shown: kept by the server, or waiting here. */
export type Shown = {
  id: string;
  entry: LogEntry;
  at: string;
  version: number;
  waiting?: Waiting;
};

/** The entries of the open build, the newest first, and what the program knows by itself. */
export function useLog(filter: LogFilter) {
  const build = usePart((b) => b.build.id);
  const waiting = useWaiting();
  const client = useQueryClient();
  const pages = useInfiniteQuery(log(build, filter));
  const known = useQuery(timeline(build));
  const settled = usePart((b) => b.revisions.every((r) => r.save === "saved" && r.workSave === "saved"));
  useEffect(() => {
    // what was being saved when the days were asked for has come there
    if (settled) void askAgain(client, ["timeline", build]);
  }, [settled, client, build]);
  useEffect(() => {
    outbox.delivered = (record: LogRecord) => void askAgain(client, ["log", record.build_id]);
    return () => {
      outbox.delivered = () => undefined;
    };
  }, [client]);
  const entries = useMemo(() => {
    const kept = pages.data?.pages.flatMap((p) => p.entries) ?? [];
    const here = new Map(waiting.map((w) => [w.id, w]));
    const list: Shown[] = kept.map((r) => {
      const w = here.get(r.id);
      here.delete(r.id);
      const entry = w?.entry ?? r.document;
      return { id: r.id, entry, at: r.written_at, version: r.version, waiting: w };
    });
    for (const w of here.values())
      if (fits(w.entry, filter))
        list.push({ id: w.id, entry: w.entry, at: w.written_at, version: 0, waiting: w });
    return list.sort((a, b) => b.at.localeCompare(a.at));
  }, [pages.data, waiting, filter]);
  return { entries, pages, events: known.data ?? [], count: pages.data?.pages[0]?.count };
}

/** Whether an entry that waits is one of those looked for. */
export function fits(entry: LogEntry, { words, kind }: LogFilter): boolean {
  const text = (entry.text ?? "").toLowerCase();
  const all = words.toLowerCase().split(/\s+/).filter(Boolean);
  return (!kind || (entry.kind ?? "note") === kind) && all.every((word) => text.includes(word));
}

export type Day<T> = { day: string; list: T[] };

/** By day of this browser, in the order they come in. */
export function byDay<T>(list: T[], at: (item: T) => string): Day<T>[] {
  const days: Day<T>[] = [];
  for (const item of list) {
    const date = new Date(at(item));
    const day = `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
    const last = days.at(-1);
    if (last?.day === day) last.list.push(item);
    else days.push({ day, list: [item] });
  }
  return days;
}

const two = (value: number) => String(value).padStart(2, "0");

export type Page = { day: string; entries: Shown[]; events: TimelineEvent[] };

/** Pages of the notebook: each day with what was written and, in its margin, what the program knows; newest first. */
export function pagesOf(entries: Shown[], events: TimelineEvent[], oldest: string | undefined): Page[] {
  // further pages of entries are not fetched yet: days before them are not told half
  const shown = oldest ? events.filter((e) => e.at >= oldest) : events;
  const written = new Map(byDay(entries, (e) => e.at).map((d) => [d.day, d.list]));
  const known = new Map(byDay(shown, (e) => e.at).map((d) => [d.day, d.list]));
  const days = [...new Set([...written.keys(), ...known.keys()])].sort().reverse();
  return days.map((day) => ({ day, entries: written.get(day) ?? [], events: known.get(day) ?? [] }));
}
