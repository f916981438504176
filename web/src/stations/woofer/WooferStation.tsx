import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, Refused, type Woofer } from "../../api/client";
import { woofers } from "../../api/queries";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";

/** The figures of a sheet that can be derived, with where the result has them. */
const DERIVED = [
  "qts",
  "qes",
  "qms",
  "fs_hz",
  "vas_l",
  "re_ohm",
  "sd_cm2",
  "mms_g",
  "cms_mm_per_n",
  "rms_n_s_per_m",
  "bl_t_m",
  "sensitivity_db",
] as const;

export function WooferStation() {
  const document = useDocument();
  const evaluation = useEvaluation();
  const derived = evaluation?.summary.woofer;
  const assumed = Object.fromEntries(
    DERIVED.map((name) => [`/woofer/${name}`, derived ? `${tidy(derived[name], 3)} derived` : "derived"]),
  );
  return (
    <>
      <Shelf />
      <h2 className="mt-3 font-display text-base font-semibold">
        Figures of {document.woofer.name || "this woofer"}
      </h2>
      <SchemaForm pointer="/array" />
      <div className="[&_details]:mt-0">
        <SchemaForm pointer="/woofer" assumed={assumed} open={["Small signal", "Limits"]} />
      </div>
      <KeepOnShelf />
    </>
  );
}

function Shelf() {
  const workbench = useWorkbench();
  const document = useDocument();
  const { data, isPending, error } = useQuery(woofers());
  const [search, setSearch] = useState("");
  const wanted = search.trim().toLowerCase();
  const list = (data ?? []).filter((w) =>
    `${w.name} ${w.maker} ${w.size_in ?? ""} in`.toLowerCase().includes(wanted),
  );
  const sheet = (w: { document: Woofer }) => w.document;
  return (
    <section aria-label="Shelf">
      <div className="flex items-baseline gap-2">
        <h2 className="flex-1 font-display text-base font-semibold">Shelf</h2>
        <input
          type="search"
          data-search
          aria-label="Search the shelf"
          placeholder="Search ( / )"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
          className="w-36 rounded-sm border border-rule bg-panel px-2 py-0.5"
        />
      </div>
      <table className="mt-1 block max-h-44 overflow-y-auto border-y border-rule font-mono text-xs tabular-nums">
        <thead className="sticky top-0 bg-ground text-soft">
          <tr>
            <th className="w-full py-1 text-left font-normal">name</th>
            <th className="px-1 text-right font-normal">in</th>
            <th className="px-1 text-right font-normal">fs</th>
            <th className="px-1 text-right font-normal">Qts</th>
            <th className="px-1 text-right font-normal">Vas</th>
          </tr>
        </thead>
        <tbody>
          {list.map((w) => {
            const s = sheet(w);
            const here = s.name === document.woofer.name;
            return (
              <tr key={w.id} className={here ? "bg-selected" : "hover:bg-panel"}>
                <td className="p-0">
                  <button
                    type="button"
                    aria-pressed={here}
                    title={w.maker}
                    className="w-full truncate py-[3px] text-left font-sans text-[13px]"
                    onClick={() =>
                      workbench.take(`${s.name} taken from the shelf`, [{ pointer: "/woofer", value: s }])
                    }
                  >
                    {w.name}
                  </button>
                </td>
                <td className="px-1 text-right">{s.size_in ?? ""}</td>
                <td className="px-1 text-right">{s.fs_hz ?? ""}</td>
                <td className="px-1 text-right">{s.qts ?? ""}</td>
                <td className="px-1 text-right">{s.vas_l ?? ""}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="pt-1 text-xs text-soft">
        {isPending
          ? "Fetching the shelf…"
          : error
            ? "The shelf cannot be reached now."
            : `${list.length} of ${data?.length ?? 0} woofers`}
      </p>
    </section>
  );
}

function KeepOnShelf() {
  const document = useDocument();
  const client = useQueryClient();
  const [said, setSaid] = useState<string | null>(null);
  const keep = async () => {
    try {
      const made = await get(api.POST("/api/woofers", { body: { document } }));
      setSaid(`${made.name} is on the shelf.`);
      await client.invalidateQueries(woofers());
    } catch (cause) {
      setSaid(cause instanceof Refused ? cause.message : "That did not work.");
    }
  };
  return (
    <div className="mt-2 flex items-baseline gap-2">
      <Button look="action" onClick={() => void keep()}>
        Keep it on the shelf
      </Button>
      <span role="status" className="text-xs text-soft">
        {said}
      </span>
    </div>
  );
}
