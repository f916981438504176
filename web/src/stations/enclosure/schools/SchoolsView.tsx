import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useAnswer } from "../../../api/answer";
import { api, get, Refused, type Suggestion } from "../../../api/client";
import { families } from "../../../api/queries";
import { useSize } from "../../../app/settings";
import { tidy } from "../../../lib/quantity";
import { Button } from "../../../ui/Button";
import { Select } from "../../../ui/Select";
import { useDocument, useWorkbench } from "../../../workbench/context";
import { FamilyMark } from "../FamilyMark";
import { HERTZ, levels } from "../../../lib/axis";
import { Plot } from "../../../ui/Plot";
import { Saved } from "../../../ui/Saved";
import { Say } from "../../../ui/Say";

/** The first of each main family, for a first look. */
const FIRST = [
  "sealed_qtc_0.707",
  "vented_flattest",
  "vented_oversize",
  "passive_radiator_flat",
  "transmission_line_tapered",
  "front_horn_quarter",
];

/** Starting points side by side: what each school would build for this woofer, with curves and figures. */
export function SchoolsView() {
  const document = useDocument();
  const list = useQuery(families()).data ?? [];
  const [family, setFamily] = useState("first");
  const parts = [document.woofer, document.array, document.chain, document.air];
  const ask = async (signal: AbortSignal) =>
    (await get(api.POST("/api/suggest", { body: document, signal }))).suggestions;
  const suggestions = useAnswer("suggest", parts, ask) ?? [];
  const shown =
    family === "first"
      ? FIRST.flatMap((id) => suggestions.find((s) => s.id === id) ?? [])
      : suggestions.filter((s) => s.enclosure?.family === family || s.id.startsWith(`${family}_`));
  return (
    <section aria-label="Schools" className="min-h-0 flex-1">
      <div className="flex flex-wrap items-center gap-2 pb-2">
        <span className="text-soft">
          What each school would build for {document.woofer.name || "this woofer"}; the dashed curve is the
          revision being edited.
        </span>
        <span className="flex-1" />
        <Select
          label="Schools of"
          value={family}
          choices={[["first", "one of each"], ...list.map((f): [string, string] => [f.id, f.title])]}
          onChange={setFamily}
        />
      </div>
      <ul className="grid grid-cols-1 gap-3 md:grid-cols-2 xl:grid-cols-3">
        {shown.map((s) => (
          <School key={s.id} suggestion={s} />
        ))}
      </ul>
    </section>
  );
}

function School({ suggestion }: { suggestion: Suggestion }) {
  const size = useSize();
  const { id = "" } = useParams();
  const document = useDocument();
  const workbench = useWorkbench();
  const navigate = useNavigate();
  const now = workbench.current?.evaluation;
  const [wrong, setWrong] = useState<string>();
  const { enclosure } = suggestion;
  const parts = [enclosure, document.woofer, document.array, document.drive, document.listening];
  const ask = (signal: AbortSignal) =>
    get(
      api.POST("/api/evaluate", {
        params: { query: { detail: "lanes" } },
        body: { ...document, enclosure: enclosure ?? document.enclosure, cabinet: undefined },
        signal,
      }),
    );
  const found = useAnswer("school", enclosure ? parts : undefined, ask);
  const open = async () => {
    if (!enclosure) return;
    try {
      const rest = { ...document };
      // the old cabinet belongs to the old box
      delete rest.cabinet;
      await workbench.openAsRevision({ ...rest, name: suggestion.title, enclosure });
      await navigate(`/builds/${id}/box`);
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    }
  };
  const level = found?.curves.level_db ?? [];
  const litres = found?.summary.chambers.reduce((sum, c) => sum + c.net_l, 0);
  const delay = found?.summary.compared.delay_ms;
  const port = found?.ports[0];
  const stroke = found?.summary.compared.excursion_mm;
  return (
    <li
      className={`flex flex-col gap-1 border border-rule p-2 ${enclosure ? "" : "opacity-70"}`}
      data-school={suggestion.id}
    >
      <h2 className="flex items-center gap-1.5 font-display text-base leading-tight font-semibold">
        <FamilyMark id={enclosure?.family ?? suggestion.id.replace(/_[^_]*$/, "")} />
        {suggestion.title}
      </h2>
      <p className="text-xs text-soft">
        <Say text={suggestion.sentence} />
      </p>
      {enclosure ? (
        <>
          <Saved
            title={suggestion.title}
            quiet
            table={{
              columns: ["frequency_hz", "level_db"],
              rows: () => (found?.curves.frequency_hz ?? []).map((f, i) => [f, level[i]]),
            }}
          >
            <Plot
              title="Level"
              unit="dB"
              x={found?.curves.frequency_hz ?? []}
              across={[10, 300]}
              ticks={HERTZ}
              xUnit="Hz"
              width={330}
              range={levels(Math.max(...level.slice(0, 300), 60), 35)}
              curves={[
                {
                  values: now?.curves.level_db ?? [],
                  x: now?.curves.frequency_hz,
                  colour: "var(--soft)",
                  dash: "3 3",
                  width: 1,
                },
                { values: level },
              ]}
            />
          </Saved>
          <dl className="grid grid-cols-4 gap-x-2 text-xs">
            <Figure name="air" value={found && litres ? size(litres, "L") : "–"} />
            <Figure name="f3" value={found?.summary.f3_hz ? `${tidy(found.summary.f3_hz, 2)} Hz` : "–"} />
            <Figure name="delay" value={delay === undefined ? "–" : `${tidy(delay, 2)} ms`} />
            {port ? (
              <Figure name="port" value={size(Math.round(port.length_mm), "mm")} />
            ) : found?.path ? (
              <Figure name="length" value={size((found.path.at_mm.at(-1) ?? 0) / 1000, "m", 2)} />
            ) : (
              <Figure name="stroke" value={stroke === undefined ? "–" : size(stroke, "travel", 2)} />
            )}
          </dl>
          <span className="flex-1" />
          <Button
            look="action"
            onClick={() => void open()}
            aria-label={`Make it a revision: ${suggestion.title}`}
          >
            Make it a revision
          </Button>
          {wrong && (
            <p role="alert" className="text-brick">
              {wrong}
            </p>
          )}
        </>
      ) : (
        <p className="text-xs text-ochre">This woofer cannot do it.</p>
      )}
    </li>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt className="text-soft">{name}</dt>
      <dd className="font-mono tabular-nums">{value}</dd>
    </div>
  );
}
