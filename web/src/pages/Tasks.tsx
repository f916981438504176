import { useQuery } from "@tanstack/react-query";
import { tour } from "../api/queries";
import { useSettings } from "../app/settings";
import { lasted, useTour } from "../app/tour";
import { useBeginTask } from "../app/useBeginTask";
import { Button } from "../ui/Button";
import { Disclosure } from "../ui/Disclosure";

/** Five things to try with the real program, each in a practice build; gone where help is closed. */
export function Tasks() {
  const { help } = useSettings();
  const list = useQuery({ ...tour(), enabled: help }).data?.tasks ?? [];
  const { took } = useTour();
  const { start, busy, wrong } = useBeginTask();
  if (!help || !list.length) return null;
  const open = list.filter((t) => took[t.id] === undefined).length;
  return (
    <Disclosure
      title={open ? `Five things to try, some minutes each: ${open} to go` : "Five things to try: all done"}
      offers
    >
      <ol className="divide-y divide-rule/70">
        {list.map((t) => (
          <li key={t.id} className="flex items-baseline gap-3 py-1.5">
            <span className="min-w-0 flex-1">
              <b className="font-display text-base font-semibold">{t.title}</b>{" "}
              <span className="text-soft">{t.teaches}</span>
            </span>
            <span className="text-xs whitespace-nowrap text-soft">
              {took[t.id] === undefined ? `about ${t.minutes} min` : `done in ${lasted(took[t.id] ?? 0)}`}
            </span>
            <Button
              look="action"
              className="shrink-0 whitespace-nowrap"
              aria-label={`Try it: ${t.title}`}
              disabled={busy}
              onClick={() => void start(t)}
            >
              Try it
            </Button>
          </li>
        ))}
      </ol>
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
    </Disclosure>
  );
}
