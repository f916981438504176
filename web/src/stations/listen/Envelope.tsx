/** An envelope with a letter on it, sealed or open. */
export function Envelope({
  letter = "",
  sealed = true,
  small = false,
  on = false,
}: {
  letter?: string;
  sealed?: boolean;
  small?: boolean;
  /** Whether it is the one that is heard. */
  on?: boolean;
}) {
  return (
    <svg
      viewBox="0 0 64 44"
      className={small ? "h-3.5 w-5" : "h-16 w-24"}
      fill={on ? "var(--selected)" : "var(--panel)"}
      stroke={on ? "var(--oak)" : "var(--ink)"}
      strokeWidth={small ? 3 : on ? 2 : 1}
      opacity={small && !sealed ? 0.35 : 1}
    >
      <rect x="2" y="2" width="60" height="40" />
      <path d="M2 2 L32 24 L62 2" fill="none" />
      {sealed && <circle cx="32" cy="23" r={small ? 6 : 4} fill="var(--oak)" stroke="none" />}
      {letter && (
        <text
          x="32"
          y="38"
          textAnchor="middle"
          fontSize="12"
          fontFamily="Bricolage Grotesque Variable"
          fontWeight="600"
          fill="var(--ink)"
          stroke="none"
        >
          {letter}
        </text>
      )}
    </svg>
  );
}
