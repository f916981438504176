import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { AmplifiersImported, Problem } from "../../../api/client";
import { amplifiers } from "../../../api/queries";
import { useSay } from "../../../app/settings";
import { Disclosure } from "../../../ui/Disclosure";

/** Files of amplifiers: one is taken in whole or not at all, and what is wrong is told at its place. */
export function AmplifierFiles() {
  const client = useQueryClient();
  const say = useSay();
  const [said, setSaid] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string[]>([]);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setWrong([]);
    setSaid("Reading…");
    try {
      const headers = { "content-type": "application/json" };
      const answer = await fetch("/api/amplifiers/import", { method: "POST", body: file, headers });
      const body = (await answer.json()) as AmplifiersImported & Problem;
      if (answer.ok) {
        await client.invalidateQueries(amplifiers());
        setSaid(`${body.added} put on the shelf, ${body.left_out} left out: they stand there already.`);
      } else {
        setSaid(null);
        const places = (body.errors ?? []).map((e) => `${e.pointer}: ${say(e.message)}`);
        setWrong([`${file.name}: nothing was taken in.`, ...(places.length ? places : [body.detail])]);
      }
    } catch {
      setSaid(null);
      setWrong(["The server does not answer; nothing was taken in."]);
    }
  };
  return (
    <Disclosure title="Files in and out" indented>
      <p className="flex flex-wrap items-baseline gap-4 py-1">
        <label>
          Read a file in:{" "}
          <input
            type="file"
            aria-label="File of amplifiers"
            accept=".json,application/json"
            className="max-w-60"
            onChange={(e) => {
              void take(e.target.files?.[0]);
              e.target.value = "";
            }}
          />
        </label>
        <a className="text-oak underline" href="/api/amplifiers/export" download>
          Save the shelf as JSON
        </a>
        <span role="status" className="text-soft">
          {said}
        </span>
      </p>
      {wrong.length > 0 && (
        <ul role="alert" className="text-brick">
          {wrong.slice(0, 12).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </Disclosure>
  );
}
