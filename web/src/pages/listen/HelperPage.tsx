import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, get, Refused } from "../../api/client";
import { forHelper } from "../../api/queries";
import { Button } from "../../ui/Button";
import { letters, methodOf } from "../../stations/listen/plan";

/** The helper's page: what to connect for which envelope, and on to the next. */
export function HelperPage() {
  const { code = "", key = "" } = useParams();
  const client = useQueryClient();
  const order = useQuery({ ...forHelper(code, key), retry: 1 });
  const go = useMutation({
    mutationFn: (hearing: number) =>
      get(api.PUT("/api/listen/{code}/helper/{key}", { params: { path: { code, key } }, body: { hearing } })),
    onSuccess: (told) => client.setQueryData(forHelper(code, key).queryKey, told),
  });
  const data = order.data;
  const here = data?.hearings[data.set_up];
  const problem = order.error instanceof Refused ? order.error.problem : undefined;
  return (
    <main className="mx-auto flex min-h-full max-w-xl flex-col gap-4 p-4 text-base">
      <p className="font-display text-xl font-semibold text-oak">Oak Drum</p>
      {order.isError && <p role="alert">{problem?.detail ?? "The server does not answer."}</p>}
      {data && here && (
        <>
          <h1 className="font-display text-2xl font-semibold">{data.title}: for the helper</h1>
          <p className="text-sm text-soft">
            Whoever listens must not see this page, nor your hands. Say the letters in their order and nothing
            else.
          </p>
          <p>
            <b className="font-display">
              {data.set_up + 1} of {data.hearings.length}
            </b>{" "}
            <span className="text-soft">play: {here.piece}</span>
          </p>
          <ol className="space-y-2" aria-label="What to connect">
            {here.envelopes.map((e, i) => (
              <li key={i} className="flex items-baseline gap-4 border-b border-rule pb-2">
                <span className="font-display text-2xl font-semibold">
                  {letters(methodOf(data), here.envelopes.length)[i] ?? i + 1}
                </span>
                <span>
                  {e.name}
                  {e.setting && <span className="block text-sm text-soft">{e.setting}</span>}
                  {Math.abs(e.trim_db) >= 0.005 && (
                    <span className="block text-sm text-soft">
                      turned down by {Math.abs(e.trim_db).toFixed(2)} dB
                    </span>
                  )}
                </span>
              </li>
            ))}
          </ol>
          <p className="border-l-2 border-ochre pl-2 text-sm">
            Switch the amplifier off, or turn it down, before a cabinet is connected. A cabinet over 25 kg is
            moved by two.
          </p>
          <div className="flex gap-2">
            <Button
              className="min-h-12 flex-1 text-center!"
              disabled={data.set_up === 0 || go.isPending}
              onClick={() => go.mutate(data.set_up - 1)}
            >
              Back
            </Button>
            <Button
              look="strong"
              className="min-h-12 flex-1 text-center!"
              disabled={data.set_up >= data.hearings.length - 1 || go.isPending}
              onClick={() => go.mutate(data.set_up + 1)}
            >
              Next
            </Button>
          </div>
          {go.isError && <p role="alert">The server does not answer; press again.</p>}
          <ul className="text-sm text-soft" aria-label="Listeners">
            {data.listeners.map((l) => (
              <li key={l.name}>
                {l.name}: {l.answered} sealed
              </li>
            ))}
          </ul>
        </>
      )}
    </main>
  );
}
