import { useState, type ReactNode } from "react";
import { Refused, type Design } from "../../api/client";
import type { Change } from "../../lib/pointer";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { FormContext, type Draft } from "../../ui/form";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useWorkbench } from "../../workbench/context";

/**
 * Something the server looks for by a wish: the wish as a form with its faults at their fields, what was found, and one press that
 * takes it. What was found for a design that has moved on since is not offered: it would take back what was done meanwhile.
 */
export function Wished<W, T extends { changes: Change[] }>({
  title,
  open,
  draft,
  from,
  to = "",
  find,
  ask,
  take,
  taken,
  testid,
  note,
  children,
}: {
  title: string;
  open?: boolean;
  draft: Draft<W>;
  /** Where the server's faults begin, and where they stand in the draft. */
  from: string;
  to?: string;
  find: string;
  ask: (document: Design, wish: W) => Promise<T>;
  take: string;
  /** What the step is called that can be taken back. */
  taken: string;
  testid: string;
  /** Said under the form. */
  note?: ReactNode;
  children: (found: T) => ReactNode;
}) {
  const document = useDocument();
  const workbench = useWorkbench();
  const [found, setFound] = useState<{ for: Design; what: T } | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const look = async () => {
    setBusy(true);
    setWrong(null);
    setFound(null);
    try {
      setFound({ for: document, what: await ask(document, draft.document()) });
      draft.say(undefined);
    } catch (cause) {
      const errors = cause instanceof Refused ? (cause.problem?.errors ?? []) : [];
      const here = errors.filter((e) => e.pointer.startsWith(from));
      draft.say(here.map((e) => ({ ...e, pointer: to + e.pointer.slice(from.length) })));
      setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    } finally {
      setBusy(false);
    }
  };
  return (
    <Disclosure title={title} open={open} indented>
      <FormContext value={draft}>
        <SchemaForm pointer="" />
      </FormContext>
      {note && <p className="pt-1 text-xs text-soft">{note}</p>}
      <div className="flex items-baseline gap-2 pt-1">
        <Button look="action" disabled={busy} onClick={() => void look()}>
          {busy ? "Looking…" : find}
        </Button>
        {wrong && (
          <span role="alert" className="text-xs text-brick">
            {wrong}
          </span>
        )}
      </div>
      {found?.for === document && (
        <div className="pt-1 text-xs" data-testid={testid}>
          {children(found.what)}
          <Button look="action" onClick={() => workbench.take(taken, found.what.changes)}>
            {take}
          </Button>
        </div>
      )}
    </Disclosure>
  );
}
