import { useLayoutEffect } from "react";
import type { CabinetView } from "../../api/client";
import { useFigure, useSettings, useSize } from "../../app/settings";
import { roundUp } from "../../lib/axis";
import { painted } from "../../lib/traced";
import { inSystem, printUnit, show } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Figure } from "../../ui/Figure";
import { Plot } from "../../ui/Plot";
import { Saved } from "../../ui/Saved";
import { useDocument, useWorkbench } from "../../workbench/context";
import { Drawn } from "./Drawn";
import { FaceDrawing } from "./FaceDrawing";
import { useCabinet } from "./useCabinet";
import { Say } from "../../ui/Say";

/** The faces to put things on, the section, and how near things are. */
export function CabinetPicture() {
  const document = useDocument();
  const cabinet = useCabinet();
  // for who measures how soon a drag is seen
  useLayoutEffect(() => {
    if (cabinet) painted("cabinet", cabinet);
  }, [cabinet]);
  if (!document.cabinet) return null;
  if (!cabinet) return <p className="text-soft">Computing…</p>;
  const [first, ...others] = cabinet.faces;
  return (
    <div className="space-y-3">
      <Facts cabinet={cabinet} />
      <div className="grid gap-4 md:grid-cols-2">
        {first && <FaceDrawing cabinet={cabinet} face={first} large />}
        <Drawn
          svg={cabinet.section_svg}
          title={cabinet.fold ? "Fold, front on the left" : "Side section, front on the left"}
          className="max-h-[310px]"
        />
      </div>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3 xl:grid-cols-5">
        {others.map((face) => (
          <FaceDrawing key={face.face} cabinet={cabinet} face={face} />
        ))}
      </div>
      {cabinet.fold && <Areas cabinet={cabinet} />}
      <Clearances cabinet={cabinet} />
    </div>
  );
}

function useMm() {
  const { system } = useSettings();
  return (value: number) => {
    const shown = show(system === "metric" ? Math.round(value) : value, "mm", system);
    return `${shown.text} ${printUnit(shown.unit)}`;
  };
}

function Facts({ cabinet }: { cabinet: CabinetView }) {
  const mm = useMm();
  const size = useSize();
  const workbench = useWorkbench();
  const { fold, unfit } = cabinet;
  const figure = useFigure();
  const { system } = useSettings();
  const sides = (mm: number[]) =>
    `${mm.map((s) => figure(s, "mm", 4)).join(" x ")} ${printUnit(inSystem("mm", system).unit)}`;
  const sized = fold?.sized ?? unfit?.sized ?? [];
  const off = fold && Math.abs(fold.length_mm / fold.wanted_mm - 1) > 0.01;
  return (
    <div>
      <dl
        className="grid grid-cols-2 gap-x-4 gap-y-1 md:grid-cols-[1.7fr_1fr_1fr]"
        data-testid="cabinet-figures"
      >
        <Figure
          label="Outside"
          value={sides(cabinet.outside_mm)}
          note={`overall ${sides(cabinet.overall_mm)}`}
        />
        {fold ? (
          <Figure
            label="Path as folded"
            value={mm(fold.length_mm)}
            note={`${mm(fold.wanted_mm)} asked for`}
            bad={!!off}
          />
        ) : (
          <Figure
            label="Net"
            value={size(cabinet.net_l, "L")}
            note={`${size(cabinet.wanted_net_l, "L", 4)} wanted`}
            bad={Math.abs(cabinet.net_l / cabinet.wanted_net_l - 1) > 0.05}
          />
        )}
        <Figure
          label="Boards"
          value={size(cabinet.weight_kg, "kg")}
          note={`${cabinet.boards.length} of them`}
        />
      </dl>
      {unfit && (
        <p role="alert" className="pt-1 text-brick">
          <Say text={unfit.message} />.
        </p>
      )}
      {(unfit || off) && sized.length > 0 && (
        <p className="pt-1">
          <Button onClick={() => workbench.take("Box as the path wants it", sized)}>
            Box as the path wants it
          </Button>
        </p>
      )}
    </div>
  );
}

/** The areas along the path, as designed and as folded. */
function Areas({ cabinet }: { cabinet: CabinetView }) {
  const { system } = useSettings();
  const { fold } = cabinet;
  if (!fold) return null;
  const lines = [
    { title: "as folded", points: fold.built as [number, number][], colour: "var(--oak)" },
    { title: "as designed", points: fold.designed as [number, number][], colour: "var(--soft)", dash: "5 3" },
  ];
  const far = Math.max(...lines.flatMap((l) => l.points.map((p) => p[0])));
  const high = Math.max(...lines.flatMap((l) => l.points.map((p) => p[1])));
  const end = far * inSystem("mm", system).times;
  const step = roundUp(end / 8);
  const at = (points: [number, number][]) => points.map((p) => p[0]);
  return (
    <Saved
      title="Area along the path"
      note="full: as folded, dashed: as designed"
      table={{
        columns: ["which", "at_mm", "area_cm2"],
        rows: () => lines.flatMap((l) => l.points.map((p) => [l.title, p[0], p[1]])),
      }}
    >
      <Plot
        title="Area"
        unit="cm2"
        xUnit="mm"
        log={false}
        x={[0, far]}
        range={[0, high]}
        ticks={Array.from({ length: Math.floor(end / step) + 1 }, (_, i) =>
          Number((i * step).toPrecision(6)),
        )}
        curves={lines.map((l) => ({
          x: at(l.points),
          values: l.points.map((p) => p[1]),
          colour: l.colour,
          dash: l.dash,
        }))}
      />
    </Saved>
  );
}

function Clearances({ cabinet }: { cabinet: CabinetView }) {
  const mm = useMm();
  const list = cabinet.clearances.slice(0, 6);
  if (!list.length) return <p className="text-xs text-soft">Nothing is near anything else.</p>;
  return (
    <section aria-label="Clearances">
      <h2 className="font-display text-base font-semibold">Clearances, the smallest first</h2>
      <ul className="grid gap-x-6 sm:grid-cols-2" data-testid="clearances">
        {list.map((c, i) => (
          <li
            key={i}
            className={`flex justify-between border-b border-rule/60 py-0.5 ${c.mm < -0.5 ? "text-brick" : ""}`}
          >
            <span>
              {c.name} to {c.other}
              {c.how === "frames" ? ", on the face" : ""}
            </span>
            <span className="font-mono tabular-nums">
              {c.mm < -0.5 ? `${mm(-c.mm)} in it` : mm(Math.max(c.mm, 0))}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
