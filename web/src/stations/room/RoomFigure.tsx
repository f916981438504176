import { useRoom } from "./useRoom";
import { usePartOfDocument } from "../../workbench/context";

/** What the rail tells of a room: how far seats differ, or by how much it lifts the lowest octave. */
export function RoomFigure() {
  const kind = usePartOfDocument((d) => d.room?.room.space.kind);
  return kind ? <Told kind={kind} /> : "in the open";
}

function Told({ kind }: { kind: string }) {
  const view = useRoom();
  if (!view) return "";
  if (view.clashes.some((c) => c.against !== "kept_free")) return "cannot stand so";
  if (kind === "cabin") return `${signed(view.low_gain_db)} dB down low`;
  if (view.seats.length > 1) return `seats ±${view.between_seats_db.toFixed(1)} dB`;
  return `±${view.along_band_db.toFixed(1)} dB at the seat`;
}

const signed = (value: number) => `${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(0)}`;
