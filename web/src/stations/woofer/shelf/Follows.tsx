import { type Derived, type ShelfWoofer } from "../../../api/client";
import { FIGURES } from "../../../lib/shelf";
import { MeasurementLog } from "./MeasurementLog";
import { plain } from "../../../lib/said";
import { useSay } from "../../../app/settings";

/** What follows from the set that is shown: what is missing, what contradicts itself, what custom reads, the log. */
export function Follows({
  document,
  index,
  derived,
}: {
  document: ShelfWoofer;
  index: number;
  derived: Derived | undefined;
}) {
  const say = useSay();
  const figures: Record<string, unknown> = document.sets[index]?.figures ?? {};
  const given = FIGURES.filter((f) => figures[f] !== undefined).length;
  const doubts = derived?.contradictions.filter((c) => c.matters) ?? [];
  return (
    <section aria-label="What follows" className="space-y-3 pb-3">
      <div>
        <h3 className="font-display text-base font-semibold">What follows</h3>
        {!derived?.woofer ? (
          <ul className="list-none text-ochre" role="status">
            {(derived?.problems ?? []).map((p) => (
              <li key={p.field + plain(p.message)}>
                <span className="font-mono text-xs">{p.field}</span>: {say(p.message).split(";")[0]}
              </li>
            ))}
            <li className="text-soft">
              fs, Qms, Qes (or Qts), Vas, Re and Sd are enough; Mms, Cms, Rms and Bl can stand for some of
              them.
            </li>
          </ul>
        ) : (
          <p className="text-soft">
            {given} figures given, the rest derived; grey figures in the fields are what would be used.
          </p>
        )}
      </div>
      {derived?.woofer && (
        <div data-testid="doubts">
          {doubts.length === 0 ? (
            <p className="text-verdigris">What is given goes together.</p>
          ) : (
            doubts.map((c) => (
              <p key={c.field} className="mb-2 border-l-2 border-ochre pl-2" data-field={c.field}>
                {c.sentence}
              </p>
            ))
          )}
        </div>
      )}
      {derived && derived.indications.length > 0 && (
        <div>
          <h3 className="font-display text-base font-semibold">What custom reads out of it</h3>
          {derived.indications.map((i) => (
            <p key={i.school} className="text-soft">
              {i.sentence}
            </p>
          ))}
          <p className="text-xs text-soft">
            Indications by common practice, not verdicts: the box is computed.
          </p>
        </div>
      )}
      {document.sets.length > 1 && <MeasurementLog document={document} />}
    </section>
  );
}
