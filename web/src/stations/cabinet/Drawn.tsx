/** A drawing the server made, in the colours of the page. */
export function Drawn({ svg, title, className = "" }: { svg: string; title: string; className?: string }) {
  return (
    <figure className="min-w-0">
      <figcaption className="text-xs text-soft">{title}</figcaption>
      <div
        role="img"
        aria-label={title}
        className={`drawn [&>svg]:h-full [&>svg]:w-full ${className} [&>svg]:max-h-[inherit]`}
        dangerouslySetInnerHTML={{ __html: svg }}
      />
    </figure>
  );
}
