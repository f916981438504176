/** How far something is, in the program's own colours: a browser's own bar answers to the browser. */
export function Progress({ label, value, max = 1 }: { label: string; value: number; max?: number }) {
  return (
    <progress
      value={value}
      max={max}
      aria-label={label}
      className="h-2 w-full max-w-md appearance-none border border-rule bg-panel [&::-moz-progress-bar]:bg-oak [&::-webkit-progress-bar]:bg-panel [&::-webkit-progress-value]:bg-oak"
    />
  );
}
