import { Link, useParams } from "react-router";
import { SchemaForm } from "../../ui/SchemaForm";
import { usePartOfDocument } from "../../workbench/context";
import { rated } from "../drive/chain";

export function BriefStation() {
  return (
    <>
      <SchemaForm pointer="" only={["name"]} />
      <SchemaForm pointer="/brief" assumed={{ "/brief/distance_m": 1 }} />
      <Amplifier />
    </>
  );
}

/** The amplifier at hand, which is stated at the Drive. */
function Amplifier() {
  const { id } = useParams();
  const amplifier = usePartOfDocument((d) => d.chain?.amplifier);
  return (
    <p className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
      <span className="flex-1 text-soft">Amplifier</span>
      <Link to={`/builds/${id}/drive`} className="text-oak underline decoration-dotted">
        {amplifier ? rated(amplifier) : "state it at the Drive"}
      </Link>
    </p>
  );
}
