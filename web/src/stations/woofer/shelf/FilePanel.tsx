import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { ImportStep, Preview, Problem } from "../../../api/client";
import { woofers } from "../../../api/queries";
import { eachLine } from "../../../lib/lines";
import { tidy } from "../../../lib/quantity";
import { Button } from "../../../ui/Button";
import { Row } from "../../../ui/Table";

const MOST_MB = 16;

export type ReadFile = { file: File; format: "csv" | "json"; preview: Preview };

/** Files of woofers: what a file would bring is shown first; then all of it is taken in, or nothing. */
export function FilePanel({ onBack }: { onBack: () => void }) {
  const [read, setRead] = useState<ReadFile | null>(null);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <Button onClick={onBack}>Back to the shelf</Button>
      <div className="mt-3 grid gap-6 md:grid-cols-2">
        <section>
          <h2 className="font-display text-base font-semibold">Read a file in</h2>
          <FileDrop onRead={setRead} />
        </section>
        <section>
          <h2 className="font-display text-base font-semibold">Write the shelf out</h2>
          <p className="py-1 text-soft">
            CSV holds the set in use of each woofer, for a spreadsheet. JSON holds everything, and reads back
            as it was.
          </p>
          <p className="flex gap-3">
            <a className="text-oak underline" href="/api/shelf/export?format=csv" download>
              Save CSV
            </a>
            <a className="text-oak underline" href="/api/shelf/export?format=json" download>
              Save JSON
            </a>
          </p>
        </section>
      </div>
      {read && (
        <FileRead
          key={read.file.name + read.file.lastModified}
          {...read}
          then="To the shelf"
          onThen={onBack}
        />
      )}
    </div>
  );
}

/** Where a file is dropped or chosen; it is read, and nothing is stored yet. */
export function FileDrop({ onRead }: { onRead: (read: ReadFile | null) => void }) {
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const take = async (file: File | undefined) => {
    if (!file) return;
    onRead(null);
    setWrong(null);
    if (file.size > MOST_MB * 1024 * 1024) {
      setWrong(`${file.name} has ${(file.size / 1048576).toFixed(0)} MB; at most ${MOST_MB} MB are taken.`);
      return;
    }
    setBusy(true);
    const format = /\.json$/i.test(file.name) ? "json" : "csv";
    try {
      const answer = await fetch(`/api/woofers/preview?format=${format}`, { method: "POST", body: file });
      const body = (await answer.json()) as Preview & Problem;
      if (answer.ok) onRead({ file, format, preview: body });
      else setWrong(`${file.name}: ${body.detail}`);
    } catch {
      setWrong("The server does not answer; nothing was read.");
    }
    setBusy(false);
  };
  return (
    <>
      <p className="py-1 text-soft">
        CSV with a header whose names carry the units (“vas_l”, “Vas (ft³)”, “Sd [cm2]”), points or commas in
        the numbers; or the shelf's own JSON. Nothing is stored before you have seen what it brings.
      </p>
      <label
        className="block border border-dashed border-rule bg-panel p-4 text-center text-soft focus-within:border-oak hover:border-oak"
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault();
          void take(e.dataTransfer.files[0]);
        }}
      >
        Drop a file here, or{" "}
        <input
          type="file"
          aria-label="File of woofers"
          accept=".csv,.json,.txt,text/csv,application/json"
          className="max-w-56"
          onChange={(e) => {
            void take(e.target.files?.[0]);
            e.target.value = "";
          }}
        />
      </label>
      {busy && <p className="pt-2 text-soft">Reading…</p>}
      {wrong && (
        <p role="alert" className="pt-2 text-brick">
          {wrong}
        </p>
      )}
    </>
  );
}

