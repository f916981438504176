import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, get, type Habits } from "../../api/client";
import { useFigure, useSettings } from "../../app/settings";
import { inSystem, printUnit } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Ruler, type Mark } from "../../ui/Ruler";
import { SavedTable } from "../../ui/Saved";
import { Say } from "../../ui/Say";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";
import { useDocument, usePart, useWorkbench } from "../../workbench/context";

type Figure = Habits["boxes"][number]["figures"][number];

/** By how much a figure came out otherwise than reckoned, per cent. */
const off = (f: Figure) => (f.reckoned ? (f.measured / f.reckoned - 1) * 100 : undefined);
const percent = (value: number) => {
  const told = Math.abs(value).toFixed(1);
  return Number(told) === 0 ? "0 %" : `${value < 0 ? "−" : "+"}${told} %`;
};

/** How the workshop's measured boxes came out against what was reckoned, and what of it this design may be reckoned with. */
export function HabitsView() {
  const document = useDocument();
  const build = usePart((b) => b.build.id);
  const { data, isError } = useQuery({
    queryKey: ["habits", build, document],
    queryFn: ({ signal }) =>
      get(api.POST("/api/builds/{id}/habits", { params: { path: { id: build } }, body: document, signal })),
    placeholderData: keepPreviousData,
    // others may be measured meanwhile
    staleTime: 30_000,
  });
  return (
    <section aria-label="Habits" className="min-w-0 max-w-3xl space-y-4">
      <p>
        Every box of this workshop whose impedance was measured, held against what was reckoned for it. What
        comes out alike again and again is no mistake but a habit: the next box may be reckoned with it.
      </p>
      {!data && (
        <p className="text-soft">{isError ? "The server does not answer." : "Fitting your boxes…"}</p>
      )}
      {data && (data.boxes.length ? <Found habits={data} /> : <Nothing />)}
    </section>
  );
}

const Nothing = () => (
  <p className="text-soft">
    No box was measured yet. Take the impedance of a finished one at its terminals, in Prove: it needs no
    microphone.
  </p>
);

function Found({ habits }: { habits: Habits }) {
  const workbench = useWorkbench();
  const others = habits.boxes.filter((b) => !b.own);
  const marks: Mark[] = habits.habits.flatMap((h) => {
    if (h.off_percent == null) return [];
    const s = h.scatter_percent;
    return [
      {
        name: h.title,
        at: h.off_percent,
        range: s == null ? undefined : ([h.off_percent - s, h.off_percent + s] as [number, number]),
        dots: others.flatMap((b) => b.figures.filter((f) => f.of === h.of).flatMap((f) => off(f) ?? [])),
        says: percent(h.off_percent),
      },
    ];
  });
  const reach = Math.max(
    5,
    ...marks.flatMap((m) => [m.at, ...(m.range ?? []), ...(m.dots ?? [])]).map((v) => Math.abs(v)),
  );
  const step = reach > 40 ? 20 : reach > 20 ? 10 : reach > 10 ? 5 : 2.5;
  const end = Math.ceil(reach / step) * step;
  return (
    <>
      {marks.length > 0 && (
        <Ruler
          title="Measured against reckoned, per cent"
          from={-end}
          to={end}
          step={step}
          marks={marks}
          line={{ at: 0, says: "as reckoned" }}
          note="A stroke is a box, the diamond their mean, the bar their scatter."
        />
      )}
      <ul className="space-y-1" data-testid="habits">
        {habits.habits.map((h) => (
          <li key={h.of}>
            <Say text={h.sentence} />
          </li>
        ))}
        {!habits.habits.length && (
          <li className="text-soft">Only this build was measured: no other says more.</li>
        )}
      </ul>
      {habits.corrections.map((c) => (
        <div key={c.id} className="border-l-3 border-rule pl-2.5">
          <p>
            <Say text={c.sentence} />
          </p>
          <Button look="action" className="mt-1 bg-panel" onClick={() => workbench.take(c.title, c.changes)}>
            <Say text={c.title} />
          </Button>
        </div>
      ))}
      <Boxes boxes={habits.boxes} titles={titles(habits)} />
    </>
  );
}

/** What each figure is called, those of boxes alone too. */
const titles = (habits: Habits): Record<string, string> => ({
  tuning: "tuning",
  volume: "net volume",
  ends: "ends",
  half_power: "f3",
  leak: "QL",
  ...Object.fromEntries(habits.habits.map((h) => [h.of, h.title])),
});

const UNITS: Record<string, string> = { tuning: "Hz", half_power: "Hz", volume: "L" };

function Boxes({ boxes, titles }: { boxes: Habits["boxes"]; titles: Record<string, string> }) {
  const figure = useFigure();
  const { system } = useSettings();
  const rows = boxes.flatMap((b) => b.figures.map((f) => ({ b, f })));
  return (
    <SavedTable
      title="Box by box"
      note="Each is fitted with its woofer as its sheet has it: a woofer that differs from its sheet is in here too."
      columns={["build", "revision", "figure", "reckoned", "measured", "off_percent"]}
      rows={() => rows.map(({ b, f }) => [b.build, b.revision, f.of, f.reckoned, f.measured, off(f)])}
    >
      <table className="w-full text-xs [&_td]:pl-2" data-testid="boxes">
        <Heads>
          <Head left>box</Head>
          <Head left>figure</Head>
          <Head className="pl-2">reckoned</Head>
          <Head className="pl-2">measured</Head>
          <Head className="pl-2">off</Head>
        </Heads>
        <tbody>
          {rows.map(({ b, f }, i) => {
            const first = rows[i - 1]?.b !== b;
            const by = off(f);
            return (
              <Row key={`${b.build} ${b.revision} ${f.of}`}>
                <Name>
                  <span className={first ? "" : "sr-only"}>
                    {b.build}, {b.revision}
                  </span>
                  {first && b.own && <span className="text-soft"> (this build)</span>}
                </Name>
                <td>
                  {titles[f.of] ?? f.of}
                  {UNITS[f.of] && (
                    <span className="text-soft">, {printUnit(inSystem(UNITS[f.of] ?? "", system).unit)}</span>
                  )}
                </td>
                <Value>{f.reckoned == null ? "–" : figure(f.reckoned, UNITS[f.of] ?? "")}</Value>
                <Value>{figure(f.measured, UNITS[f.of] ?? "")}</Value>
                <Value className="whitespace-nowrap">
                  {by === undefined || f.of === "leak" ? "" : percent(by)}
                </Value>
              </Row>
            );
          })}
        </tbody>
      </table>
    </SavedTable>
  );
}
