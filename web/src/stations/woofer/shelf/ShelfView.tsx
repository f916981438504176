import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { api, get, type WooferRecord } from "../../../api/client";
import { woofers } from "../../../api/queries";
import { Compare } from "./Compare";
import { FilePanel } from "./FilePanel";
import { ShelfTable } from "./ShelfTable";
import { SheetEditor } from "./SheetEditor";

/** The shelf: its table, and over it one woofer's sheet, a comparison, or a file. Which one is in the address. */
export function ShelfView() {
  const [query, setQuery] = useSearchParams();
  const { data, isPending, error } = useQuery(woofers());
  const [off, setOff] = useState<WooferRecord | null>(null);
  const client = useQueryClient();
  const back = () => setQuery({});
  const sheet = query.get("sheet");
  const compare = query.get("compare");
  if (isPending) return <p className="text-soft">Fetching the shelf…</p>;
  if (error && !data)
    return (
      <p role="alert" className="text-brick">
        The shelf cannot be reached now.
      </p>
    );
  if (sheet)
    return (
      <SheetEditor
        key={sheet}
        id={sheet}
        onBack={back}
        onTakenOff={(record) => {
          setOff(record);
          back();
        }}
      />
    );
  if (compare) return <Compare ids={compare.split(",").slice(0, 4)} onBack={back} />;
  if (query.has("file")) return <FilePanel onBack={back} />;
  const putBack = async () => {
    if (!off) return;
    await get(api.POST("/api/woofers/{id}/restore", { params: { path: { id: off.id } } }));
    setOff(null);
    await client.invalidateQueries(woofers());
  };
  return (
    <>
      {off && (
        <p role="status" className="mb-2 border-l-2 border-ochre pl-2">
          {off.name} is off the shelf.{" "}
          <button type="button" className="text-oak underline" onClick={() => void putBack()}>
            Put it back
          </button>
        </p>
      )}
      <ShelfTable lines={data} open={(what) => setQuery(what)} />
    </>
  );
}
