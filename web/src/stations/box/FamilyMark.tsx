/** A small section drawing of a family; one it does not know is a plain box. */
export function FamilyMark({ id }: { id: string }) {
  return (
    <svg
      viewBox="0 0 26 26"
      className="h-6 w-6 shrink-0"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.5"
      aria-hidden
    >
      {id === "vented" ? (
        <path d="M4 23H23V3H4V17M4 17H15M4 21H15M4 21V23M4 5L9 8V11L4 14" />
      ) : (
        <path d="M4 3H23V23H4ZM4 7L10 10.5V15.5L4 19" />
      )}
    </svg>
  );
}
