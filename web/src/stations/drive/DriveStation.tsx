import { useEffect } from "react";
import { useSay } from "../../app/settings";
import { tidy } from "../../lib/quantity";
import { RULED_BY } from "../../lanes/specs";
import { Disclosure } from "../../ui/Disclosure";
import { SchemaForm } from "../../ui/SchemaForm";
import { useEvaluation } from "../../workbench/context";
import { ChainSketch } from "./ChainSketch";
import { choose } from "./chosen";
import { FlattenPanel } from "./FlattenPanel";
import { LowCutPanel } from "./LowCutPanel";

/** The electrical side: the chain, how loud it lets a programme be, a low cut, flattening. */
export function DriveStation() {
  useEffect(() => () => choose(null), []);
  return (
    <>
      <Loudest />
      <ChainSketch />
      <LowCutPanel />
      <FlattenPanel />
      <Disclosure title="What is played" indented>
        <SchemaForm pointer="/programme" />
      </Disclosure>
    </>
  );
}

/** How loud a programme may be, and what ends it. */
function Loudest() {
  const evaluation = useEvaluation();
  const say = useSay();
  const loudest = evaluation?.summary.drive.loudest;
  if (!evaluation) return null;
  return (
    <p className="pb-2" data-testid="loudest">
      {loudest ? (
        <>
          A programme from {tidy(loudest.from_hz, 3)} to {tidy(loudest.to_hz, 3)} Hz may be driven with{" "}
          <b className="font-display text-base">{tidy(loudest.volts, 3)} V</b>;{" "}
          {say([RULED_BY[loudest.limiting] ?? ""])} ends it at {tidy(loudest.at_hz, 3)} Hz.
        </>
      ) : (
        <span className="text-soft">
          Nothing stated ends the level: state Xmax and rated power at the Woofer, an amplifier below.
        </span>
      )}
    </p>
  );
}
