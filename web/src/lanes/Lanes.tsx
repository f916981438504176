import { useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from "react";
import type uPlot from "uplot";
import { useSettings } from "../app/settings";
import { useDrag } from "../lib/drag";
import { tidy } from "../lib/quantity";
import { painted } from "../lib/traced";
import { flagsOf, type Flag } from "../lib/tuning";
import { useDocument, useEvaluation, usePart, useProblem, useWorkbench } from "../workbench/context";
import { saveCsv, savePng } from "./save";
import { saveSvg } from "./Drawn";
import { Lane, type Mark, type Scale } from "./Lane";
import { LANES, type LaneSpec } from "./specs";

const LOW = 10;
const HIGH = 1000;
const position = (f: number) => Math.log(f / LOW) / Math.log(HIGH / LOW);

/** The lanes over one frequency axis, with the tuning as a flag that can be dragged. */
export function Lanes({ station, over }: { station?: string; over?: (scale: Scale) => ReactNode }) {
  const curves = usePart((b) => b.curves);
  const evaluation = useEvaluation();
  const problem = useProblem();
  const name = usePart((b) => b.revisions.find((r) => r.letter === b.current)?.document.name ?? "");
  const xmax = usePart(
    (b) => b.revisions.find((r) => r.letter === b.current)?.document.woofer.xmax_mm ?? undefined,
  );
  const { system } = useSettings();
  const [folded, setFolded] = useState<string[]>(LANES.metric.filter((l) => l.folded).map((l) => l.id));
  const [cursor, setCursor] = useState<number | null>(null);
  const [frame, setFrame] = useState<{ left: number; width: number } | null>(null);
  const plots = useRef(new Map<string, uPlot>());

  const marks = useMemo(() => {
    const level: Mark[] = [];
    if (!evaluation) return { level, air: level };
    const { f3_hz, figures } = evaluation.summary;
    if (f3_hz) level.push({ frequency: f3_hz, label: `f3 ${tidy(f3_hz, 3)}`, colour: "--ochre" });
    const fc = figures.find((f) => f.id === "fc_hz");
    if (fc) level.push({ frequency: fc.value, label: `fc ${tidy(fc.value, 3)}`, colour: "--verdigris" });
    const air = evaluation.ports.map((p): Mark => {
      const f = p.first_pipe_resonance_hz;
      return { frequency: f, label: `pipe ${tidy(f, 3)}`, colour: "--soft" };
    });
    const own = evaluation.summary.marks.map((m): Mark => ({
      frequency: m.frequency_hz,
      label: m.label,
      colour: "--soft",
    }));
    return { level: [...level, ...air, ...own], air: [...air, ...own] };
  }, [evaluation]);

  // the lanes are drawn before this: for who measures how soon a move is seen
  useLayoutEffect(() => {
    if (evaluation) painted("lanes", evaluation);
  }, [evaluation]);

  if (!evaluation) {
    return (
      <div className="grid h-full place-items-center text-soft">
        {problem ? problem.detail : "Computing…"}
      </div>
    );
  }
  const lanes = LANES[system].filter(
    (l) => (!l.station || l.station === station) && curves.some((c) => l.values(c.evaluation).length > 0),
  );
  const open = lanes.filter((l) => !folded.includes(l.id));
  const frequency = cursor === null ? undefined : evaluation.curves.frequency_hz[cursor];

  const keys = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget) return;
    const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    const first = open[0] && plots.current.get(open[0].id);
    if (!by || !first) return;
    event.preventDefault();
    const list = evaluation.curves.frequency_hz;
    const next = Math.min(Math.max((cursor ?? 100) + by * (event.shiftKey ? 20 : 2), 0), list.length - 1);
    first.setCursor({ left: first.valToPos(list[next] ?? LOW, "x"), top: 5 });
  };

  return (
    <div
      className="flex h-full min-h-0 flex-col pt-1"
      role="group"
      aria-label="Curves over frequency; left and right arrow keys move the reading line"
      tabIndex={0}
      onKeyDown={keys}
    >
      <div className="relative h-6 shrink-0">
        {frame && <Flags frame={frame} />}
        <div className="absolute top-0 right-1 flex gap-3 text-xs text-soft">
          <button type="button" className="hover:text-ink" onClick={() => savePng(plots.current, open)}>
            Save PNG
          </button>
          <button
            type="button"
            className="hover:text-ink"
            onClick={() => saveSvg({ plots: plots.current, lanes: open, curves, xmax }, name)}
          >
            Save SVG
          </button>
          <button type="button" className="hover:text-ink" onClick={() => saveCsv(curves, name)}>
            Save CSV
          </button>
        </div>
      </div>
      {lanes.map((spec) => (
        <Lane
          key={spec.id}
          spec={(spec.id === "level" && over && ROOMY[system]) || spec}
          over={spec.id === "level" ? over : undefined}
          curves={curves}
          xmax={xmax}
          marks={spec.id === "level" ? marks.level : spec.id === "near" ? marks.air : NONE}
          last={spec.id === open.at(-1)?.id}
          folded={folded.includes(spec.id)}
          onFold={() =>
            setFolded((f) => (f.includes(spec.id) ? f.filter((x) => x !== spec.id) : [...f, spec.id]))
          }
          cursor={cursor}
          onCursor={setCursor}
          onPlot={(plot) => {
            plots.current.set(spec.id, plot);
            if (spec.id === open[0]?.id) {
              const ratio = devicePixelRatio;
              const next = { left: plot.bbox.left / ratio, width: plot.bbox.width / ratio };
              setFrame((old) => (old && old.left === next.left && old.width === next.width ? old : next));
            }
          }}
        />
      ))}
      <div className="h-4 shrink-0 pl-[44px] font-mono text-xs" aria-live="off">
        {frequency === undefined ? (
          <span className="font-sans text-soft">Hz — point at a lane to read all of them</span>
        ) : (
          `${tidy(frequency, 4)} Hz`
        )}
      </div>
    </div>
  );
}

