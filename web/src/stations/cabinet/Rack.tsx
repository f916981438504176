import type { Cutting } from "../../api/client";
import { useSize } from "../../app/settings";
import { useWorkshop, workshop, type RackPiece } from "../../app/workshop";
import type { Design } from "../../api/client";
import { Button } from "../../ui/Button";
import { useCurrentPart, useDocument, usePart, useWorkbench } from "../../workbench/context";

type Offcut = NonNullable<NonNullable<NonNullable<Design["cabinet"]>["saw"]>["offcuts"]>[number];

const isIt = (piece: RackPiece, offcut: Offcut) =>
  piece.length_mm === offcut.length_mm &&
  piece.width_mm === offcut.width_mm &&
  piece.thickness_mm === offcut.thickness_mm;

/** Pieces on the workshop's rack that this cabinet can be sawn from, and what its own sheets leave for the rack. */
export function Rack({ cutting }: { cutting: Cutting }) {
  const document = useDocument();
  const workbench = useWorkbench();
  const size = useSize();
  const name = usePart((b) => b.build.name);
  const letter = useCurrentPart((r) => r.letter);
  const rack = useWorkshop()?.rack;
  const cabinet = document.cabinet;
  if (!cabinet) return null;
  const from = `${name}, ${letter}`;
  const board = cabinet.board ?? "mdf";
  const used = cabinet.saw?.offcuts ?? [];
  const thick = cutting.stocks.map((s) => s.thickness_mm);
  const fits = (p: RackPiece) =>
    p.board === board && p.from !== from && thick.some((t) => Math.abs(t - p.thickness_mm) < 0.5);
  const there = (rack ?? []).filter(fits);
  const free = there.filter((p) => !used.some((u) => isIt(p, u)));
  const kept = (rack ?? []).filter((p) => p.from === from);
  const words = (p: { length_mm: number; width_mm: number; thickness_mm: number }) =>
    `${size(p.length_mm, "mm", 4)} x ${size(p.width_mm, "mm", 4)}, ${size(p.thickness_mm, "mm")}`;
  const use = (p: RackPiece) => {
    const { length_mm, width_mm, thickness_mm } = p;
    workbench.change([
      {
        pointer: "/cabinet/saw",
        value: { ...cabinet.saw, offcuts: [...used, { length_mm, width_mm, thickness_mm }] },
      },
    ]);
  };
  // of boards other than the walls' the rack would not know the material
  const left: RackPiece[] = cutting.stocks
    .filter((s) => s.of === board)
    .flatMap((s) =>
      s.layout.left.map((l) => ({
        board,
        length_mm: Math.floor(l.length_mm),
        width_mm: Math.floor(l.width_mm),
        thickness_mm: s.thickness_mm,
        from,
      })),
    );
  const sawn = () =>
    workshop.change((now) => {
      // a piece that was planned in and not needed stays where it is
      const taken = cutting.stocks
        .filter((s) => s.of === board)
        .flatMap((s) =>
          s.layout.bins.filter((b) => b.own).map((b) => ({ ...b, thickness_mm: s.thickness_mm })),
        );
      const stays = (now.rack ?? []).filter((p) => {
        const at = taken.findIndex(
          (u) =>
            p.board === board &&
            p.length_mm === u.length_mm &&
            p.width_mm === u.width_mm &&
            Math.abs(p.thickness_mm - u.thickness_mm) < 0.5,
        );
        if (at >= 0) taken.splice(at, 1);
        return at < 0;
      });
      return { ...now, rack: [...stays, ...left] };
    });
  const takeOff = () =>
    workshop.change((now) => ({ ...now, rack: (now.rack ?? []).filter((p) => p.from !== from) }));
  if (!rack && !left.length) return null;
  return (
    <section aria-label="The rack" className="space-y-1 pt-2 text-sm">
      <h3 className="font-display font-semibold">The workshop's rack</h3>
      {free.length > 0 ? (
        <ul>
          {free.map((p, i) => (
            <li key={i} className="flex items-baseline gap-3 border-t border-rule/60 py-1">
              <span className="min-w-0 flex-1">
                {words(p)}
                {p.from && <span className="text-soft">, left over from {p.from}</span>}
              </span>
              <button
                type="button"
                className="text-oak underline decoration-dotted"
                onClick={() => use(p)}
                aria-label={`Saw from it: ${words(p)}`}
              >
                saw from it
              </button>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-soft">
          {there.length ? "What is there of this board is planned in." : "Nothing of this board is there."}
        </p>
      )}
      {kept.length > 0 ? (
        <p>
          {kept.length === 1 ? "One piece" : `${kept.length} pieces`} of this cabinet's sheets{" "}
          {kept.length === 1 ? "is" : "are"} on it.{" "}
          <button type="button" className="text-oak underline decoration-dotted" onClick={takeOff}>
            Take {kept.length === 1 ? "it" : "them"} off
          </button>
        </p>
      ) : (
        left.length > 0 && (
          <p className="space-y-1">
            <span className="block text-soft">
              Once it is sawn there are left: {left.map((p) => words(p)).join("; ")}.
            </span>
            <Button onClick={sawn}>It is sawn: put them on the rack</Button>
          </p>
        )
      )}
    </section>
  );
}
