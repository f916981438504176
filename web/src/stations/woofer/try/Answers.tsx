import { Progress } from "../../../ui/Progress";
import { useSize } from "../../../app/settings";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { saveTable, type Cell } from "../../../lib/download";
import { plain } from "../../../lib/said";
import { api, get, type Trial, type TrialResult } from "../../../api/client";
import { rankingRules, trial as trialQuery } from "../../../api/queries";
import { tidy } from "../../../lib/quantity";
import { Button } from "../../../ui/Button";
import { Disclosure } from "../../../ui/Disclosure";
import { Select } from "../../../ui/Select";
import { Head, Heads } from "../../../ui/Table";

import { Result } from "./Result";
import { SizeAgainstNote } from "./SizeAgainstNote";
type Sort = "best" | "spare" | "reaches" | "f3" | "size" | "price" | "weight" | "name";
const SORTS: [Sort, string][] = [
  ["best", "best for the brief"],
  ["spare", "most to spare"],
  ["reaches", "deepest"],
  ["f3", "lowest f3"],
  ["size", "smallest"],
  ["price", "cheapest"],
  ["weight", "lightest"],
  ["name", "name"],
];

const PAGE = 50;

const COLUMNS = [
  "woofer",
  "maker",
  "count",
  "family",
  "verdict",
  "outside_l",
  "reaches_hz",
  "f3_hz",
  "spare_db",
  "price",
  "weight_kg",
  "because",
];
const row = ({ name, maker, price, weight_kg, outcome: o }: TrialResult): Cell[] => [
  name,
  maker,
  o.count,
  o.family,
  o.verdict,
  o.outside_l,
  o.reaches_hz,
  o.f3_hz,
  o.spare_db,
  price,
  weight_kg,
  plain(o.reason),
];

export function Answers({ trial }: { trial: Trial }) {
  const { id = "" } = useParams();
  const size = useSize();
  const client = useQueryClient();
  const [sort, setSort] = useState<Sort>("best");
  const [page, setPage] = useState(0);
  const last = Math.max(0, Math.ceil(trial.results / PAGE) - 1);
  const here = Math.min(page, last);
  const { data: results } = useQuery({
    queryKey: ["results", trial.id, sort, here, trial.results],
    queryFn: () =>
      get(
        api.GET("/api/trials/{id}/results", {
          params: { path: { id: trial.id }, query: { sort, offset: here * PAGE, limit: PAGE } },
        }),
      ),
    placeholderData: keepPreviousData,
    // only the page on screen is kept
    gcTime: 0,
  });
  /** All of them in the order shown, page by page. */
  const save = async () => {
    const all: TrialResult[] = [];
    for (let offset = 0; offset < trial.results; offset += PAGE) {
      const params = { path: { id: trial.id }, query: { sort, offset, limit: PAGE } };
      all.push(...(await get(api.GET("/api/trials/{id}/results", { params }))));
    }
    saveTable("Tried shelf", COLUMNS, all.map(row));
  };
  const turn = async (running: boolean) => {
    const params = { path: { id: trial.id } };
    const now = running
      ? await get(api.POST("/api/trials/{id}/resume", { params }))
      : await get(api.POST("/api/trials/{id}/stop", { params }));
    client.setQueryData(trialQuery(id).queryKey, now);
    await client.invalidateQueries(trialQuery(id));
  };
  const state =
    trial.state === "done"
      ? `${trial.done} woofers tried`
      : `${trial.done} of ${trial.woofers} woofers${trial.state === "stopped" ? ", stopped" : ""}`;
  return (
    <section aria-label="What came of it" className="flex min-h-0 flex-col">
      <div className="flex flex-wrap items-center gap-3 pb-1">
        <span role="status" data-testid="trial-state">
          {state} for {trial.goal.level_db} dB from {tidy(trial.goal.lowest_note_hz, 3)} Hz up in{" "}
          {size(trial.goal.largest_outside_l, "L")}: {trial.meet} of {trial.results} boxes do it
          {trial.given_up > 0 && `, ${trial.given_up} woofers given up`}
        </span>
        {trial.state === "running" && <Button onClick={() => void turn(false)}>Stop</Button>}
        {trial.state === "stopped" && (
          <Button look="action" onClick={() => void turn(true)}>
            Go on
          </Button>
        )}
        <span className="flex-1" />
        {trial.results > 0 && (
          <button type="button" className="text-xs text-soft hover:text-ink" onClick={() => void save()}>
            Save CSV
          </button>
        )}
        <Select
          label="Sorted by"
          value={sort}
          choices={SORTS.map(([v, t]) => [v, t])}
          onChange={(v) => {
            setSort(v as Sort);
            setPage(0);
          }}
        />
      </div>
      {trial.state !== "done" && <Progress label="Woofers tried" max={trial.woofers} value={trial.done} />}
      {results && (
        <Disclosure title="Drawn: how large, against how low">
          <SizeAgainstNote results={results} asked_hz={trial.goal.lowest_note_hz} />
        </Disclosure>
      )}
      <div className="min-h-0 flex-1 overflow-auto border-y border-rule" tabIndex={0} aria-label="Results">
        <table className="w-full text-left">
          <Heads>
            <th className="py-1 font-normal">woofer</th>
            <th className="font-normal">box</th>
            <Head className="px-1" unit="L" title="With the boards around it: an estimate">
              outside
            </Head>
            <Head className="px-1" title="Lowest note that comes as loud as asked">
              Hz
            </Head>
            <Head className="px-1" title="Level to spare at the worst place of the band">
              spare dB
            </Head>
            <Head className="px-1">price</Head>
            <th className="pl-2 font-normal">because</th>
            <td />
          </Heads>
          <tbody>
            {results?.map((r) => (
              <Result key={r.id} result={r} />
            ))}
          </tbody>
        </table>
      </div>
      <footer className="flex items-center gap-3 pt-1 text-soft">
        <Ranking />
        <span className="flex-1" />
        {last > 0 && (
          <>
            <Button disabled={here === 0} onClick={() => setPage(here - 1)}>
              Back
            </Button>
            <span>
              {here * PAGE + 1} to {Math.min((here + 1) * PAGE, trial.results)} of {trial.results}
            </span>
            <Button disabled={here === last} onClick={() => setPage(here + 1)}>
              On
            </Button>
          </>
        )}
      </footer>
    </section>
  );
}

/** The rules of the ranking in full: none is hidden. */
function Ranking() {
  const rules = useQuery(rankingRules()).data ?? [];
  return (
    <details className="relative">
      <summary className="cursor-pointer">How they are ranked</summary>
      <div className="absolute bottom-full left-0 z-20 w-96 rounded-sm border border-rule bg-panel p-3 text-ink">
        <p>
          Boxes that do all that is asked come first, then those that fall short, then those that do not fit.
          Among them the least sum counts:
        </p>
        <ul className="list-disc pl-4">
          {rules.map((r) => (
            <li key={r.id}>{r.sentence}</li>
          ))}
        </ul>
      </div>
    </details>
  );
}
