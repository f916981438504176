import { useEffect, useRef } from "react";
import { useNavigate, useParams } from "react-router";
import type { Finding, Remedy } from "../api/client";
import { Button } from "../ui/Button";
import { useFound, usePart, useProblem, useWorkbench } from "../workbench/context";
import { focusField } from "./focus";
import { Say } from "../ui/Say";
import { plain } from "../lib/said";
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
    await navigate(`/builds/${id}/${f.station}`);
    requestAnimationFrame(() => requestAnimationFrame(() => focusField(f.pointer)));
  };
  return (
    <aside
      aria-label="Findings"
      className="min-h-0 border-rule px-3 py-2 contain-content lg:overflow-y-auto lg:border-l"
    >
      <h2 className="font-display text-base font-semibold">Findings</h2>
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
            <button
              type="button"
              className="text-left font-semibold hover:underline"
              onClick={() => void open(f)}
            >
              <span className="sr-only">{SAYS[f.severity]}: </span>
              <Say text={f.title} />
            </button>
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
          {list && !behind ? "Nothing stands against this design." : "Looking it through…"}
        </p>
      )}
    </aside>
  );
}
