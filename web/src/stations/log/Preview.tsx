/** A photo that is not sent yet. */
export function Preview({ photo, className = "h-20" }: { photo: Blob; className?: string }) {
  const shown = (image: HTMLImageElement | null) => {
    if (!image) return;
    const url = URL.createObjectURL(photo);
    image.src = url;
    return () => URL.revokeObjectURL(url);
  };
  return <img ref={shown} alt="" className={`rounded-sm border border-rule object-cover ${className}`} />;
}
