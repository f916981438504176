import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, get, Refused, type Goal, type Trial, type TrialResult } from "../../../api/client";
import { families, rankingRules, trial as trialQuery, woofers } from "../../../api/queries";
import { tidy } from "../../../lib/quantity";
import { passes } from "../../../lib/shelf";
import { Button } from "../../../ui/Button";
import { Select, SchemaForm } from "../../../ui/SchemaForm";
import { useDocument, useWorkbench } from "../../../workbench/context";
import { narrowed, useChoice } from "../shelf/filter";
import { Say } from "../../../ui/Say";

const ASKED = ["lowest_note_hz", "level_db", "distance_m", "largest_outside_l", "amplifier"];
const ASSUMED = { "/brief/distance_m": "1 assumed" };
const PAGE = 50;

/** The whole shelf against the brief: for each woofer, number and family the best box, ranked by stated rules. */
export function TryView() {
  const { id = "" } = useParams();
  const { data: trial } = useQuery(trialQuery(id));
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[262px_minmax(0,1fr)]">
      <Question trial={trial ?? undefined} />
      {trial ? (
        <Answers trial={trial} />
      ) : (
        <div className="max-w-prose pt-2 text-soft">
          <p>
            For each woofer of the shelf, alone and in numbers, the best box and tuning for this brief is
            searched for and computed. Those that do what is asked come first, each with the reason why it
            stands where it stands.
          </p>
        </div>
      )}
    </div>
  );
}

function Question({ trial }: { trial: Trial | undefined }) {
  const { id = "" } = useParams();
  const document = useDocument();
  const { filter } = useChoice();
  const shelf = useQuery(woofers()).data ?? [];
  const list = (useQuery(families()).data ?? []).filter((f) => f.searched);
  const [counts, setCounts] = useState([1, 2]);
  const [left, setLeft] = useState<string[]>([]);
  const [air, setAir] = useState<Goal["port_air"]>("quiet");
  const [fits, setFits] = useState(true);
  const [wrong, setWrong] = useState<string | null>(null);
  const client = useQueryClient();
  const some = narrowed(filter);
  const tried = some ? shelf.filter((line) => passes(line, filter)) : shelf;
  const brief = document.brief ?? {};
  const { lowest_note_hz, level_db, largest_outside_l } = brief;
  const open = [
    lowest_note_hz ? "" : "the lowest note",
    level_db ? "" : "the level",
    largest_outside_l ? "" : "the largest box",
  ].filter(Boolean);
  const chosen = list.map((f) => f.id).filter((f) => !left.includes(f));
  const running = trial?.state === "running";

  const begin = async () => {
    if (!lowest_note_hz || !level_db || !largest_outside_l) return;
    setWrong(null);
    const goal: Goal = {
      lowest_note_hz,
      level_db,
      largest_outside_l,
      distance_m: brief.distance_m ?? 1,
      port_air: air,
      port_fits: fits,
      ...(brief.amplifier && { amplifier: brief.amplifier }),
      ...(document.listening?.solid_angle && { solid_angle: document.listening.solid_angle }),
      ...(document.source && { source: document.source }),
      ...(document.air && { air: document.air }),
    };
    const body = {
      goal,
      counts,
      families: chosen,
      ...(some && { woofers: tried.map((line) => line.id) }),
    };
    try {
      const made = await get(api.POST("/api/builds/{id}/trial", { params: { path: { id } }, body }));
      client.setQueryData(trialQuery(id).queryKey, made);
      await client.invalidateQueries(trialQuery(id));
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    }
  };
  const toggle = (n: number) =>
    setCounts((old) => (old.includes(n) ? old.filter((x) => x !== n) : [...old, n].sort()));
  return (
    <section aria-label="What is asked" className="min-h-0 overflow-y-auto pr-1">
      <SchemaForm pointer="/brief" only={ASKED} assumed={ASSUMED} />
      <fieldset className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
        <legend className="float-left flex-1 text-soft">Woofers in it</legend>
        <span className="ml-auto flex gap-2">
          {[1, 2, 4].map((n) => (
            <label key={n} className="flex items-center gap-1">
              <input
                type="checkbox"
                className="accent-oak"
                checked={counts.includes(n)}
                onChange={() => toggle(n)}
              />
              {n}
            </label>
          ))}
        </span>
      </fieldset>
      <fieldset className="border-b border-rule/70 py-[5px]">
        <legend className="sr-only">Families</legend>
        {list.map((f) => (
          <label key={f.id} className="flex items-center gap-1.5" title={f.summary}>
            <input
              type="checkbox"
              className="accent-oak"
              checked={!left.includes(f.id)}
              onChange={() =>
                setLeft((old) => (old.includes(f.id) ? old.filter((x) => x !== f.id) : [...old, f.id]))
              }
            />
            {f.title}
          </label>
        ))}
      </fieldset>
      <div className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
        <span className="flex-1 text-soft">Air in the port</span>
        <Select
          label="Air in the port"
          value={air ?? "quiet"}
          choices={[
            ["quiet", "quiet", "17 m/s with straight ends, 34 with flared ones (common practice)"],
            ["contest", "contest", "as fast as it likes"],
          ]}
          onChange={(v) => setAir(v as Goal["port_air"])}
        />
      </div>
      <label className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
        <span className="flex-1 text-soft">Port has to fit in straight</span>
        <input
          type="checkbox"
          className="accent-oak"
          checked={fits}
          onChange={(e) => setFits(e.target.checked)}
        />
      </label>
      <p className="py-2 text-soft">
        {some
          ? `The ${tried.length} woofers the shelf is narrowed to.`
          : `All ${tried.length} woofers of the shelf.`}
      </p>
      <Button
        look="strong"
        disabled={running || open.length > 0 || !tried.length || !counts.length || !chosen.length}
        onClick={() => void begin()}
      >
        Try {tried.length} woofers
      </Button>
      {open.length > 0 && (
        <p role="status" className="pt-1 text-ochre">
          The brief still needs {open.join(", ")}.
        </p>
      )}
      {wrong && (
        <p role="alert" className="pt-1 text-brick">
          {wrong}
        </p>
      )}
    </section>
  );
}

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

