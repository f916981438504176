import { schemaAt, start } from "../../lib/schema";
import { useWorkbench } from "../../workbench/context";

/** Said where a cabinet is needed and none is stated; one press states its outside. */
export function NoCabinet({ then }: { then: string }) {
  const workbench = useWorkbench();
  return (
    <p className="mt-2 text-soft">
      No cabinet yet.{" "}
      <button
        type="button"
        className="text-oak underline decoration-dotted"
        onClick={() => workbench.set("/cabinet", start(schemaAt("/cabinet", {}) ?? {}))}
      >
        State its outside
      </button>{" "}
      {then}
    </p>
  );
}
