import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { ShelfWoofer } from "../../api/client";
import { woofers } from "../../api/queries";
import { FileDrop, FileRead, type ReadFile } from "../../stations/woofer/shelf/FilePanel";
import type { Kept } from "../../ui/kept";
import { OwnSheet } from "./OwnSheet";
import type { Thought } from "./thought";

const link = "text-oak underline";

/** The woofer one has: of the shelf, by its sheet, by a file, or none yet. */
export function WooferHad({
  thought,
  put,
  kept,
  field,
}: {
  thought: Thought;
  put: (part: Partial<Thought>) => void;
  kept: Kept<ShelfWoofer>;
  field: string;
}) {
  const shelf = useQuery(woofers()).data ?? [];
  if (thought.from === "shelf")
    return (
      <div>
        <label className="block">
          Woofer
          <select value={thought.woofer} onChange={(e) => put({ woofer: e.target.value })} className={field}>
            <option value="">None yet: the likeliest of the shelf is taken</option>
            {shelf.map((w) => (
              <option key={w.id} value={w.id}>
                {w.row.name} — {w.row.size_in} in, {w.row.maker}
              </option>
            ))}
          </select>
        </label>
        <p className="text-xs text-soft">
          Not on the shelf?{" "}
          <button type="button" className={link} onClick={() => put({ from: "sheet" })}>
            Type its sheet in
          </button>{" "}
          or{" "}
          <button type="button" className={link} onClick={() => put({ from: "file" })}>
            read a file
          </button>
          .
        </p>
      </div>
    );
  return (
    <section aria-label="Your woofer" className="border-l-2 border-oak/60 pl-3 md:col-span-2">
      <p className="flex gap-3">
        <b className="flex-1 font-medium">
          {thought.from === "sheet" ? "Woofer, by its sheet" : "Woofer, from a file"}
        </b>
        <button type="button" className={link} onClick={() => put({ from: "shelf" })}>
          One of the shelf after all
        </button>
      </p>
      {thought.from === "sheet" ? (
        <OwnSheet kept={kept} />
      ) : (
        <FromFile onTaken={(woofer) => put({ from: "shelf", woofer })} />
      )}
    </section>
  );
}

/** Reads a file into the shelf; the first woofer of it is the one the build begins with. */
function FromFile({ onTaken }: { onTaken: (woofer: string) => void }) {
  const [read, setRead] = useState<ReadFile | null>(null);
  const client = useQueryClient();
  const take = async (of: ReadFile) => {
    const first = of.preview.sample[0]?.row;
    const shelf = await client.fetchQuery(woofers());
    const found = shelf.find((w) => w.row.name === first?.name && w.row.maker === first.maker);
    onTaken(found?.id ?? "");
  };
  return (
    <>
      <FileDrop onRead={setRead} />
      {read && (
        <FileRead
          key={read.file.name + read.file.lastModified}
          {...read}
          then={`Begin with ${read.preview.sample[0]?.row.name ?? "it"}`}
          onThen={() => void take(read)}
        />
      )}
    </>
  );
}
