/** Brings the field of a pointer (or the nearest one inside it) into view and focus, opening what hides it. */
export function focusField(pointer: string) {
  const fields = [...document.querySelectorAll<HTMLElement>("[data-pointer]")];
  const field =
    fields.find((f) => f.dataset.pointer === pointer) ??
    fields.find((f) => f.dataset.pointer?.startsWith(`${pointer}/`)) ??
    fields.find((f) => pointer.startsWith(`${f.dataset.pointer}/`));
  if (!field) return;
  for (let p = field.parentElement; p; p = p.parentElement)
    if (p instanceof HTMLDetailsElement) p.open = true;
  field.scrollIntoView({ block: "nearest" });
  field.focus();
}
