import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { BuildSummary } from "../api/client";
import { buildsAway } from "../api/queries";
import { Button } from "../ui/Button";
import { Disclosure } from "../ui/Disclosure";

/** What was put away: nothing is lost, each comes back with one press. */
export function PutAway({ onBack }: { onBack: (build: BuildSummary) => Promise<void> }) {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({ ...buildsAway(), enabled: open });
  return (
    <Disclosure title="Put away" onOpen={setOpen}>
      {data?.length === 0 && <p className="py-1 text-soft">Nothing is put away.</p>}
      <ul className="divide-y divide-rule/70">
        {data?.map((b) => (
          <li key={b.id} className="flex items-baseline gap-3 py-1">
            <span className="font-semibold">{b.name}</span>
            <span className="min-w-0 flex-1 truncate text-soft">
              {b.woofer_name || "own figures"} · {b.family.replaceAll("_", " ")}
            </span>
            <Button look="action" aria-label={`Take it back out: ${b.name}`} onClick={() => void onBack(b)}>
              take it back out
            </Button>
          </li>
        ))}
      </ul>
    </Disclosure>
  );
}
