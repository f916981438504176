import { useQueryClient } from "@tanstack/react-query";
import type { Proof } from "../../api/client";
import { useMeasured } from "./useMeasured";

/** The station's telling figure: how far the first measurement is off once it was held against the model, else how many there are. */
export function ProveFigure() {
  const { list, laid } = useMeasured();
  const client = useQueryClient();
  if (!list.length) return "not begun";
  // what was answered last; the rail asks for nothing by itself
  const answers = client.getQueriesData<Proof>({ queryKey: ["proof"] });
  const first = laid[0]?.id;
  const held = answers.flatMap(([, proof]) => proof?.measured ?? []).findLast((p) => p.id === first);
  const off = held?.deviation?.rms_db;
  const count = `${list.length} ${list.length === 1 ? "curve" : "curves"}`;
  return off === undefined ? count : `${off.toFixed(1)} dB rms off`;
}
