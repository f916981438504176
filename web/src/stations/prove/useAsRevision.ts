import { useState } from "react";
import type { Text } from "../../api/client";
import { useSay } from "../../app/settings";
import { set as setAt } from "../../lib/pointer";
import { plain } from "../../lib/said";
import { useDocument, useWorkbench } from "../../workbench/context";

type Change = { pointer: string; value?: unknown };

/** Takes changes as a new revision, named by what they do; what came of it in words. */
export function useAsRevision() {
  const workbench = useWorkbench();
  const document = useDocument();
  const say = useSay();
  const [said, setSaid] = useState("");
  const take = async (title: Text, changes: Change[]) => {
    let next = document;
    for (const { pointer, value } of changes) next = setAt(next, pointer, value ?? undefined);
    try {
      await workbench.openAsRevision(setAt(next, "/name", plain(title).slice(0, 120)));
      setSaid(`${say(title)}: taken as a new revision.`);
    } catch {
      setSaid("Not taken: the server does not answer.");
    }
  };
  return { said, take };
}