const NONE: Mark[] = [];

/** The level lane where something of it is pulled at. */
const roomy = (lanes: LaneSpec[]) => {
  const [level] = lanes.filter((l) => l.id === "level");
  return level && { ...level, weight: 2 * level.weight };
};
const ROOMY = { metric: roomy(LANES.metric), inch: roomy(LANES.inch) };

type Frame = { left: number; width: number };

/** The tunings on the axis: drag them, or use the arrow keys. Holding G while dragging keeps the old curves as a ghost. */
function Flags({ frame }: { frame: Frame }) {
  const document = useDocument();
  const evaluation = useEvaluation();
  return flagsOf(document, evaluation).map((flag) => <Pull key={flag.id} flag={flag} frame={frame} />);
}

function Pull({ flag, frame }: { flag: Flag; frame: Frame }) {
  const workbench = useWorkbench();
  const { hz } = flag;
  const set = (to: number, from: Flag, gesture: string) => workbench.change(from.to(to), gesture);
  // what is pulled at stays what it was when it was taken hold of
  const drag = useDrag<{ flag: Flag; left: number }, HTMLDivElement>({
    begin: (event) => {
      const lane = event.currentTarget.parentElement?.getBoundingClientRect();
      return lane ? { flag, left: lane.left + frame.left } : null;
    },
    move: (event, from) =>
      set(LOW * (HIGH / LOW) ** ((event.clientX - from.left) / frame.width), from.flag, "tuning-drag"),
    end: () => workbench.endGesture(),
  });
  const x = frame.left + position(hz) * frame.width;
  const flip = x > frame.left + frame.width - 90;
  const name = flag.label === "tune" ? "Tuning" : `Tuning, ${flag.label}`;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-valuemin={flag.range[0]}
      aria-valuemax={flag.range[1]}
      aria-valuenow={hz}
      aria-valuetext={`${tidy(hz, 3)} Hz`}
      title="Drag the tuning; hold G to keep the old curves as a ghost"
      className="absolute top-0.5 left-0 z-10 flex h-[22px] cursor-ew-resize touch-none items-center bg-verdigris px-1.5 text-xs font-semibold text-panel will-change-transform select-none"
      style={{ transform: `translateX(${x}px)${flip ? " translateX(-100%)" : ""}` }}
      {...drag}
      onKeyDown={(e) => {
        const by = ["ArrowRight", "ArrowUp"].includes(e.key)
          ? 1
          : ["ArrowLeft", "ArrowDown"].includes(e.key)
            ? -1
            : 0;
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        set(hz + by * (e.shiftKey ? 2 : e.altKey ? 0.1 : 0.5), flag, "tuning-keys");
      }}
      onBlur={() => workbench.endGesture()}
    >
      {flag.label} {tidy(hz, 3)}
      <span
        className="pointer-events-none absolute top-full h-[100vh] w-px bg-verdigris/50"
        style={flip ? { right: 0 } : { left: 0 }}
      />
    </div>
  );
}
