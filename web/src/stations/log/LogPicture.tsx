import { useDeferredValue, useMemo, useState } from "react";
import type { TimelineEvent } from "../../api/client";
import { Say } from "../../ui/Say";
import { Select } from "../../ui/Select";
import { Button } from "../../ui/Button";
import { plain } from "../../lib/said";
import { useBuilding } from "../cabinet/useCabinet";
import { Entry } from "./Entry";
import { KINDS } from "./kinds";
import { pagesOf, useLog } from "./useLog";

/** The shop notebook: day by day what was written, and in the margin what the program knows by itself. */
export function LogPicture() {
  const [words, setWords] = useState("");
  const [kind, setKind] = useState("");
  const wanted = useDeferredValue(words.trim());
  const filter = useMemo(() => ({ words: wanted, kind }), [wanted, kind]);
  const { entries, events, pages, count } = useLog(filter);
  const filtered = !!(wanted || kind);
  const oldest = pages.hasNextPage ? entries.at(-1)?.at : undefined;
  const days = pagesOf(entries, filtered ? [] : events, oldest);
  return (
    <div className="mx-auto max-w-4xl">
      <div className="flex flex-wrap items-center gap-2 pb-2">
        <input
          type="search"
          aria-label="Search the log"
          placeholder="Search what was written"
          className="h-8 w-52 rounded-sm border border-rule bg-panel px-2"
          value={words}
          maxLength={200}
          onChange={(e) => setWords(e.target.value)}
        />
        <Select
          label="Kind of entry"
          value={kind}
          choices={[
            ["", "everything"],
            ...KINDS.map(([id, title]): [string, string] => [id, title]),
            ["remedy", "Remedies taken"],
          ]}
          onChange={setKind}
        />
        <span className="ml-auto text-xs text-soft" role="status">
          {count !== undefined && `${count} ${count === 1 ? "entry" : "entries"}`}
        </span>
      </div>
      {pages.isError && (
        <p role="alert" className="mb-2 border-l-2 border-brick pl-2 text-brick">
          The server does not answer. What you write is kept here and sent when it does.
        </p>
      )}
      {days.map(({ day, entries, events }) => (
        <section key={day} aria-label={dayInWords(day)} className="border-t-2 border-ink/70 pb-4">
          <h2 className="pt-1 pb-1.5 font-display text-base font-semibold">{dayInWords(day)}</h2>
          <div className="grid gap-x-4 sm:grid-cols-[11rem_minmax(0,1fr)]">
            <Margin events={events} />
            <ol className="min-w-0 border-rule sm:border-l sm:pl-4">
              {entries.map((shown) => (
                <Entry key={shown.id} shown={shown} />
              ))}
            </ol>
          </div>
        </section>
      ))}
      {pages.hasNextPage && (
        <Button look="action" disabled={pages.isFetchingNextPage} onClick={() => void pages.fetchNextPage()}>
          Earlier days
        </Button>
      )}
      {!days.length && !pages.isPending && !pages.isError && (
        <p className="py-6 text-soft">
          {filtered
            ? "Nothing of that was written."
            : "Nothing happened yet. What you write, and what you do in the program, stands here by day."}
        </p>
      )}
    </div>
  );
}

function dayInWords(day: string): string {
  const [year = 0, month = 1, date = 1] = day.split("-").map(Number);
  const words = { weekday: "long", day: "numeric", month: "long", year: "numeric" } as const;
  return new Date(year, month - 1, date).toLocaleDateString("en-GB", words);
}

const VERB: Record<TimelineEvent["kind"], string> = {
  begun: "begun",
  changed: "changed",
  measured: "measured",
  step: "done",
};

/** What the program knows of a day, in a smaller hand. */
function Margin({ events }: { events: TimelineEvent[] }) {
  const steps = useBuilding()?.steps;
  return (
    <ul className="space-y-1.5 pb-2 text-xs text-soft" aria-label="What the program knows">
      {events.map((event, i) => {
        const step = event.kind === "step" && steps?.find((s) => s.id === plain(event.text));
        return (
          <li key={i}>
            <span className="font-medium text-ink/80">
              {event.revision} {VERB[event.kind]}
            </span>{" "}
            {event.kind === "step" ? (
              step ? (
                <Say text={step.title} />
              ) : (
                plain(event.text).replaceAll("_", " ")
              )
            ) : (
              <Say text={event.text} />
            )}
          </li>
        );
      })}
    </ul>
  );
}