function Answers({ trial }: { trial: Trial }) {
  const { id = "" } = useParams();
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
          {tidy(trial.goal.largest_outside_l, 3)} L: {trial.meet} of {trial.results} boxes do it
          {trial.given_up > 0 && `, ${trial.given_up} woofers given up`}
        </span>
        {trial.state === "running" && <Button onClick={() => void turn(false)}>Stop</Button>}
        {trial.state === "stopped" && (
          <Button look="action" onClick={() => void turn(true)}>
            Go on
          </Button>
        )}
        <span className="flex-1" />
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
      {trial.state !== "done" && (
        <progress
          aria-label="Woofers tried"
          className="h-1.5 w-full accent-oak"
          max={trial.woofers}
          value={trial.done}
        />
      )}
      <div className="min-h-0 flex-1 overflow-auto border-y border-rule" tabIndex={0} aria-label="Results">
        <table className="w-full text-left">
          <thead className="sticky top-0 bg-ground text-xs text-soft">
            <tr>
              <th className="py-1 font-normal">woofer</th>
              <th className="font-normal">box</th>
              <th className="px-1 text-right font-normal" title="Outside, with 18 mm boards: an estimate">
                L
              </th>
              <th className="px-1 text-right font-normal" title="Lowest note that comes as loud as asked">
                Hz
              </th>
              <th
                className="px-1 text-right font-normal"
                title="Level to spare at the worst place of the band"
              >
                spare dB
              </th>
              <th className="px-1 text-right font-normal">price</th>
              <th className="pl-2 font-normal">because</th>
              <td />
            </tr>
          </thead>
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

const number = (value: number | null | undefined, digits = 3) =>
  typeof value === "number" ? tidy(value, digits) : "–";

function Result({ result }: { result: TrialResult }) {
  const { id = "" } = useParams();
  const workbench = useWorkbench();
  const navigate = useNavigate();
  const rules = useQuery(rankingRules()).data ?? [];
  const [wrong, setWrong] = useState<string | null>(null);
  const o = result.outcome;
  const list = useQuery(families()).data ?? [];
  const family = list.find((f) => f.id === o.family)?.title ?? o.family;
  const charges = (o.charges_db ?? []).map((c, i) => `${rules[i]?.id ?? ""} ${c.toFixed(2)} dB`).join(", ");
  const open = async () => {
    const current = workbench.current?.document;
    if (!current) return;
    try {
      const params = { path: { id: result.id } };
      const found = await get(api.GET("/api/trials/results/{id}/design", { params }));
      const rest = { ...current };
      // the old cabinet belongs to the old box
      delete rest.cabinet;
      await workbench.openAsRevision({
        ...rest,
        name: `${o.count > 1 ? `${o.count} x ` : ""}${result.name}, ${family.toLowerCase()}`,
        woofer: found.woofer,
        enclosure: found.enclosure,
        ...(found.array && { array: found.array }),
      });
      await navigate(`/builds/${id}/box`);
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    }
  };
  const look = { meets: "text-verdigris", short: "", no_fit: "text-ochre", not_tried: "text-soft" }[
    o.verdict
  ];
  return (
    <tr className="border-t border-rule/60 align-top hover:bg-panel" data-verdict={o.verdict}>
      <td className="max-w-44 truncate py-1" title={result.maker}>
        {o.count > 1 && <b>{o.count} x </b>}
        {result.name}
      </td>
      <td className="py-1">{family}</td>
      <td className="px-1 py-1 text-right font-mono text-xs">{number(o.outside_l)}</td>
      <td className="px-1 py-1 text-right font-mono text-xs">{number(o.reaches_hz)}</td>
      <td className="px-1 py-1 text-right font-mono text-xs">
        {typeof o.spare_db === "number"
          ? o.spare_db.toFixed(1).replace("-0.0", "0.0").replace("-", "−")
          : "–"}
      </td>
      <td className="px-1 py-1 text-right font-mono text-xs">{number(result.price, 4)}</td>
      <td className={`py-1 pl-2 leading-tight ${look}`} title={charges && `Charged: ${charges}`}>
        <Say text={o.reason} />
        {wrong && (
          <span role="alert" className="block text-brick">
            {wrong}
          </span>
        )}
      </td>
      <td className="py-1 text-right">
        {o.enclosure && (
          <button
            type="button"
            className="text-oak hover:underline"
            aria-label={`Open ${o.count} x ${result.name}, ${family} as a revision`}
            title="Opens it as the next revision of this build"
            onClick={() => void open()}
          >
            open
          </button>
        )}
      </td>
    </tr>
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