/** What a file would bring, what is wrong with it, and the press that takes it in. */
export function FileRead({
  file,
  format,
  preview,
  then,
  onThen,
}: ReadFile & {
  /** What is done once it is taken in. */
  then: string;
  onThen: () => void;
}) {
  const { good, bad, known, columns, problems, sample } = preview;
  const [mode, setMode] = useState<"leave_out" | "add_sets">("leave_out");
  const [step, setStep] = useState<ImportStep | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const client = useQueryClient();
  const running = step?.kind === "progress";
  const bring = mode === "leave_out" ? good - known : good;
  const begin = async () => {
    setWrong(null);
    setStep({ kind: "progress", done: 0, of: good });
    const query = new URLSearchParams({ format, known: mode, leave_bad_out: String(bad > 0) });
    try {
      const answer = await fetch(`/api/woofers/import?${query}`, { method: "POST", body: file });
      if (!answer.ok || !answer.body) throw new Error(((await answer.json()) as Problem).detail);
      await eachLine(answer.body, (line) => {
        const next = line as ImportStep;
        setStep(next);
        if (next.kind === "failed") setWrong(`Nothing was stored: ${next.detail}`);
      });
      await client.invalidateQueries(woofers());
    } catch (cause) {
      setStep(null);
      setWrong(cause instanceof Error ? cause.message : "The server does not answer; nothing was stored.");
    }
  };
  const left = columns.filter((c) => !c.field);
  return (
    <section aria-label="What the file brings" className="mt-4 border-t border-rule pt-3">
      <h2 className="font-display text-base font-semibold">
        {file.name}: {good} good {good === 1 ? "row" : "rows"}, {bad} with problems
      </h2>
      {problems.length > 0 && (
        <table className="mt-1 w-full text-left">
          <caption className="sr-only">Rows with problems</caption>
          <tbody>
            {problems.map((row) => (
              <Row key={row.line} className="align-top">
                <td className="w-16 py-1 font-mono text-xs text-soft">line {row.line}</td>
                <td className="w-40 truncate py-1">{row.name || "no name"}</td>
                <td className="py-1 text-brick">
                  {row.problems.map((p) => (
                    <span key={p.column + p.message} className="block">
                      {p.column && <span className="font-mono text-xs">{p.column}: </span>}
                      {p.message}
                    </span>
                  ))}
                </td>
              </Row>
            ))}
          </tbody>
        </table>
      )}
      {(left.length > 0 || columns.some((c) => c.note && c.field)) && (
        <p className="pt-2 text-soft">
          {columns
            .filter((c) => c.note)
            .map((c) => `“${c.header}”: ${c.note}`)
            .join(" · ")}
        </p>
      )}
      {sample.length > 0 && (
        <p className="pt-2">
          {sample
            .slice(0, 6)
            .map(
              ({ row }) =>
                `${row.name} (${tidy(row.fs_hz ?? NaN, 3)} Hz, Qts ${tidy(row.qts ?? NaN, 2)}, ${tidy(row.vas_l ?? NaN, 3)} L)`,
            )
            .join(", ")}
          {good > 6 ? ` and ${good - 6} more` : ""}
        </p>
      )}
      {known > 0 && (
        <fieldset className="flex flex-wrap gap-4 pt-2">
          <legend className="text-soft">{known} of them stand on the shelf already:</legend>
          {(
            [
              ["leave_out", "leave those out"],
              ["add_sets", "add their figures as further parameter sets"],
            ] as const
          ).map(([id, words]) => (
            <label key={id} className="flex items-center gap-1.5">
              <input type="radio" className="accent-oak" checked={mode === id} onChange={() => setMode(id)} />
              {words}
            </label>
          ))}
        </fieldset>
      )}
      <div className="flex items-center gap-3 pt-3">
        {step?.kind === "done" || (good > 0 && bring === 0) ? (
          <>
            <p role="status">
              {step?.kind === "done"
                ? `${step.added} added, ${step.extended} given further sets, ${step.left_out} left out.`
                : "All of it stands on the shelf already."}
            </p>
            <Button look="strong" onClick={onThen}>
              {then}
            </Button>
          </>
        ) : (
          <Button look="strong" disabled={running || bring === 0} onClick={() => void begin()}>
            {bad > 0 ? `Put ${bring} on the shelf, leave ${bad} out` : `Put ${bring} on the shelf`}
          </Button>
        )}
        {running && (
          <span role="status" className="text-soft">
            {step.done} of {step.of} woofers
          </span>
        )}
        {wrong && (
          <p role="alert" className="text-brick">
            {wrong}
          </p>
        )}
      </div>
    </section>
  );
}
