import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Finding, Remedy } from "../api/client";
import { Button } from "../ui/Button";
import { STATIONS } from "../stations/stations";
import { useCurrentPart, useFound, usePart, useProblem, useWorkbench } from "../workbench/context";
import { focusField } from "./focus";
import { Say } from "../ui/Say";
import { termOfFinding } from "../lib/glossary";
import { plain } from "../lib/said";
import { Tip } from "../ui/Tip";
import { useTaking } from "./useTaking";

const EDGE: Record<Finding["severity"], string> = {
  broken: "border-brick",
  look: "border-ochre",
  caution: "border-oak border-double",
  note: "border-rule",
  good: "border-verdigris",
};
const SAYS: Record<Finding["severity"], string> = {
  broken: "broken limit",
  look: "look here",
  caution: "caution",
  note: "worth knowing",
  good: "as wished",
};
const LIMIT_SOURCE: Record<Finding["limit_source"], string> = {
  physics: "physics and geometry",
  common_practice: "common practice",
  brief: "your brief",
  data_sheet: "the data sheet",
};

/** A remedy by what it does, whatever its figures are. */
const likeness = (f: Finding, r: Remedy) => `${f.kind} ${plain(r.title).replace(/[\d.,]+/g, "#")}`;

/** One list for the whole build, worst first; a remedy is tried with one press and taken back with one press. */
export function Findings() {
  const workbench = useWorkbench();
  const taken = usePart((b) => b.taken);
  const { list, of, behind } = useFound();
  const problem = useProblem();
  const navigate = useNavigate();
  const { id } = useParams();
  const { take, takeBack } = useTaking();

  // a press that came before the list had caught up: its like is taken from the fresh one
  const waiting = useRef<string>(undefined);
  const press = (f: Finding, r: Remedy) => {
    if (workbench.current?.document === of) take(f, r);
    else waiting.current = likeness(f, r);
  };
  useEffect(() => {
    const wanted = waiting.current;
    if (!wanted || workbench.current?.document !== of) return;
    waiting.current = undefined;
    for (const f of list ?? [])
      for (const r of f.remedies)
        if (likeness(f, r) === wanted) {
          take(f, r);
          return;
        }
  }, [list, of, workbench, take]);

  const open = async (f: Finding) => {
    setDrawer(false);
    await navigate(`/builds/${id}/${f.station}`);
    requestAnimationFrame(() => requestAnimationFrame(() => focusField(f.pointer)));
  };
  // on a phone the list is a drawer at the foot of the page, which says how much is in it
  const [drawer, setDrawer] = useState(false);
  const many = (severity: Finding["severity"]) => list?.filter((f) => f.severity === severity).length ?? 0;
  const [broken, look] = [many("broken"), many("look")];
  const unbegun = useCurrentPart((r) =>
    STATIONS.filter((s) => s.begun?.(r) === false)
      .map((s) => s.title)
      .join(", "),
  );
  return (
    <aside
      aria-label="Findings"
      className={`min-h-0 border-rule px-3 py-2 contain-content max-lg:fixed max-lg:inset-x-0 max-lg:bottom-0 max-lg:z-30 max-lg:max-h-[72vh] max-lg:overflow-y-auto max-lg:border-t max-lg:bg-ground lg:overflow-y-auto lg:border-l ${drawer ? "" : "max-lg:[&>:not([data-handle],[role=status],[role=alert])]:hidden"}`}
    >
      <button
        type="button"
        data-handle
        aria-expanded={drawer}
        className="flex min-h-8 w-full items-baseline gap-2 text-left lg:hidden"
        onClick={() => setDrawer(!drawer)}
      >
        <span className="font-display text-base font-semibold">Findings {list?.length ?? ""}</span>
        {broken > 0 && <span className="text-brick">!! {broken} broken</span>}
        {look > 0 && <span className="text-ochre">! {look} to look at</span>}
        <span className="flex-1 text-right text-soft">{drawer ? "close ▾" : "open ▴"}</span>
      </button>
      <h2 className="font-display text-base font-semibold max-lg:hidden">Findings</h2>
      <div role="status">
        {taken && (
          <p className="my-2 border-l-3 border-oak bg-selected py-1.5 pr-1 pl-2">
            <Say text={taken.title} />.{" "}
            <button type="button" className="text-oak underline" onClick={() => void takeBack()}>
              Take it back
            </button>
          </p>
        )}
      </div>
      {problem && (
        <p role="alert" className="my-2 border-l-3 border-brick py-1 pl-2 text-brick">
          {problem.detail}
        </p>
      )}
      <ol className="space-y-3.5 pt-1" aria-busy={behind}>
        {list?.map((f, i) => (
          <li key={`${f.kind}-${i}`} data-kind={f.kind} className={`border-l-3 pl-2.5 ${EDGE[f.severity]}`}>
            <Tip term={termOfFinding(f.kind)} side="left">
              <button
                type="button"
                className="text-left font-semibold hover:underline"
                onClick={() => void open(f)}
              >
                <span className="sr-only">{SAYS[f.severity]}: </span>
                <Say text={f.title} />
              </button>
            </Tip>
            <p>
              <Say text={f.sentence} />
            </p>
            <p className="text-xs text-soft">
              {f.severity === "caution" ? "caution" : LIMIT_SOURCE[f.limit_source]}
            </p>
            {f.remedies.length > 0 && (
              <div className="mt-1 flex flex-col items-start gap-1">
                {f.remedies.map((r) => (
                  <Button
                    key={plain(r.title)}
                    look="action"
                    className="bg-panel"
                    // made for the design before the last change it waits for its like in this one
                    aria-disabled={behind}
                    onClick={() => press(f, r)}
                  >
                    <Say text={r.title} />
                    <span className="block text-xs font-normal text-soft">
                      <Say text={r.predicted} />
                    </span>
                  </Button>
                ))}
              </div>
            )}
          </li>
        ))}
      </ol>
      {!list?.length && !problem && (
        <p className="text-soft">
          {list && !behind ? "Nothing stands against what was judged." : "Looking it through…"}
          {list && !behind && unbegun && ` Not begun, so not judged: ${unbegun}.`}
        </p>
      )}
    </aside>
  );
}
