import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, Refused, type SessionShown } from "../../api/client";
import { listening } from "../../api/queries";
import { Button } from "../../ui/Button";
import { usePart } from "../../workbench/context";
import { Envelope } from "./Envelope";
import { Outcome } from "./Outcome";

/** The sessions of a build: the one that runs, under seal, and what came of those that have ended. */
export function ListenPicture() {
  const build = usePart((b) => b.build.id);
  const { data, isError } = useQuery(listening(build));
  if (isError) return <p role="alert">The server does not answer.</p>;
  if (!data) return <p className="text-soft">Fetching…</p>;
  if (!data.length)
    return (
      <div className="max-w-xl space-y-3 py-4">
        <div className="flex gap-4">
          {["A", "B", "X"].map((letter) => (
            <Envelope key={letter} letter={letter} />
          ))}
        </div>
        <p>
          Two cabinets, or two settings of one, heard blind and equally loud. Whoever listens answers from a
          phone or from this page; answers are sealed until the session ends, and only then is it told what
          came of it.
        </p>
        <p className="text-soft">
          Set it up on the left. Nobody sees an order or an answer before the end, you neither: looking early
          and going on is what spoils most such tests.
        </p>
      </div>
    );
  return (
    <div className="space-y-6">
      {data.map((session) =>
        session.ended_at ? (
          <Ended key={session.id} session={session} build={build} />
        ) : (
          <Running key={session.id} session={session} build={build} />
        ),
      )}
    </div>
  );
}

/** A session that runs: where listeners and the helper go, and how far they are. */
function Running({ session, build }: { session: SessionShown; build: string }) {
  const client = useQueryClient();
  const [asking, setAsking] = useState(false);
  const [wrong, setWrong] = useState("");
  const whole =
    session.listeners.length > 0 && session.listeners.every((l) => l.answered >= session.hearings);
  const end = async () => {
    setWrong("");
    try {
      await get(api.POST("/api/listening/{id}/end", { params: { path: { id: session.id } } }));
      await client.invalidateQueries({ queryKey: ["listening", build] });
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "The server does not answer.");
    }
  };
  return (
    <section
      aria-label={`${session.document.title}, running`}
      className="max-w-3xl border-t-2 border-ink/70 pt-2"
    >
      <h2 className="font-display text-lg font-semibold">{session.document.title}</h2>
      <p className="text-soft">Runs under seal since {time(session.created_at)}.</p>
      <div className="grid gap-x-8 gap-y-3 py-3 sm:grid-cols-[auto_minmax(0,1fr)]">
        <div>
          <p className="text-xs text-soft">Code for listeners</p>
          <p className="font-mono text-3xl tracking-widest" data-testid="code">
            {session.code}
          </p>
        </div>
        <div className="space-y-1">
          <p>
            <a
              className="text-oak underline"
              href={`/listen/${session.code}`}
              target="_blank"
              rel="noreferrer"
            >
              {location.origin}/listen/{session.code}
            </a>
            <span className="text-soft"> is the listeners' page, on a phone or here</span>
          </p>
          {["localhost", "127.0.0.1", "[::1]"].includes(location.hostname) && (
            <p className="text-xs text-soft">
              This address is this computer's own. For phones the program is started with --listen and --name
              of this computer in your network.
            </p>
          )}
          {session.helper_key && (
            <p>
              <a
                className="text-oak underline"
                href={`/listen/${session.code}/helper/${session.helper_key}`}
                target="_blank"
                rel="noreferrer"
              >
                The helper's page
              </a>
              <span className="text-soft"> shows the order: for whoever does not listen</span>
            </p>
          )}
        </div>
      </div>
      {session.listeners.length === 0 ? (
        <p className="text-soft">Nobody listens yet.</p>
      ) : (
        <ul className="space-y-2" aria-label="Listeners">
          {session.listeners.map((l) => (
            <li key={l.name} className="flex items-center gap-3">
              <span className="w-28 truncate">{l.name}</span>
              <span className="flex flex-wrap gap-1" aria-hidden>
                {Array.from({ length: Math.min(session.hearings, 40) }, (_, i) => (
                  <Envelope key={i} small sealed={i < l.answered} />
                ))}
              </span>
              <span className="text-xs text-soft tabular-nums">
                {l.answered} of {session.hearings} sealed
              </span>
            </li>
          ))}
        </ul>
      )}
      <div className="pt-4">
        {asking && !whole ? (
          <p className="flex flex-wrap items-center gap-2">
            Not all is answered. What was answered counts; nothing can be added afterwards.
            <Button look="action" onClick={() => void end()}>
              End it all the same
            </Button>
            <Button onClick={() => setAsking(false)}>Go on</Button>
          </p>
        ) : (
          <Button look={whole ? "strong" : "action"} onClick={() => (whole ? void end() : setAsking(true))}>
            End it and open the envelopes
          </Button>
        )}
      </div>
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
    </section>
  );
}

function Ended({ session, build }: { session: SessionShown; build: string }) {
  const client = useQueryClient();
  const [gone, setGone] = useState(false);
  const take = async (out: boolean) => {
    const params = { path: { id: session.id } };
    if (out) await get(api.DELETE("/api/listening/{id}", { params }));
    else await get(api.POST("/api/listening/{id}/restore", { params }));
    setGone(out);
    if (!out) await client.invalidateQueries({ queryKey: ["listening", build] });
  };
  if (gone)
    return (
      <p className="text-soft">
        {session.document.title}: taken out.{" "}
        <button type="button" className="text-oak underline" onClick={() => void take(false)}>
          Bring it back
        </button>
      </p>
    );
  return (
    <section aria-label={session.document.title} className="border-t-2 border-ink/70 pt-2">
      <h2 className="flex items-baseline gap-3 font-display text-lg font-semibold">
        {session.document.title}
        <span className="font-sans text-xs font-normal text-soft">{time(session.created_at)}</span>
        <button
          type="button"
          className="ml-auto font-sans text-xs font-normal text-oak underline decoration-dotted"
          onClick={() => void take(true).catch(() => undefined)}
        >
          take out
        </button>
      </h2>
      {session.outcome && <Outcome outcome={session.outcome} session={session.document} />}
      {session.document.switching === "helper" && (
        <p className="pt-1 text-xs text-soft">
          {session.shown_at
            ? `The order was shown on the helper's page from ${time(session.shown_at)}.`
            : "Nobody opened the helper's page."}
        </p>
      )}
    </section>
  );
}

const time = (at: string) =>
  new Date(at).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
