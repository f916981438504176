import { SchemaForm } from "../../ui/SchemaForm";
import { useEvaluation, usePartOfDocument } from "../../workbench/context";
import { liningSeed, useQuiet, useWaves } from "./useQuiet";

/** Up to where it plays, and the inside of each chamber: sizes, places, fill. */
export function QuietStation() {
  const family = usePartOfDocument((d) => d.enclosure.family);
  const evaluation = useEvaluation();
  const quiet = useWaves();
  const whole = useQuiet();
  const assumed = quiet?.plays_to_assumed ? { "/brief/plays_to_hz": quiet.plays_to_hz } : undefined;
  return (
    <>
      <SchemaForm pointer="/brief" only={["plays_to_hz"]} {...(assumed && { assumed })} />
      {quiet?.chambers.map((chamber) => {
        const seed = (pointer: string) =>
          pointer === chamber.inside_pointer ? chamber.inside : whole && liningSeed(whole)(pointer);
        const name = chamber.inside_pointer.split("/").at(-1) ?? "inside";
        return (
          <section key={chamber.pointer} aria-label={chamber.title}>
            {quiet.chambers.length > 1 && (
              <h2 className="pt-2 font-display text-base font-semibold">{chamber.title}</h2>
            )}
            {!chamber.stated && (
              <p className="py-1 text-xs text-soft">
                Assumed: {chamber.assumed_from}. State it below, or pull at woofer or port in the picture, and
                the curves count its standing waves.
              </p>
            )}
            <SchemaForm
              pointer="/enclosure"
              only={[name, name.replace("inside", "fill")]}
              seed={seed}
              open={["Standing waves"]}
            />
          </section>
        );
      })}
      {quiet && !quiet.chambers.length && (
        <p className="py-2 text-soft">
          {evaluation?.path
            ? "A line or horn has its waves along its length; fill along it is stated at the Box."
            : `A ${family.replaceAll("_", " ")} has no chamber to keep quiet.`}
        </p>
      )}
    </>
  );
}
