/** Brings the field of a pointer (or the nearest one inside it) into view and focus, opening what hides it. */
export function focusField(pointer: string): boolean {
  const fields = [...document.querySelectorAll<HTMLElement>("[data-pointer]")];
  const field =
    fields.find((f) => f.dataset.pointer === pointer) ??
    fields.find((f) => f.dataset.pointer?.startsWith(`${pointer}/`)) ??
    fields.find((f) => pointer.startsWith(`${f.dataset.pointer}/`));
  if (!field) return false;
  for (let p = field.parentElement; p; p = p.parentElement)
    if (p instanceof HTMLDetailsElement) p.open = true;
  field.scrollIntoView({ block: "nearest" });
  field.focus();
  return true;
}

/** Tries until it works, at most for a second: what it waits for may still be on its way. */
export function soon(work: () => boolean, tries = 20) {
  if (!work() && tries > 0) setTimeout(() => soon(work, tries - 1), 50);
}
