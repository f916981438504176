import { useLastOff, useMeasured } from "./useMeasured";

/** The station's telling figure: how far the first measurement is off once it was held against the model, else how many there are. */
export function ProveFigure() {
  const { list, laid } = useMeasured();
  const off = useLastOff(laid[0]?.id);
  if (!list.length) return "not begun";
  return off === undefined
    ? `${list.length} ${list.length === 1 ? "curve" : "curves"}`
    : `${off.toFixed(1)} dB rms off`;
}
