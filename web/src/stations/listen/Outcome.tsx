import type { ListeningOutcome, ListeningSession } from "../../api/client";
import { SavedTable } from "../../ui/Saved";
import { Head, Heads, Row, Value } from "../../ui/Table";
import { Ruler, type Mark } from "../../ui/Ruler";

/** What came of a session: a sentence, rulers with marks and ranges, and the tables behind them. */
export function Outcome({ outcome, session }: { outcome: ListeningOutcome; session: ListeningSession }) {
  return (
    <div className="space-y-4">
      <p className="max-w-3xl border-l-3 border-oak pl-3 text-base" data-testid="outcome">
        {outcome.sentence}
      </p>
      {outcome.difference && <Difference outcome={outcome} session={session} />}
      {outcome.scales.map((scale) => (
        <Scale key={scale.scale} scale={scale} outcome={outcome} />
      ))}
      {outcome.votes && <Votes outcome={outcome} votes={outcome.votes} />}
      <Taste outcome={outcome} />
      <ul className="max-w-3xl space-y-0.5 text-xs text-soft">
        <li>{outcome.conditions}</li>
        {outcome.warnings.map((w) => (
          <li key={w} className="border-l-2 border-ochre pl-2 text-ink">
            {w}
          </li>
        ))}
      </ul>
    </div>
  );
}

const percent = (share: number) => share * 100;

function Difference({ outcome, session }: { outcome: ListeningOutcome; session: ListeningSession }) {
  const method = session.test.kind === "difference" ? session.test.method : "abx";
  const chance = method === "triangle" ? 100 / 3 : 50;
  const all = outcome.difference;
  if (!all) return null;
  const mark = (
    name: string,
    d: { share: number; range: number[]; right: number; trials: number },
  ): Mark => ({
    name,
    at: percent(d.share),
    range: [percent(d.range[0] ?? 0), percent(d.range[1] ?? 1)],
    says: `${d.right} of ${d.trials}`,
  });
  const marks = [
    ...(outcome.listeners.length > 1 ? [mark("everybody", all)] : []),
    ...outcome.listeners.flatMap((l) => (l.difference ? [mark(l.name, l.difference)] : [])),
    ...outcome.difference_by_piece.map((p) =>
      mark(p.piece, { ...p, share: p.right / p.trials, range: p.range }),
    ),
  ];
  return (
    <Ruler
      title="Right answers, %"
      from={0}
      to={100}
      step={10}
      marks={marks}
      line={{ at: chance, says: "guessing" }}
      note="Bars are ranges of 95 % (Clopper and Pearson)."
    />
  );
}

type ScaleTold = ListeningOutcome["scales"][number];

