import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useState, type ReactNode } from "react";

/** Something that can be gone to, done or set. */
export type Entry = {
  key: string;
  words: string;
  beside?: string | undefined;
  also?: string[];
  run: () => void;
};
export type Group = { title: string; entries: Entry[] };

/** Opens the palette from a button, as its key does. */
export const openPalette = () => dispatchEvent(new Event("oak-drum.palette"));

/** Everything by its name, under one key. What can be chosen is gathered when it opens. */
export function Palette({ groups, foot }: { groups: () => Group[]; foot?: ReactNode }) {
  const [open, setOpen] = useState<Group[] | null>(null);
  useEffect(() => {
    const gather = () => setOpen((now) => now ?? groups());
    const down = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "k") {
        e.preventDefault();
        gather();
      }
    };
    addEventListener("keydown", down);
    addEventListener("oak-drum.palette", gather);
    return () => {
      removeEventListener("keydown", down);
      removeEventListener("oak-drum.palette", gather);
    };
  }, [groups]);
  const choose = (entry: Entry) => {
    setOpen(null);
    // once the dialog has given the focus back, so that the entry can take it
    requestAnimationFrame(() => requestAnimationFrame(entry.run));
  };
  return (
    <Dialog.Root open={open !== null} onOpenChange={(now) => !now && setOpen(null)}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-2 top-2 z-50 mx-auto max-w-2xl rounded-sm border border-rule bg-panel lg:top-12"
        >
          <Dialog.Title className="sr-only">Go to, do or set</Dialog.Title>
          <Command label="Go to, do or set" filter={matches} loop>
            <Command.Input
              autoFocus
              placeholder="A station, an action, a field, a term"
              className="w-full border-b border-rule bg-transparent px-3 py-2.5 text-base"
            />
            <Command.List className="max-h-[60vh] overflow-y-auto px-1 pb-2">
              <Command.Empty className="px-2 py-3 text-soft">Nothing here is called that.</Command.Empty>
              {open?.map((group) => (
                <Command.Group
                  key={group.title}
                  heading={group.title}
                  className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-soft"
                >
                  {group.entries.map((entry) => (
                    <Command.Item
                      key={entry.key}
                      value={entry.key}
                      keywords={[entry.words, ...(entry.also ?? [])]}
                      onSelect={() => choose(entry)}
                      className="flex cursor-pointer items-baseline gap-3 rounded-sm px-2 py-1 data-[selected=true]:bg-selected"
                    >
                      <span className="shrink-0">{entry.words}</span>
                      <span className="min-w-0 truncate text-xs text-soft">{entry.beside}</span>
                    </Command.Item>
                  ))}
                </Command.Group>
              ))}
            </Command.List>
          </Command>
          {foot && <p className="border-t border-rule px-3 py-1.5 text-xs text-soft">{foot}</p>}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** How well an entry fits what is typed: its own words before what it is also called, a beginning before a middle. */
export function matches(_: string, typed: string, keywords: string[] = []): number {
  const wanted = typed.toLowerCase().trim().split(/\s+/);
  const [words = "", ...also] = keywords.map((k) => k.toLowerCase());
  const all = [words, ...also].join(" ");
  if (!wanted.every((w) => all.includes(w))) return 0;
  const whole = wanted.join(" ");
  if (words === whole) return 1;
  if (words.startsWith(whole)) return 0.9;
  if (wanted.every((w) => words.includes(w))) return 0.7;
  return also.some((a) => a.startsWith(whole)) ? 0.6 : 0.4;
}
