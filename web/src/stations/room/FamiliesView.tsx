import { useAnswer } from "../../api/answer";
import { api, get, type FamiliesInRoom } from "../../api/client";
import { HERTZ, levels } from "../../lib/axis";
import { Plot } from "../../ui/Plot";
import { SavedTable } from "../../ui/Saved";
import { useDocument } from "../../workbench/context";
import { FamilyMark } from "../enclosure/FamilyMark";

/** Every family's starting point in this room: why a cabin likes another tuning than the open. */
export function FamiliesView() {
  const document = useDocument();
  const found = useAnswer(
    "families-in-room",
    document.room ? { ...document, name: "" } : undefined,
    (signal) => get(api.POST("/api/room/families", { body: document, signal })) as Promise<FamiliesInRoom>,
    400,
  );
  if (!document.room)
    return <p className="text-soft">This build stands in the open: give it a room first.</p>;
  if (!found) return <p className="text-soft">Computing…</p>;
  const x = found.frequency_hz;
  const [from, to] = found.slope_hz;
  const says = (falls: number) => (falls < 0 ? `rises ${(-falls).toFixed(1)}` : `falls ${falls.toFixed(1)}`);
  return (
    <SavedTable
      title="Families in this room"
      note={`starting points for this woofer; slopes are those from ${to} down to ${from} Hz, dB an octave; an estimate`}
      columns={["family", "title", "falls_db", "falls_in_room_db"]}
      rows={() => found.list.map((f) => [f.family, f.title, f.falls_db, f.falls_in_room_db])}
    >
      <ul
        className="grid grid-cols-1 gap-x-4 gap-y-2 md:grid-cols-2 xl:grid-cols-3"
        data-testid="families-in-room"
      >
        {found.list.map((family) => {
          const top = Math.max(...family.level_db, ...family.in_room_db);
          return (
            <li key={family.title} className="border-t border-rule/60 pt-1">
              <h3 className="flex items-center gap-2 font-semibold">
                <FamilyMark id={family.family} />
                {family.title}
              </h3>
              <Plot
                x={x}
                title="Level"
                unit="dB"
                told
                range={levels(top, 45)}
                ticks={HERTZ}
                xUnit="Hz"
                width={330}
                height={92}
                curves={[
                  { values: family.level_db, colour: "var(--soft)", dash: "5 4", width: 1.1 },
                  { values: family.in_room_db, width: 1.7 },
                ]}
              />
              <p className="text-xs">
                In the open it <b>{says(family.falls_db)}</b>, here it <b>{says(family.falls_in_room_db)}</b>{" "}
                dB an octave.
              </p>
            </li>
          );
        })}
      </ul>
    </SavedTable>
  );
}
