import { useAnswer } from "../../../api/answer";
import { api, get, type Shift, type ShelfWoofer } from "../../../api/client";
import { tidy } from "../../../lib/quantity";
import { PROVENANCE, sheetWith } from "../../../lib/shelf";
import { useDocument } from "../../../workbench/context";
import { Head, Heads, Row, Value } from "../../../ui/Table";

/** How the figures moved from set to set, and what that does in the box of the revision being edited. */
export function MeasurementLog({ document }: { document: ShelfWoofer }) {
  const design = useDocument();
  const sheets = document.sets.map((_, i) => sheetWith(document, i));
  const ask = (signal: AbortSignal) =>
    get(api.POST("/api/woofers/in-box", { body: { document: design, sheets }, signal }));
  const found = useAnswer("log", [design, sheets], ask, 250)?.sets ?? [];
  const first = found[0];
  const moved = (now: number | undefined, before: number | undefined) => {
    if (now === undefined) return "–";
    const change = before && now !== before ? ((now / before - 1) * 100).toFixed(0) : "";
    return (
      <>
        {tidy(now, 3)}
        {change && change !== "0" && change !== "-0" && (
          <span className="block text-[10px] whitespace-nowrap text-soft">
            {Number(change) > 0 ? "+" : ""}
            {change} %
          </span>
        )}
      </>
    );
  };
  return (
    <div>
      <h3 className="font-display text-base font-semibold">How it moved</h3>
      <table className="w-full font-mono text-[11px] tabular-nums" data-testid="log">
        <Heads>
          <Head left>set</Head>
          <Head className="pl-1">fs</Head>
          <Head className="pl-1">Qts</Head>
          <Head className="pl-1">Vas</Head>
          <Head title="In the box of the revision being edited">f3 here</Head>
          <Head
            className="pl-1"
            title="Where the level moves most between the lowest note and 200 Hz, against the first set"
          >
            level moves
          </Head>
        </Heads>
        <tbody>
          {document.sets.map((set, i) => {
            const here = found[i];
            const w = here?.woofer;
            return (
              <Row key={i} className="align-top">
                <td className="py-1 pr-1 font-sans">
                  {PROVENANCE[set.provenance]}
                  <span className="block text-[10px] text-soft">
                    {[
                      set.date,
                      set.by,
                      set.hours ? `${set.hours} h` : "",
                      set.drive_v ? `${set.drive_v} V` : "",
                    ]
                      .filter(Boolean)
                      .join(", ")}
                  </span>
                </td>
                <Value className="py-1 pl-1">{moved(w?.fs_hz, first?.woofer.fs_hz)}</Value>
                <Value className="py-1 pl-1">{moved(w?.qts, first?.woofer.qts)}</Value>
                <Value className="py-1 pl-1">{moved(w?.vas_l, first?.woofer.vas_l)}</Value>
                <Value className="py-1 pl-1">
                  {moved(here?.f3_hz ?? undefined, first?.f3_hz ?? undefined)}
                </Value>
                <Value className="py-1 pl-1">{said(here?.shift)}</Value>
              </Row>
            );
          })}
        </tbody>
      </table>
      <p className="pt-1 text-xs text-soft">
        f3 and the level are computed in the box of the revision being edited. A softer or stiffer suspension
        moves fs, Qts and Vas together, so the box hardly notices.
      </p>
    </div>
  );
}

function said(shift: Shift | null | undefined) {
  if (!shift) return "–";
  return (
    <>
      {shift.by_db < 0 ? "−" : "+"}
      {Math.abs(shift.by_db).toFixed(1)} dB
      <span className="block text-[10px] whitespace-nowrap text-soft">at {tidy(shift.at_hz, 2)} Hz</span>
    </>
  );
}
