/** Small section drawings, one a family; one that is not here is a plain box. */
const MARKS: Record<string, string> = {
  sealed: "M4 3H23V23H4ZM4 7L9 10.5V15.5L4 19",
  vented: "M4 23H23V3H4V17M4 17H15M4 21H15M4 21V23M4 5L9 8V11L4 14",
  passive_radiator: "M4 3H23V23H4ZM4 5L8 7.5V10L4 12.5M4 15H6V21H4M6 16.5H8V19.5H6",
  bandpass_fourth: "M3 3H23V17M23 20V23H3ZM12 3V6M12 20V23M12 6L16 9.5V16.5L12 20M23 17H18M23 20H18",
  bandpass_sixth:
    "M3 6V3H23V17M23 20V23H3V9M12 3V6M12 20V23M12 6L16 9.5V16.5L12 20M23 17H18M23 20H18M3 6H8M3 9H8",
  transmission_line: "M4 15V3H23V23H4V20M4 15H18M18 8V15M4 8H18M4 4L7 5V7L4 8",
  front_horn: "M3 9H8V17H3ZM8 10C14 10 19 8 23 2M8 16C14 16 19 18 23 24M8 11L6 12V14L8 15",
  back_horn: "M12 5C16 5 20 3 24 1M12 11C16 12 20 17 24 24M12 5V11M4 4V12M4 5L8 7V9L4 11M4 5H12M4 11H12",
  tapped_horn: "M3 10L23 4M3 14L23 22M3 10V14M10 8L12 12L10 17M12 12H15",
  infinite_baffle: "M10 1V7M10 19V25M13 1V7M13 19V25M10 7L15 10.5V15.5L10 19",
  open_baffle: "M11 3V7M11 19V23M11 7L16 10.5V15.5L11 19M9 3H13M9 23H13",
};

export function FamilyMark({ id }: { id: string }) {
  return (
    <svg
      viewBox="0 0 26 26"
      className="h-6 w-6 shrink-0"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.4"
      aria-hidden
    >
      <path d={MARKS[id] ?? "M4 3H23V23H4Z"} />
    </svg>
  );
}
