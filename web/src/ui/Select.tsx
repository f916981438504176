export function Select({
  label,
  value,
  choices,
  pointer,
  onChange,
}: {
  label: string;
  value: string;
  choices: [string, string, string?][];
  pointer?: string;
  onChange: (value: string) => void;
}) {
  return (
    <select
      aria-label={label}
      data-pointer={pointer}
      value={value}
      onChange={(e) => onChange(e.target.value)}
      className="max-w-44 rounded-sm border border-rule bg-panel px-1 py-0.5"
    >
      {choices.map(([id, title, help]) => (
        <option key={id} value={id} title={help}>
          {title}
        </option>
      ))}
    </select>
  );
}
