import { MakeCabinet } from "./MakeCabinet";

/** Said where a cabinet is needed and none is stated; one press makes one that holds the box. */
export function NoCabinet({ then }: { then: string }) {
  return (
    <div className="mt-2 space-y-2">
      <p className="text-soft">No cabinet yet. Take a form: one press makes one that holds the box, {then}</p>
      <MakeCabinet />
    </div>
  );
}
