import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument } from "../../workbench/context";

export function BriefStation() {
  const document = useDocument();
  const amplifier = document.brief?.amplifier;
  return (
    <>
      <SchemaForm pointer="" only={["name"]} />
      <SchemaForm pointer="/brief" assumed={{ "/brief/distance_m": 1 }} />
      {amplifier && (
        <p className="mt-2 border-l-2 border-ochre pl-2 text-xs text-soft">
          Amplifiers carry mains voltage: keep the case closed and unplug it before you touch a wire. Fixed
          wiring belongs to a licensed electrician; local electrical codes come first.
        </p>
      )}
    </>
  );
}
