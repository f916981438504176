import { useRef } from "react";
import type { PortDesign, Trade } from "../../api/client";
import { useSize } from "../../app/settings";
import { tidy } from "../../lib/quantity";
import { at } from "../../lib/pointer";
import { Plot } from "../../ui/Plot";
import { Saved } from "../../ui/Saved";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";
import { plain } from "../../lib/said";

const TICKS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];

/** Port area against length, air speed, displaced volume and pipe resonance; pull at it to take another opening. */
export function TradeOff({ port, trade }: { port: PortDesign; trade: Trade }) {
  const workbench = useWorkbench();
  const document = useDocument();
  const evaluation = useEvaluation();
  const size = useSize();
  // while it is pulled at, the curve stays the one that was taken hold of
  const held = useRef<Trade | null>(null);
  const shown = held.current ?? trade;
  const area = evaluation?.ports.find((p) => p.pointer === port.pointer)?.area_cm2;
  const pick = (cm2: number) => {
    held.current ??= trade;
    const list = held.current.area_cm2;
    let best = 0;
    list.forEach((a, i) => {
      if (Math.abs(Math.log(a / cm2)) < Math.abs(Math.log((list[best] ?? 1) / cm2))) best = i;
    });
    const section = held.current.sections[best];
    if (section && JSON.stringify(section) !== JSON.stringify(at(document, `${port.pointer}/section`)))
      workbench.set(`${port.pointer}/section`, section, "port-area-drag");
  };
  const done = () => {
    held.current = null;
    workbench.endGesture();
  };
  const good: [number, number][] = [];
  shown.fits.forEach((fits, i) => {
    const a = shown.area_cm2[i] ?? 0;
    const last = good.at(-1);
    if (!fits) return;
    if (last && shown.fits[i - 1]) last[1] = a;
    else good.push([a, a]);
  });
  const most = (...lists: (number | null)[][]) => Math.max(1e-6, ...lists.flat().map((v) => v ?? 0));
  const limit = port.air?.limit_m_per_s ?? 17;
  const room = port.fit.room_mm;
  const common = {
    width: 380,
    height: 118,
    x: shown.area_cm2,
    ticks: TICKS,
    xUnit: "cm2",
    good,
    at: area,
    onPick: pick,
    onDone: done,
  };
  const top = (cap: number, ...lists: (number | null)[][]) => Math.min(most(...lists), cap);
  const rows = () =>
    shown.area_cm2.map((a, i) => [
      Number(a.toPrecision(4)),
      shown.opening[i] && plain(shown.opening[i]),
      ...[
        shown.net_l,
        shown.length_mm,
        shown.air_speed_m_per_s,
        shown.most_air_speed_m_per_s,
        shown.displaced_l,
        shown.pipe_hz,
      ].map((list) => (typeof list[i] === "number" ? Number(list[i].toPrecision(5)) : null)),
      String(shown.fits[i]),
    ]);
  return (
    <Saved
      title="Trade-off"
      className="pt-3"
      note="over the area of the opening; green fits. Pull to take another opening."
      table={{
        columns: [
          "area_cm2",
          "opening",
          "net_l",
          "length_mm",
          "air_speed_m_per_s",
          "most_air_speed_m_per_s",
          "displaced_l",
          "pipe_hz",
          "fits",
        ],
        rows,
      }}
    >
      <div className="grid gap-x-3 md:grid-cols-2">
        <Plot
          {...common}
          title="Length"
          unit="mm"
          range={[0, top(room * 3, shown.length_mm)]}
          curves={[{ values: shown.length_mm }]}
          limit={{ value: room, label: `room for ${size(room, "mm")}`, line: true }}
          pickLabel="Area of the port, by its length"
        />
        <Plot
          {...common}
          title="Air speed"
          unit="m/s"
          note="at this drive; dashed at most"
          range={[0, top(limit * 3, shown.air_speed_m_per_s, shown.most_air_speed_m_per_s)]}
          curves={[
            { values: shown.air_speed_m_per_s },
            { values: shown.most_air_speed_m_per_s, dash: "5 3", colour: "var(--soft)" },
          ]}
          limit={{ value: limit, label: `${port.air?.own_limit ? "your" : "quiet"} limit ${tidy(limit, 3)}` }}
          pickLabel="Area of the port, by its air speed"
        />
        <Plot
          {...common}
          title="Takes from the box"
          unit="L"
          range={[0, most(shown.displaced_l)]}
          curves={[{ values: shown.displaced_l }]}
          pickLabel="Area of the port, by what it takes"
        />
        <Plot
          {...common}
          title="First pipe resonance"
          unit="Hz"
          range={[0, top(3000, shown.pipe_hz)]}
          curves={[{ values: shown.pipe_hz }]}
          pickLabel="Area of the port, by its pipe resonance"
        />
      </div>
    </Saved>
  );
}
