import type { ReactNode } from "react";

/** Something that is told when it is asked for. */
export function Disclosure({
  title,
  open,
  offers = false,
  indented = false,
  onOpen,
  children,
}: {
  title: string;
  open?: boolean | undefined;
  /** Whether it offers something to take rather than more to fill in. */
  offers?: boolean;
  indented?: boolean;
  /** Told when it is opened or closed: for what is fetched only then. */
  onOpen?: (open: boolean) => void;
  children: ReactNode;
}) {
  return (
    <details
      open={open}
      // its own arrow turns, not those of what lies inside
      className="border-b border-rule/70 [&[open]>summary]:before:rotate-90"
      onToggle={onOpen && ((e) => onOpen(e.currentTarget.open))}
    >
      <summary
        className={`cursor-pointer list-none py-[5px] before:mr-1.5 before:inline-block before:content-['▸'] ${offers ? "text-oak" : "text-soft"}`}
      >
        {title}
      </summary>
      {indented ? <div className="border-l-2 border-rule pb-1 pl-2">{children}</div> : children}
    </details>
  );
}
