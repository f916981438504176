/** A figure with its name above and what it is held against below; inside a definition list. */
export function Figure({
  label,
  value,
  note,
  bad = false,
}: {
  label: string;
  value: string;
  note: string;
  bad?: boolean;
}) {
  return (
    <div>
      <dt className="text-xs text-soft">{label}</dt>
      <dd className={`font-display text-lg leading-tight font-semibold ${bad ? "text-brick" : ""}`}>
        {value}
      </dd>
      <dd className="text-xs text-soft">{note}</dd>
    </div>
  );
}
