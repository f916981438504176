import { SchemaForm } from "../../ui/SchemaForm";

export function BriefStation() {
  return (
    <>
      <SchemaForm pointer="" only={["name"]} />
      <SchemaForm pointer="/brief" assumed={{ "/brief/distance_m": 1 }} />
    </>
  );
}
