import type { Design } from "../api/client";
import { schemaAt } from "../lib/schema";
import { tidy } from "../lib/quantity";
import { QuantityField } from "../ui/QuantityField";
import { Select } from "../ui/Select";
import { useCurrentPart, usePartOfDocument, useWorkbench } from "../workbench/context";

type Drive = NonNullable<Design["drive"]>;

const USUAL: Drive = { kind: "voltage", volts: 2.83 };

/** The drive in the words builders use: volts, watts into nominal, or as loud as it goes. */
export function DriveLevel() {
  const workbench = useWorkbench();
  const drive: Drive = usePartOfDocument((d) => d.drive) ?? USUAL;
  const nominal = usePartOfDocument((d) => typeof d.woofer.nominal_ohm === "number");
  const ends = usePartOfDocument((d) =>
    [d.woofer.xmax_mm, d.woofer.power_w, d.chain?.amplifier].some((x) => x !== undefined && x !== null),
  );
  const volts = useCurrentPart((r) => r.evaluation?.summary.drive.volts);
  const watts = useCurrentPart((r) => r.evaluation?.summary.drive.nominal_w);
  const pointer = drive.kind === "power" ? "/drive/watts" : "/drive/volts";
  const schema = schemaAt(pointer, { drive });
  const choose = (kind: string) => {
    const now = Number(tidy(volts ?? 2.83, 3));
    if (kind === "voltage") workbench.set("/drive", { kind, volts: now });
    else if (kind === "power") workbench.set("/drive", { kind, watts: Number(tidy(watts ?? 1, 3)) });
    else workbench.set("/drive", { kind });
  };
  return (
    <div className="flex items-center">
      {drive.kind === "loudest" ? (
        <output
          data-testid="loudest-drive"
          title="The highest drive at which nothing passes its limit in the programme's band"
        >
          drive <b className="text-ink">{volts === undefined ? "" : tidy(volts, 3)}</b> V
        </output>
      ) : (
        <QuantityField
          label="drive"
          help={schema?.description}
          unit={drive.kind === "power" ? "W" : "V"}
          value={drive.kind === "power" ? drive.watts : drive.volts}
          min={schema?.minimum}
          max={schema?.maximum}
          pointer={pointer}
          onChange={(v, gesture) =>
            workbench.set(
              "/drive",
              drive.kind === "power" ? { kind: "power", watts: v } : { kind: "voltage", volts: v },
              gesture,
            )
          }
          onDone={() => workbench.endGesture()}
        />
      )}
      <Select
        label="Drive told in"
        pointer="/drive"
        value={drive.kind}
        choices={[
          ["voltage", "volts", "The amplifier's voltage, rms"],
          ...(nominal || drive.kind === "power"
            ? ([["power", "watts", "Watts into the nominal impedance, turned into volts"]] as [
                string,
                string,
                string,
              ][])
            : []),
          ...(ends || drive.kind === "loudest"
            ? ([["loudest", "loudest", "As loud as a programme may be before the first limit is met"]] as [
                string,
                string,
                string,
              ][])
            : []),
        ]}
        onChange={choose}
      />
    </div>
  );
}
