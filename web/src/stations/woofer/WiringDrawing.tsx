type Props = {
  count: number;
  inSeries: number;
  voiceCoils: number;
  coilsInSeries: boolean;
  reversed?: boolean;
};

const WIDE = 62;
const HIGH = 62;

/** A coil as a zigzag between two heights. */
function Coil({ x, from, to }: { x: number; from: number; to: number }) {
  const step = (to - from) / 8;
  const points = [`${x},${from}`];
  for (let i = 1; i < 8; i++) points.push(`${x + (i % 2 ? 4 : -4)},${from + i * step}`);
  points.push(`${x},${to}`);
  return <polyline points={points.join(" ")} fill="none" />;
}

/** How the terminals are joined: strings from plus to minus, each woofer with its coils. */
export function WiringDrawing({ count, inSeries, voiceCoils, coilsInSeries, reversed }: Props) {
  const strings = count / inSeries;
  const width = 34 + strings * WIDE;
  const height = 28 + inSeries * HIGH;
  const words =
    `${count} woofer${count > 1 ? "s" : ""}, ${strings} string${strings > 1 ? "s" : ""} of ${inSeries}` +
    (voiceCoils > 1 ? `, coils in ${coilsInSeries ? "series" : "parallel"}` : "");
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Wiring: ${words}`}
      className="mx-auto my-1 max-h-44 w-full"
      style={{ maxWidth: Math.max(width * 1.1, 120) }}
    >
      <g stroke="var(--ink)" strokeWidth="1.1" fill="none">
        <line x1="20" y1="14" x2={20 + strings * WIDE - WIDE / 2} y2="14" />
        <line x1="20" y1={height - 14} x2={20 + strings * WIDE - WIDE / 2} y2={height - 14} />
        {Array.from({ length: strings }, (_, s) =>
          Array.from({ length: inSeries }, (_, k) => {
            const x = 20 + s * WIDE + WIDE / 2;
            const top = 14 + k * HIGH;
            const [a, b] = [top + 12, top + HIGH - 12];
            return (
              <g key={`${s}-${k}`}>
                <line x1={x} y1={top} x2={x} y2={a} />
                <line x1={x} y1={b} x2={x} y2={top + HIGH} />
                <circle cx={x} cy={top + HIGH / 2} r="25" stroke="var(--rule)" fill="var(--panel)" />
                <line x1={x} y1={a - 6} x2={x} y2={a} />
                <line x1={x} y1={b} x2={x} y2={b + 6} />
                {voiceCoils === 1 && <Coil x={x} from={a} to={b} />}
                {voiceCoils > 1 && coilsInSeries && (
                  <>
                    <Coil x={x} from={a} to={(a + b) / 2 - 2} />
                    <line x1={x} y1={(a + b) / 2 - 2} x2={x} y2={(a + b) / 2 + 2} />
                    <Coil x={x} from={(a + b) / 2 + 2} to={b} />
                  </>
                )}
                {voiceCoils > 1 && !coilsInSeries && (
                  <>
                    <path d={`M${x - 9},${a} H${x + 9} M${x - 9},${b} H${x + 9}`} />
                    <Coil x={x - 9} from={a} to={b} />
                    <Coil x={x + 9} from={a} to={b} />
                  </>
                )}
                <text x={x + 14} y={top + 16} {...SIGN}>
                  {reversed && (s * inSeries + k) % 2 ? "–" : "+"}
                </text>
                <text x={x + 14} y={top + HIGH - 8} {...SIGN}>
                  {reversed && (s * inSeries + k) % 2 ? "+" : "–"}
                </text>
              </g>
            );
          }),
        )}
      </g>
      <circle cx="17" cy="14" r="3" fill="var(--ink)" />
      <circle cx="17" cy={height - 14} r="3" fill="var(--ink)" />
      <text x="3" y="18" {...SIGN}>
        +
      </text>
      <text x="3" y={height - 10} {...SIGN}>
        –
      </text>
    </svg>
  );
}

const SIGN = { fill: "var(--soft)", stroke: "none", fontSize: 12, fontFamily: "var(--font-mono)" };
