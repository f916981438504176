import { flushSync } from "react-dom";
import { createRoot } from "react-dom/client";
import type uPlot from "uplot";
import { HERTZ } from "../lib/axis";
import { saveDrawings } from "../lib/download";
import { Plot, type PlotCurve } from "../ui/Plot";
import type { Curve } from "../workbench/workbench";
import { limitWords, type LaneSpec } from "./specs";
import { look } from "./style";

const [WIDTH, HEIGHT] = [720, 90];

/** The open lanes as drawings, each in the scale it has on the page, every curve with its revision's letter. */
function Drawn({ plots, lanes, curves, xmax }: Lanes) {
  const shown = curves.filter((c) => !c.ghost);
  const under = shown.filter((c) => !c.current);
  const current = shown.find((c) => c.current);
  return lanes.map((lane, i) => {
    const scale = plots.get(lane.id)?.scales.y;
    const limit = current && lane.limit?.(current.evaluation, xmax);
    const lines = shown.flatMap((c): PlotCurve[] => {
      const style = look(under.indexOf(c), c.current);
      const x = c.evaluation.curves.frequency_hz;
      const own = { values: lane.values(c.evaluation), x, width: style.width, letter: c.letter };
      const others = c.current ? (lane.others?.(c.evaluation) ?? []) : [];
      return [
        { ...own, colour: `var(${style.colour})`, dash: style.dash.join(" ") || undefined },
        ...others.map((o) => ({ values: o.values, x, dash: "5 4", width: 1.2 })),
      ];
    });
    return (
      <Plot
        key={lane.id}
        title={lane.title}
        unit={lane.unit}
        told
        x={[]}
        across={[10, 1000]}
        ticks={HERTZ}
        showTicks={i === lanes.length - 1}
        xUnit="Hz"
        width={WIDTH}
        height={HEIGHT * lane.weight + 17}
        range={[scale?.min ?? 0, scale?.max ?? 1]}
        limit={limit && { value: limit.value, label: limitWords(limit) }}
        curves={lines}
      />
    );
  });
}

type Lanes = { plots: Map<string, uPlot>; lanes: LaneSpec[]; curves: Curve[]; xmax: number | undefined };

/** Saves the open lanes as one drawing. */
export function saveSvg(shown: Lanes, name: string) {
  const sheet = document.createElement("div");
  Object.assign(sheet.style, { position: "absolute", top: "0", left: "-10000px", width: `${WIDTH}px` });
  document.body.append(sheet);
  const root = createRoot(sheet);
  flushSync(() => root.render(<Drawn {...shown} />));
  saveDrawings(name || "lanes", [...sheet.querySelectorAll("svg")]);
  root.unmount();
  sheet.remove();
}
