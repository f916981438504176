/** A drawing the server made, in the colours of the page. */
export function Drawn({
  svg,
  title,
  caption = title,
  className = "",
}: {
  svg: string;
  title: string;
  /** What is written over it, where that is not its title. */
  caption?: string;
  className?: string;
}) {
  return (
    <figure className="min-w-0">
      <figcaption className="text-xs text-soft">{caption}</figcaption>
      <div
        role="img"
        aria-label={title}
        className={`drawn [&>svg]:h-full [&>svg]:w-full ${className} [&>svg]:max-h-[inherit]`}
        dangerouslySetInnerHTML={{ __html: svg }}
      />
    </figure>
  );
}
