const LOWEST = -60;

/** What comes in, channel by channel, over dB of full scale; where it should stand is told in words as well. */
export function LevelMeter({
  peaks,
  channel,
  loopback,
  jig,
}: {
  peaks: number[];
  channel: number;
  loopback: number | undefined;
  jig: boolean;
}) {
  const named = (n: number) => {
    if (n === loopback) return jig ? "before the resistor" : "the wire back";
    if (n === channel) return jig ? "across the woofer" : "microphone";
    return "not used";
  };
  if (!peaks.length) return <p className="text-xs text-soft">Nothing comes in yet.</p>;
  return (
    <ul aria-label="Levels of the inputs" className="max-w-md">
      {peaks.map((db, i) => (
        <li key={i} className="flex items-baseline gap-2 text-xs">
          <span className="w-36">
            {i + 1}: {named(i + 1)}
          </span>
          <svg viewBox="0 0 200 8" className="h-2 flex-1" preserveAspectRatio="none" aria-hidden="true">
            <rect width="200" height="8" fill="var(--panel)" stroke="var(--rule)" />
            {/* where a sweep should peak: well over the noise, well under full scale */}
            <rect x={200 * (40 / 60)} width={200 * (17 / 60)} height="8" fill="var(--selected)" />
            <rect
              width={200 * Math.min(1, Math.max(0, (db - LOWEST) / -LOWEST))}
              y="2"
              height="4"
              fill={db > -1 ? "var(--brick)" : "var(--oak)"}
            />
          </svg>
          <output className="w-28 font-mono">
            {db > -1 ? "clips: turn down" : db < LOWEST ? "silent" : `${db.toFixed(0)} dB`}
          </output>
        </li>
      ))}
    </ul>
  );
}
