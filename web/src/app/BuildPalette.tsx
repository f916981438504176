import { useCallback } from "react";
import { useNavigate, useParams } from "react-router";
import { fieldsOf } from "../lib/fields";
import { said } from "../lib/said";
import { STATIONS } from "../stations/stations";
import { whereIs } from "../stations/where";
import { useWorkbench } from "../workbench/context";
import { focusField, soon } from "./focus";
import { openKeys } from "./Keys";
import { Palette, type Entry, type Group } from "./Palette";
import { useSettings } from "./settings";
import { pressable, settingEntries, termEntries, termsEntry } from "./entries";
import { useTaking } from "./useTaking";

/** All of a build by its name: stations and views, what is found, what can be done, every field, every term. */
export function BuildPalette() {
  const workbench = useWorkbench();
  const navigate = useNavigate();
  const { id } = useParams();
  const { system, theme, help } = useSettings();
  const { take, takeBack } = useTaking();

  const groups = useCallback((): Group[] => {
    const state = workbench.snapshot();
    const current = workbench.current;
    const go = (path: string) => () => void navigate(path);
    const places = STATIONS.flatMap(({ id: station, title, views = [] }): Entry[] => [
      { key: `go ${station}`, words: title, beside: "station", run: go(`/builds/${id}/${station}`) },
      ...views.map((v) => ({
        key: `go ${station}/${v.id}`,
        words: `${title}: ${v.title}`,
        beside: "view",
        run: go(`/builds/${id}/${station}/${v.id}`),
      })),
    ]);
    const remedies = (current?.found?.list ?? []).flatMap((f, i) =>
      f.remedies.map((r, k) => ({
        key: `take ${i} ${k}`,
        words: said(r.title, system),
        beside: said(f.title, system),
        run: () => take(f, r),
      })),
    );
    const doing: Entry[] = [
      { key: "undo", words: "Undo", run: () => workbench.undo() },
      { key: "redo", words: "Redo", run: () => workbench.redo() },
      ...(state.taken
        ? [
            {
              key: "back",
              words: "Take it back",
              beside: said(state.taken.title, system),
              run: () => void takeBack(),
            },
          ]
        : []),
      {
        key: "copy",
        words: "Copy this revision",
        also: ["new revision", "try another idea"],
        run: () => void workbench.copy().catch(() => undefined),
      },
      ...state.revisions
        .filter((r) => r.letter !== state.current)
        .flatMap((r) => [
          {
            key: `edit ${r.letter}`,
            words: `Edit revision ${r.letter}`,
            beside: r.document.name,
            run: () => workbench.select(r.letter),
          },
          {
            key: `under ${r.letter}`,
            words: state.shown.includes(r.letter) ? `Take ${r.letter} away` : `Lay ${r.letter} under`,
            beside: r.document.name,
            run: () => workbench.toggleShown(r.letter),
          },
        ]),
      ...settingEntries({ system, theme, help }),
      { key: "keys", words: "Keys", beside: "what the keyboard does", run: openKeys },
      termsEntry(go),
      { key: "workshop", words: "To the workshop", beside: "all builds", run: go("/") },
    ];
    const fields = fieldsOf(current?.document).map((f): Entry => {
      const station = whereIs(f.pointer);
      return {
        key: `field ${f.pointer}`,
        words: f.title,
        beside: [STATIONS.find((s) => s.id === station)?.title, ...f.within].filter(Boolean).join(", "),
        also: f.within,
        run: () => {
          const there = station ? navigate(`/builds/${id}/${station}`) : undefined;
          void Promise.resolve(there).then(() => soon(() => focusField(f.pointer)));
        },
      };
    });
    return [
      { title: "Stations and views", entries: places },
      { title: "Remedies", entries: remedies },
      { title: "To do", entries: doing },
      {
        title: "On this page",
        entries: pressable("main :is(button, summary, a[download]), section :is(button, a[download])"),
      },
      { title: "Fields", entries: fields },
      { title: "Terms", entries: termEntries(go) },
    ].filter((g) => g.entries.length);
  }, [workbench, navigate, id, system, theme, help, take, takeBack]);

  return <Palette groups={groups} foot="Arrows choose, Enter goes. Open again with Ctrl K." />;
}