function Scale({ scale, outcome }: { scale: ScaleTold; outcome: ListeningOutcome }) {
  const names = outcome.candidates;
  const whole = scale.by_listener.filter((row) => row.length);
  const marks: Mark[] = names.map((name, i) => ({
    name,
    at: scale.told.means[i] ?? NaN,
    range: (scale.told.ranges[i] as [number, number] | null | undefined) ?? undefined,
    dots: whole.map((row) => row[i] ?? NaN),
    says: scale.told.means[i]?.toFixed(1) ?? "",
  }));
  const pieces = scale.by_piece.flatMap((row, i) =>
    row.length ? [{ name: outcome.pieces[i] ?? "", row }] : [],
  );
  return (
    <section aria-label={`Scores, ${scale.scale}`} className="space-y-1">
      <Ruler title={scale.scale} from={1} to={10} step={1} marks={marks} />
      <p className="text-xs">{scale.sentence}</p>
      <details>
        <summary className="cursor-pointer text-xs text-soft">pairs, listeners, pieces</summary>
        <div className="grid gap-4 pt-1 xl:grid-cols-2">
          <SavedTable
            title={`${scale.scale}: pairs`}
            columns={["first", "second", "difference", "from", "to", "p", "p after Holm"]}
            rows={() =>
              scale.told.pairs.map((p) => [
                names[p.first],
                names[p.second],
                p.difference,
                p.range?.[0],
                p.range?.[1],
                p.p,
                p.p_adjusted,
              ])
            }
          >
            <table className="w-full text-xs">
              <Heads>
                <Head left>pair</Head>
                <Head>apart</Head>
                <Head>range</Head>
                <Head>p</Head>
                <Head>corrected</Head>
              </Heads>
              <tbody>
                {scale.told.pairs.map((p) => (
                  <Row key={`${p.first}-${p.second}`}>
                    <td>
                      {names[p.first]} less {names[p.second]}
                    </td>
                    <Value>{p.difference.toFixed(1)}</Value>
                    <Value>{p.range ? `${p.range[0]?.toFixed(1)} to ${p.range[1]?.toFixed(1)}` : "–"}</Value>
                    <Value>{p.p.toPrecision(2)}</Value>
                    <Value>{p.p_adjusted.toPrecision(2)}</Value>
                  </Row>
                ))}
              </tbody>
            </table>
          </SavedTable>
          <table className="w-full self-start text-xs">
            <Heads>
              <Head left>mean score</Head>
              {names.map((n) => (
                <Head key={n}>{n}</Head>
              ))}
            </Heads>
            <tbody>
              {outcome.listeners.map((l, i) => (
                <Means key={l.name} name={l.name} row={scale.by_listener[i] ?? []} count={names.length} />
              ))}
              {pieces.map((p) => (
                <Means key={p.name} name={p.name} row={p.row} count={names.length} />
              ))}
            </tbody>
          </table>
        </div>
      </details>
    </section>
  );
}

function Means({ name, row, count }: { name: string; row: number[]; count: number }) {
  return (
    <Row>
      <td>{name}</td>
      {Array.from({ length: count }, (_, i) => (
        <Value key={i}>{row[i]?.toFixed(1) ?? "–"}</Value>
      ))}
    </Row>
  );
}

function Votes({
  outcome,
  votes,
}: {
  outcome: ListeningOutcome;
  votes: NonNullable<ListeningOutcome["votes"]>;
}) {
  const order = outcome.candidates
    .map((name, i) => ({ name, s: votes.log_strengths[i] ?? 0, e: votes.errors[i] ?? 0, i }))
    .sort((a, b) => b.s - a.s);
  const reach = Math.max(1, ...order.map(({ s, e }) => Math.abs(s) + 1.96 * e));
  const wide = Math.ceil(reach * 2) / 2;
  const won = (i: number) => (outcome.wins[i] ?? []).reduce((sum, v) => sum + v, 0);
  return (
    <Ruler
      title="Strength by votes, log odds (Bradley and Terry)"
      from={-wide}
      to={wide}
      step={0.5}
      marks={order.map(({ name, s, e, i }) => ({
        name,
        at: s,
        range: [s - 1.96 * e, s + 1.96 * e],
        says: `${won(i)} won`,
      }))}
      line={{ at: 0, says: "as good as any" }}
      note="Bars are 1.96 standard errors either way."
    />
  );
}

/** How taste differs by listener, and what was noted. */
function Taste({ outcome }: { outcome: ListeningOutcome }) {
  const told = outcome.listeners.filter((l) => l.preferred || l.notes.length);
  if (!told.length) return null;
  return (
    <ul className="space-y-1" aria-label="Listeners">
      {told.map((l) => (
        <li key={l.name}>
          <span className="font-medium">{l.name}</span>
          {l.preferred && <> preferred {l.preferred}</>}
          {l.notes.length > 0 && (
            <ul className="pl-4 text-xs text-soft">
              {l.notes.map(({ hearing, note }) => (
                <li key={hearing}>
                  {hearing}: {note}
                </li>
              ))}
            </ul>
          )}
        </li>
      ))}
    </ul>
  );
}
