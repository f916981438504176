import { useCallback } from "react";
import { useNavigate } from "react-router";
import type { BuildSummary } from "../api/client";
import { pressable, settingEntries, termEntries, termsEntry } from "../app/entries";
import { Palette, type Group } from "../app/Palette";
import { useSettings } from "../app/settings";

/** The workshop by its names: every build, what can be done, every term. */
export function WorkshopPalette({ builds }: { builds: BuildSummary[] }) {
  const navigate = useNavigate();
  const { system, theme, help } = useSettings();
  const groups = useCallback((): Group[] => {
    const go = (path: string) => () => void navigate(path);
    return [
      {
        title: "Builds",
        entries: builds.map((b) => ({
          key: `build ${b.id}`,
          words: b.name,
          beside: `${b.woofer_name || "own figures"}, ${b.family.replaceAll("_", " ")}`,
          also: [b.woofer_name, ...b.tags],
          run: go(`/builds/${b.id}/box`),
        })),
      },
      { title: "To do", entries: [...settingEntries({ system, theme, help }), termsEntry(go)] },
      // what is done to one build is done on its card
      {
        title: "On this page",
        entries: pressable("main :is(button, summary, a[download]):not([data-card] *)"),
      },
      { title: "Terms", entries: termEntries(go) },
    ].filter((g) => g.entries.length);
  }, [builds, navigate, system, theme, help]);
  return <Palette groups={groups} foot="Arrows choose, Enter goes. Open again with Ctrl K." />;
}
