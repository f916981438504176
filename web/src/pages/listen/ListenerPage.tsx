import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, get, Refused, type ForListeners } from "../../api/client";
import { forListeners, myHearings } from "../../api/queries";
import { plain } from "../../lib/said";
import { Button } from "../../ui/Button";
import { Hearing } from "./Hearing";

const keyOf = (code: string) => `oak-drum.listener.${code}`;

type Me = { key: string; name: string };

function known(code: string): Me | undefined {
  try {
    return (JSON.parse(localStorage.getItem(keyOf(code)) ?? "null") as Me | null) ?? undefined;
  } catch {
    return undefined;
  }
}

/** A listener's own page: joined with a name, answered hearing by hearing, nothing told before the end. */
export function ListenerPage() {
  const { code: typed = "" } = useParams();
  const code = typed.toUpperCase();
  const session = useQuery({ ...forListeners(code), retry: 1 });
  const [me, setMe] = useState(() => known(code));
  return (
    <main className="mx-auto flex min-h-full max-w-xl flex-col gap-4 p-4 text-base">
      <p className="font-display text-xl font-semibold text-oak">Oak Drum</p>
      {session.isError && (
        <p role="alert">
          {session.error instanceof Refused && session.error.problem?.status === 404
            ? `There is no listening session with the code ${code}. Ask for it again: it has six letters.`
            : "The server does not answer. This page tries again by itself."}
        </p>
      )}
      {session.data && (
        <>
          <h1 className="font-display text-2xl font-semibold">{session.data.title}</h1>
          {me ? (
            <Listening code={code} me={me} session={session.data} />
          ) : (
            <Join
              code={code}
              session={session.data}
              joined={(made) => {
                localStorage.setItem(keyOf(code), JSON.stringify(made));
                setMe(made);
              }}
            />
          )}
        </>
      )}
    </main>
  );
}

function Join({ code, session, joined }: { code: string; session: ForListeners; joined: (me: Me) => void }) {
  const [name, setName] = useState("");
  const [wrong, setWrong] = useState("");
  const join = async () => {
    setWrong("");
    try {
      joined(
        await get(api.POST("/api/listen/{code}/listeners", { params: { path: { code } }, body: { name } })),
      );
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      const first = problem?.errors?.[0];
      setWrong(first ? plain(first.message) : (problem?.detail ?? "The server does not answer; try again."));
    }
  };
  if (session.ended) return <p>This session has ended.</p>;
  return (
    <form
      className="space-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        void join();
      }}
    >
      <p>{asks(session)}</p>
      <p className="text-sm text-soft">
        What you answer is sealed until the session ends, for you too. Nobody sees it before.
      </p>
      <label className="block">
        Your name
        <input
          className="mt-1 h-11 w-full rounded-sm border border-rule bg-panel px-3"
          maxLength={120}
          autoComplete="given-name"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
      <Button type="submit" look="strong" className="min-h-11 w-full text-center!" disabled={!name.trim()}>
        Listen
      </Button>
    </form>
  );
}

/** What is asked, in a sentence or two. */
export function asks({ test, candidates }: ForListeners): string {
  switch (test.kind) {
    case "difference":
      return test.method === "abx"
        ? "You hear A, B and X. X is one of the two: which?"
        : test.method === "triangle"
          ? "You hear three. One of them is another than the two: which?"
          : "You hear R, then 1 and 2. One of them is the same as R: which?";
    case "scores":
      return `You hear ${candidates} under letters, and score each from 1 to 10.`;
    case "pairs":
      return "You hear two at a time, and say which is better.";
  }
}

function Listening({ code, me, session }: { code: string; me: Me; session: ForListeners }) {
  const mine = useQuery(myHearings(code, me.key));
  if (!mine.data)
    return <p className="text-soft">{mine.isError ? "The server does not answer." : "Fetching…"}</p>;
  const { hearings, answered, ended, set_up: setUp } = mine.data;
  const done = new Set(answered);
  const next = setUp ?? hearings.findIndex((_, i) => !done.has(i));
  const all = answered.length >= hearings.length;
  const here = hearings[next];
  return (
    <>
      <p className="flex justify-between text-sm text-soft">
        <span>{me.name}</span>
        <span className="tabular-nums" data-testid="sealed">
          {answered.length} of {hearings.length} sealed
        </span>
      </p>
      {mine.isError && <p role="alert">The server does not answer just now; what is sealed stays sealed.</p>}
      {ended ? (
        <p>The session has ended. What came of it stands at the build's Listen station.</p>
      ) : all ? (
        <p>All is answered and sealed. Thank you: what came of it is told when the session ends.</p>
      ) : !here || done.has(next) ? (
        <p>Sealed. The next one comes when the helper has set it up.</p>
      ) : (
        <Hearing
          key={next}
          code={code}
          listener={me.key}
          number={next}
          of={hearings.length}
          hearing={here}
          session={session}
          sealed={async () => {
            await mine.refetch();
          }}
        />
      )}
    </>
  );
}
