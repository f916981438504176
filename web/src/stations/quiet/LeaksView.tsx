import { tidy } from "../../lib/quantity";
import { Plot } from "../../ui/Plot";
import { Saved, SavedTable } from "../../ui/Saved";
import { SchemaForm } from "../../ui/SchemaForm";
import { useQuiet } from "./useQuiet";
import type { components } from "../../api/types";
import { Say } from "../../ui/Say";
import { useFigure, useSize } from "../../app/settings";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";

type Leaks = components["schemas"]["Leaks"];

/** How large a gap ruins this box. */
export function LeaksView() {
  const quiet = useQuiet();
  if (!quiet) return <p className="text-soft">Computing…</p>;
  if (!quiet.leaks.length)
    return (
      <p className="text-soft">Leaks are not stated by a loss factor in this family; seal it all the same.</p>
    );
  return (
    <section aria-label="Leaks" className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[306px_minmax(0,1fr)]">
      <div>
        <SchemaForm
          pointer="/enclosure"
          only={quiet.leaks.map((l) => l.pointer.split("/").at(-1) ?? "")}
          open={["Fill and losses", "Rear chamber's fill and losses"]}
        />
        <p className="pt-2 text-xs text-soft">
          Airtight means: gaskets under woofer, amplifier and flange, glue along every joint, the cable&apos;s
          hole filled. A leak sounds like paper flapping at high stroke.
        </p>
      </div>
      <div className="min-w-0 space-y-8">
        {quiet.leaks.map((leaks) => (
          <Chamber key={leaks.pointer} leaks={leaks} alone={quiet.leaks.length === 1} />
        ))}
      </div>
    </section>
  );
}

/** What leaks cost one chamber. */
function Chamber({ leaks, alone }: { leaks: Leaks; alone: boolean }) {
  const size = useSize();
  const figure = useFigure();
  const gaps = leaks.rows.map((r) => r.gap_mm2);
  return (
    <div className="space-y-4">
      {!alone && <h3 className="font-display font-semibold">{leaks.title}</h3>}
      <p className="max-w-2xl font-display text-lg leading-snug" data-testid="leaks">
        <Say text={leaks.sentence} />
      </p>
      <Saved
        title="What leaks cost"
        note={`at ${tidy(leaks.at_hz, 3)} Hz, against the airtight box`}
        table={{
          columns: ["q", "gap_mm2", "joint_length_mm", "lost_db"],
          rows: () => leaks.rows.map((r) => [r.q, r.gap_mm2, r.joint_length_mm, r.lost_db]),
        }}
      >
        <Plot
          x={gaps}
          title="Level lost"
          unit="dB"
          range={[0, Math.max(...leaks.rows.map((r) => r.lost_db))]}
          curves={[{ values: leaks.rows.map((r) => r.lost_db) }]}
          ticks={[0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000]}
          xUnit="mm2"
          width={560}
          height={130}
          at={leaks.ruins_mm2 ?? undefined}
        />
      </Saved>
      <SavedTable
        title="From tight to ruined"
        note={`a joint ${size(leaks.joint_mm, "travel")} open: an estimate`}
        columns={["q", "gap_mm2", "joint_length_mm", "lost_db"]}
        rows={() => leaks.rows.map((r) => [r.q, r.gap_mm2, r.joint_length_mm, r.lost_db])}
      >
        <table className="w-full max-w-xl text-xs" data-testid="leak-rows">
          <Heads>
            <Head left>QL</Head>
            <Head unit="mm2">gap</Head>
            <Head unit="mm">open joint</Head>
            <Head>costs, dB</Head>
          </Heads>
          <tbody className="font-mono tabular-nums">
            {leaks.rows.map((r) => (
              <Row key={r.q}>
                <Name>{r.q}</Name>
                <Value>{figure(r.gap_mm2, "mm2", 2)}</Value>
                <Value>{figure(r.joint_length_mm, "mm", 2)}</Value>
                <Value>{r.lost_db.toFixed(2)}</Value>
              </Row>
            ))}
          </tbody>
        </table>
      </SavedTable>
    </div>
  );
}
