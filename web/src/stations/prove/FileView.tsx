import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { CurvePreview, MeasurementRecord, Problem, Reading } from "../../api/client";
import { measurements } from "../../api/queries";
import { useSay } from "../../app/settings";
import { roundUp } from "../../lib/axis";
import { Button } from "../../ui/Button";
import { Plot } from "../../ui/Plot";
import { Select } from "../../ui/Select";
import { useCurrentPart, usePart } from "../../workbench/context";
import { isImpedance, PLACES, placeOf } from "./places";

/** Most that is taken, as the server says it too. */
const MOST_MB = 48;

const ROLES: [string, string][] = [
  ["frequency", "frequency"],
  ["magnitude", "magnitude"],
  ["phase", "phase"],
  ["real", "real part"],
  ["imaginary", "imaginary part"],
  ["left_out", "left out"],
];

/** A curve from a file: how each column was read is shown and can be corrected before it is kept. */
export function FileView() {
  const say = useSay();
  const build = usePart((b) => b.build.id);
  const revision = useCurrentPart((r) => r.id);
  const client = useQueryClient();
  const navigate = useNavigate();
  const [file, setFile] = useState<File>();
  const [seen, setSeen] = useState<CurvePreview>();
  const [reading, setReading] = useState<Reading>();
  const asked = useRef(0);
  // until the last question is answered nothing is kept
  const [waits, setWaits] = useState(false);
  const [place, setPlace] = useState("in_box");
  const [name, setName] = useState("");
  const [wrong, setWrong] = useState("");

  const ask = async <T,>(path: string, file: File): Promise<T | undefined> => {
    setWrong("");
    try {
      const answer = await fetch(path, {
        method: "POST",
        body: file,
        headers: { "content-type": "text/plain" },
      });
      const body = (await answer.json()) as T & Problem;
      if (answer.ok) return body;
      const first = body.errors?.[0]?.message;
      setWrong((first && say(first)) ?? body.detail);
    } catch {
      setWrong("The server does not answer; nothing was read.");
    }
    return undefined;
  };
  const look = async (file: File, reading?: Reading) => {
    const mine = ++asked.current;
    setWaits(true);
    const query = reading ? `?reading=${encodeURIComponent(JSON.stringify(reading))}` : "";
    const next = await ask<CurvePreview>(`/api/curves/preview${query}`, file);
    // a later question is out: this answer is of a reading that was corrected meanwhile
    if (mine !== asked.current) return;
    setWaits(false);
    if (next) {
      setSeen(next);
      setReading(next.reading ?? undefined);
      if (next.wrong) setWrong(`So it cannot be read: ${next.wrong}.`);
      const ohms = next.quantity === "impedance";
      if (ohms !== isImpedance(placeOf(place))) setPlace(ohms ? "in_box" : "near_cone");
    }
  };
  const choose = (file: File | undefined) => {
    if (!file) return;
    setSeen(undefined);
    setReading(undefined);
    if (/\.wave?$/i.test(file.name)) {
      setWrong(
        `${file.name} is a recording or an impulse response: it is brought back where one is taken, by files.`,
      );
      return;
    }
    if (file.size > MOST_MB * 1024 * 1024) {
      setWrong(`${file.name} has ${(file.size / 1048576).toFixed(0)} MB; at most ${MOST_MB} MB are taken.`);
      return;
    }
    setFile(file);
    setName(file.name.replace(/\.[^.]*$/, ""));
    void look(file);
  };
  const keep = async () => {
    if (!file || !seen) return;
    const about = JSON.stringify({ name: name.slice(0, 120), taken: placeOf(place) });
    const read = reading ? `&reading=${encodeURIComponent(JSON.stringify(reading))}` : "";
    const query = `?file=${encodeURIComponent(file.name)}&about=${encodeURIComponent(about)}&revision=${revision}${read}`;
    const made = await ask<MeasurementRecord>(`/api/builds/${build}/measurements/import${query}`, file);
    if (!made) return;
    await client.invalidateQueries(measurements(build));
    await navigate(`/builds/${build}/prove`);
  };
  // each correction goes on from the one before, answered or not
  const again = (part: Partial<Reading>) => {
    if (!file || !reading) return;
    const next = { ...reading, ...part };
    setReading(next);
    void look(file, next);
  };
  const ohms = seen?.quantity === "impedance";
  return (
    <section aria-label="From a file" className="min-h-0 max-w-4xl flex-1 overflow-y-auto">
      <p className="pb-2">
        Text in columns (frequency, level or impedance, phase), CSV, or this program&apos;s JSON.{" "}
        <label>
          <span className="sr-only">File with a curve</span>
          <input
            type="file"
            aria-label="File with a curve"
            className="max-w-72"
            onChange={(e) => {
              choose(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
        </label>
      </p>
      {wrong && (
        <p role="alert" className="border-l-2 border-brick pl-2 text-brick">
          {wrong}
        </p>
      )}
      {seen && file && (
        <>
          {reading && (
            <>
              <h2 className="font-display text-base font-semibold">How {file.name} was read</h2>
              <div className="overflow-x-auto">
                <table className="my-1 text-xs" data-testid="columns">
                  <thead>
                    <tr>
                      {reading.columns.map((role, i) => (
                        <th key={i} className="px-1 text-left font-normal">
                          <span className="block text-soft">{seen.names[i] ?? `column ${i + 1}`}</span>
                          <Select
                            label={`Column ${i + 1}`}
                            value={role}
                            choices={ROLES}
                            onChange={(next) => {
                              const columns = reading.columns.map((r, k) =>
                                k === i
                                  ? (next as typeof r)
                                  : r === next && next !== "left_out"
                                    ? "left_out"
                                    : r,
                              );
                              again({ columns });
                            }}
                          />
                        </th>
                      ))}
                    </tr>
                  </thead>
                  <tbody className="font-mono">
                    {seen.rows.slice(0, 5).map((row, i) => (
                      <tr key={i}>
                        {row.map((cell, k) => (
                          <td key={k} className="px-1">
                            {cell}
                          </td>
                        ))}
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
              <p className="flex flex-wrap items-baseline gap-4 py-1 text-xs">
                <span>
                  Magnitudes in{" "}
                  <Select
                    label="Magnitudes in"
                    value={reading.unit}
                    choices={[
                      ["decibel", "decibels"],
                      ["ohm", "ohms"],
                      ["pascal", "pascals"],
                    ]}
                    onChange={(unit) => again({ unit: unit as Reading["unit"] })}
                  />
                </span>
                <label>
                  <input
                    type="checkbox"
                    checked={reading.kilohertz}
                    onChange={(e) => again({ kilohertz: e.target.checked })}
                  />{" "}
                  frequencies in kHz
                </label>
                <label>
                  <input
                    type="checkbox"
                    checked={reading.decimal_comma}
                    onChange={(e) => again({ decimal_comma: e.target.checked })}
                  />{" "}
                  commas are decimal signs
                </label>
                <label>
                  <input
                    type="checkbox"
                    checked={reading.radians}
                    onChange={(e) => again({ radians: e.target.checked })}
                  />{" "}
                  phases in radians
                </label>
              </p>
            </>
          )}
          {[...seen.reasons, ...seen.warnings].map((line) => (
            <p key={line} className="text-xs text-soft">
              {line}.
            </p>
          ))}
          {seen.points > 1 && (
            <Plot
              x={seen.curve.frequency_hz}
              title={`${seen.points} points`}
              unit={ohms ? "ohm" : "dB"}
              told
              range={
                ohms
                  ? [0, roundUp(Math.max(...seen.curve.magnitude))]
                  : [
                      Math.floor(Math.min(...seen.curve.magnitude) / 5) * 5,
                      Math.ceil(Math.max(...seen.curve.magnitude) / 5) * 5,
                    ]
              }
              height={150}
              ticks={[5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000]}
              xUnit="Hz"
              curves={[{ values: seen.curve.magnitude, colour: "var(--oak)" }]}
            />
          )}
          <p className="flex flex-wrap items-baseline gap-4 py-2">
            <label>
              Name{" "}
              <input
                className="w-56 border border-rule bg-panel px-1 py-0.5"
                value={name}
                maxLength={120}
                onChange={(e) => setName(e.target.value)}
              />
            </label>
            <span>
              Taken{" "}
              <Select
                label="Where it was taken"
                value={place}
                choices={PLACES.filter((p) => isImpedance(placeOf(p.kind)) === ohms).map((p) => [
                  p.kind,
                  p.words,
                ])}
                onChange={setPlace}
              />
            </span>
            <Button look="strong" disabled={waits || !seen.points} onClick={() => void keep()}>
              Keep it
            </Button>
          </p>
        </>
      )}
    </section>
  );
}
