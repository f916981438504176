/** A small lane: one or several curves over the common frequency axis, without tools. */
export type MiniCurve = {
  values: (number | null)[];
  frequency: number[];
  colour?: string;
  dash?: string;
  width?: number;
};

const [LOW, HIGH] = [10, 300];
const W = 240;

export function MiniLane({
  title,
  unit,
  curves,
  range,
  height = 74,
  limit,
  band,
}: {
  title: string;
  unit: string;
  curves: MiniCurve[];
  range: [number, number];
  height?: number;
  limit?: number | undefined;
  band?: { frequency: number[]; low: number[]; high: number[] } | undefined;
}) {
  const x = (f: number) => (Math.log(f / LOW) / Math.log(HIGH / LOW)) * W;
  const y = (v: number) => height - ((v - range[0]) / (range[1] - range[0])) * height;
  const held = (v: number) => Math.min(Math.max(y(v), -2), height + 2);
  const line = (c: { values: (number | null)[]; frequency: number[] }) =>
    c.frequency
      .map((f, i) => [f, c.values[i]] as const)
      .filter((p): p is readonly [number, number] => p[0] >= LOW && p[0] <= HIGH && typeof p[1] === "number")
      .map(([f, v]) => `${x(f).toFixed(1)} ${held(v).toFixed(1)}`)
      .join("L");
  return (
    <figure className="m-0">
      <figcaption className="flex justify-between text-[10.5px] text-soft">
        <span>
          <b className="text-ink">{title}</b> {unit}
        </span>
        <span className="font-mono">
          {range[0]} to {range[1]}
        </span>
      </figcaption>
      <svg
        data-drawing
        viewBox={`0 0 ${W} ${height}`}
        className="w-full border border-rule bg-panel"
        role="img"
        aria-label={`${title} over frequency`}
      >
        {[20, 30, 50, 100, 200].map((f) => (
          <path key={f} d={`M${x(f)} 0V${height}`} stroke="var(--rule)" strokeWidth="0.6" />
        ))}
        {limit !== undefined && (
          <path d={`M0 ${held(limit)}H${W}`} stroke="var(--brick)" strokeWidth="1" strokeDasharray="3 3" />
        )}
        {band && (
          <path
            d={`M${line({ values: band.high, frequency: band.frequency })}L${line({
              values: [...band.low].reverse(),
              frequency: [...band.frequency].reverse(),
            })}Z`}
            fill="var(--verdigris)"
            opacity="0.22"
          />
        )}
        {curves.map((c, i) => (
          <path
            key={i}
            // what is not answered yet has no line
            d={c.values.length ? `M${line(c)}` : undefined}
            fill="none"
            stroke={c.colour ?? "var(--ink)"}
            strokeWidth={c.width ?? 1.4}
            strokeDasharray={c.dash}
          />
        ))}
      </svg>
      <div className="flex justify-between font-mono text-[9.5px] text-soft" aria-hidden>
        <span>10</span>
        <span>50</span>
        <span>300 Hz</span>
      </div>
    </figure>
  );
}
