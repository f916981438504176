/** A woofer in section: cone and magnet, facing left, at a place; `by` moves the cone toward its front. */
export function Cone({
  x,
  y,
  size,
  by = 0,
  turned = false,
}: {
  x: number;
  y: number;
  size: number;
  by?: number;
  turned?: boolean;
}) {
  const flip = turned ? -1 : 1;
  const r = size / 2;
  return (
    <g transform={`translate(${x} ${y}) scale(${flip} 1)`} stroke="var(--ink)" fill="none">
      <g transform={`translate(${-by} 0)`}>
        <path d={`M0 ${-r}L${size * 0.3} ${-r * 0.32}V${r * 0.32}L0 ${r}`} strokeWidth="1.6" />
      </g>
      <rect x={size * 0.36} y={-r * 0.4} width={size * 0.16} height={r * 0.8} />
    </g>
  );
}

/** A slug of air in an opening, as hairlines that move along it; `by` moves it outward (to the left). */
export function Slug({
  x,
  y,
  width,
  height,
  by,
  turned = false,
}: {
  x: number;
  y: number;
  width: number;
  height: number;
  by: number;
  turned?: boolean;
}) {
  const shift = turned ? by : -by;
  const lines = [0.2, 0.5, 0.8].map((share) => x + width * share + shift);
  return (
    <g stroke="var(--verdigris)" strokeWidth="1.2">
      {lines.map((at, i) => (
        <path key={i} d={`M${at} ${y + 1}V${y + height - 1}`} />
      ))}
    </g>
  );
}
