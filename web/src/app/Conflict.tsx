import { Button } from "../ui/Button";
import { usePart, useWorkbench } from "../workbench/context";

/** Another tab saved while this one had changes: neither side is lost, whichever is chosen. */
export function Conflict() {
  const workbench = useWorkbench();
  const stale = usePart((b) => b.revisions.find((r) => r.save === "conflict"));
  if (!stale) return null;
  return (
    <section
      role="alertdialog"
      aria-label="Saved elsewhere"
      className="fixed bottom-4 left-1/2 z-40 w-[min(38rem,94vw)] -translate-x-1/2 rounded-sm border-2 border-brick bg-panel p-4"
    >
      <h2 className="font-display text-base font-semibold">Revision {stale.letter} was saved elsewhere</h2>
      <p className="my-2">
        Another tab saved version {stale.theirs} while you had changes here. Both are kept whatever you
        choose: the one that gives way stays in the history or one undo away.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button look="strong" onClick={() => void workbench.keepBoth(stale.id)}>
          Keep both: mine as a new revision
        </Button>
        <Button look="action" onClick={() => workbench.keepMine(stale.id)}>
          Mine on top
        </Button>
        <Button look="action" onClick={() => workbench.takeTheirs(stale.id)}>
          Theirs on top
        </Button>
      </div>
    </section>
  );
}
