import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, get, Refused, type MeasurementRecord, type Proved } from "../../api/client";
import { measurements } from "../../api/queries";
import { useSay } from "../../app/settings";
import { Disclosure } from "../../ui/Disclosure";
import { Select } from "../../ui/Select";
import { Say } from "../../ui/Say";
import { Amount } from "./Amount";
import { PLACES, placeOf, placeWords } from "./places";
import { lay, useMeasured, useProof } from "./useMeasured";

/** What was measured, each laid on the prediction or not, and what was done to it. */
export function ProveStation() {
  const { build, list, laid, isPending, error } = useMeasured();
  const proof = useProof();
  const [gone, setGone] = useState<MeasurementRecord | null>(null);
  const client = useQueryClient();
  const again = () => client.invalidateQueries(measurements(build));
  const putBack = async () => {
    if (!gone) return;
    await get(api.POST("/api/measurements/{id}/restore", { params: { path: { id: gone.id } } }));
    setGone(null);
    await again();
  };
  if (isPending) return <p className="text-soft">Fetching…</p>;
  if (error && !list.length)
    return (
      <p role="alert" className="text-brick">
        The measurements cannot be reached now.
      </p>
    );
  return (
    <>
      {!list.length && (
        <p className="pb-2">
          Nothing was measured at this build yet.{" "}
          <Link className="text-oak underline" to="take">
            Take a measurement
          </Link>{" "}
          on the bench, or{" "}
          <Link className="text-oak underline" to="file">
            bring one in from a file
          </Link>
          .
        </p>
      )}
      {gone && (
        <p role="status" className="mb-2 border-l-2 border-ochre pl-2">
          {gone.document.about?.name} is taken away.{" "}
          <button type="button" className="text-oak underline" onClick={() => void putBack()}>
            Put it back
          </button>
        </p>
      )}
      <ul data-testid="measurements">
        {list.map((m) => (
          <Item
            key={m.id}
            record={m}
            on={laid.some((l) => l.id === m.id)}
            proved={proof?.measured.find((p) => p.id === m.id)}
            changed={again}
            onGone={async () => {
              await get(api.DELETE("/api/measurements/{id}", { params: { path: { id: m.id } } }));
              setGone(m);
              await again();
            }}
          />
        ))}
      </ul>
    </>
  );
}

const SMOOTH = [0, 1, 3, 6, 12, 24, 48];

function Item({
  record,
  on,
  proved,
  changed,
  onGone,
}: {
  record: MeasurementRecord;
  on: boolean;
  proved: Proved | undefined;
  changed: () => Promise<void>;
  onGone: () => Promise<void>;
}) {
  const say = useSay();
  const [wrong, setWrong] = useState("");
  const { document, version } = record;
  const { about, steps = [] } = document;
  const save = async (next: typeof document) => {
    setWrong("");
    try {
      const path = { id: record.id };
      await get(
        api.PUT("/api/measurements/{id}", {
          params: { path },
          body: { base_version: version, document: next },
        }),
      );
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      const first = problem?.errors?.[0]?.message;
      setWrong(
        problem?.status === 409
          ? "It was changed elsewhere meanwhile; this is how it stands now."
          : (first && say(first)) || "Not kept: the server does not answer.",
      );
    }
    await changed();
  };
  const smooth = steps.find((s) => s.kind === "smooth");
  const offset = steps.find((s) => s.kind === "offset");
  const set = (kind: string, step: (typeof steps)[number] | undefined) =>
    save({ ...document, steps: [...steps.filter((s) => s.kind !== kind), ...(step ? [step] : [])] });
  const name = about?.name || "without a name";
  return (
    <li className="border-b border-rule py-1.5">
      <label className="flex items-baseline gap-2">
        <input type="checkbox" checked={on} onChange={(e) => lay(record.id, e.target.checked)} />
        <span className="min-w-0 flex-1">
          <b className="font-semibold">{name}</b>
          <span className="block text-xs text-soft">
            {placeWords(about?.taken)}
            {document.source.kind === "bench" && ", on the bench"}
            {document.source.kind === "practice" && ", practice"}
          </span>
        </span>
      </label>
      {on && proved && (
        <p className="pl-6 text-xs" data-testid="deviation">
          <Say text={proved.sentence} />
        </p>
      )}
      {wrong && (
        <p role="alert" className="pl-6 text-xs text-brick">
          {wrong}
        </p>
      )}
      <div className="pl-6">
        <Disclosure title="What is known and done">
          <p className="flex flex-wrap items-baseline gap-2 py-1 text-xs">
            <span>Taken</span>
            <Select
              label={`Where ${name} was taken`}
              value={about?.taken?.kind ?? "in_box"}
              onChange={(kind) => void save({ ...document, about: { ...about, taken: placeOf(kind) } })}
              choices={PLACES.map((p) => [p.kind, p.words])}
            />
          </p>
          {about?.taken && (
            <Amount
              taken={about.taken}
              onChange={(taken) => void save({ ...document, about: { ...about, taken } })}
            />
          )}
          <p className="flex flex-wrap items-baseline gap-2 py-1 text-xs">
            <span>Smoothed over</span>
            <Select
              label={`Smoothing of ${name}`}
              value={String(smooth?.kind === "smooth" ? smooth.per_octave : 0)}
              onChange={(v) =>
                void set("smooth", Number(v) ? { kind: "smooth", per_octave: Number(v) } : undefined)
              }
              choices={SMOOTH.map((n) => [String(n), n ? `1/${n} octave` : "nothing"])}
            />
          </p>
          {about &&
            !["in_box", "free_air", "added_mass", "known_box"].includes(about.taken?.kind ?? "in_box") && (
              <label className="flex items-baseline gap-2 py-1 text-xs">
                Moved by
                <input
                  type="number"
                  step="0.5"
                  className="w-16 border border-rule bg-panel px-1"
                  aria-label={`Offset of ${name} in dB`}
                  defaultValue={offset?.kind === "offset" ? offset.db : 0}
                  onBlur={(e) => {
                    const db = Number(e.target.value);
                    if (Number.isFinite(db)) void set("offset", db ? { kind: "offset", db } : undefined);
                  }}
                />
                dB
              </label>
            )}
          {proved?.doubts.map((d) => (
            <p key={d.kind + d.sentence} className="text-xs text-ochre">
              {d.sentence}.
            </p>
          ))}
          {document.buzzes?.map((b) => (
            <p key={b.from_hz} className="text-xs text-ochre">
              Something buzzes between {b.from_hz.toFixed(0)} and {b.to_hz.toFixed(0)} Hz.
            </p>
          ))}
          <p className="flex flex-wrap gap-3 py-1 text-xs">
            {(["text", "csv", "json"] as const).map((format) => (
              <a
                key={format}
                className="text-oak underline"
                href={`/api/measurements/${record.id}/file?format=${format}`}
                download
              >
                Save as {format === "text" ? "text" : format.toUpperCase()}
              </a>
            ))}
            <button type="button" className="text-brick underline" onClick={() => void onGone()}>
              Take it away
            </button>
          </p>
        </Disclosure>
      </div>
    </li>
  );
}
