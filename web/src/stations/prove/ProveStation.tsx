import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, get, type MeasurementRecord, type Proved } from "../../api/client";
import { measurements } from "../../api/queries";
import { Disclosure } from "../../ui/Disclosure";
import { Say } from "../../ui/Say";
import { usePart } from "../../workbench/context";
import { Combine } from "./Combine";
import { Done } from "./Done";
import { Known } from "./Known";
import { placeWords } from "./places";
import { lay, useMeasured, useProof } from "./useMeasured";
import { useSaving } from "./useSaving";

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
      <Combine build={build} laid={laid} />
    </>
  );
}

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
  const { save, wrong } = useSaving(record, changed);
  const { document } = record;
  const letter = usePart((b) => b.revisions.find((r) => r.id === record.revision_id)?.letter);
  const { about, source } = document;
  const name = about?.name || "without a name";
  return (
    <li className="border-b border-rule py-1.5">
      <label className="flex items-baseline gap-2">
        <input type="checkbox" checked={on} onChange={(e) => lay(record.id, e.target.checked)} />
        <span className="min-w-0 flex-1">
          <b className="font-semibold">{name}</b>
          <span className="block text-xs text-soft">
            {placeWords(about?.taken)}
            {letter && `, revision ${letter}`}
            {source.kind === "bench" && ", on the bench"}
            {source.kind === "practice" && ", practice"}
            {source.kind === "combined" && `: ${source.how}`}
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
          <Done record={record} save={save} />
          <Disclosure title="How it was taken" indented>
            <Known record={record} save={save} />
          </Disclosure>
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
