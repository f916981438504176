import { useEffect, useRef, useState } from "react";
import { useDocument } from "../../workbench/context";
import { NoCabinet } from "../enclosure/NoCabinet";
import { Drawn } from "./Drawn";
import type { Scene } from "./scene";
import { useCabinet, useDrawings } from "./useCabinet";
import { plain } from "../../lib/said";

/** The cabinet in space: turned with the mouse or the arrow keys, its panels lifted off. */
export function SolidView() {
  const document = useDocument();
  const cabinet = useCabinet();
  const holder = useRef<HTMLDivElement>(null);
  const scene = useRef<Scene>(undefined);
  const [apart, setApart] = useState(0);
  const [off, setOff] = useState<Set<string>>(new Set());
  const [state, setState] = useState<"waiting" | "there" | "none">("waiting");
  const names = [...new Set(cabinet?.boards.map((b) => b.name) ?? [])];

  useEffect(() => {
    const div = holder.current;
    if (!div) return;
    let gone = false;
    // the library comes only where it is looked at
    void import("./scene").then(({ openScene }) => {
      if (gone) return;
      scene.current = openScene(div);
      setState(scene.current ? "there" : "none");
    });
    return () => {
      gone = true;
      scene.current?.close();
      scene.current = undefined;
    };
  }, []);
  useEffect(() => {
    if (cabinet && state === "there") scene.current?.show(cabinet, apart, off);
  }, [cabinet, apart, off, state]);

  if (!document.cabinet) return <NoCabinet then="and it stands here to be turned." />;
  const turn = (e: React.KeyboardEvent) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
    if (!by) return;
    e.preventDefault();
    scene.current?.turn(by[0] ?? 0, by[1] ?? 0);
  };
  return (
    <section aria-label="Solid" className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[306px_minmax(0,1fr)]">
      <div>
        <label className="block border-b border-rule/70 py-1">
          <span className="text-soft">Lift the panels off</span>
          <input
            type="range"
            min={0}
            max={1}
            step={0.02}
            value={apart}
            aria-label="Lift the panels off"
            className="w-full accent-(--oak)"
            onChange={(e) => setApart(Number(e.target.value))}
          />
        </label>
        <fieldset className="py-1">
          <legend className="text-soft">Shown</legend>
          {names.map((name) => (
            <label key={name} className="flex items-center gap-2 py-px">
              <input
                type="checkbox"
                className="accent-(--oak)"
                checked={!off.has(name)}
                onChange={(e) => {
                  const next = new Set(off);
                  if (e.target.checked) next.delete(name);
                  else next.add(name);
                  setOff(next);
                }}
              />
              {name}
            </label>
          ))}
        </fieldset>
        <p className="text-xs text-soft">Drag to turn, wheel to come nearer, arrow keys too.</p>
      </div>
      <div className="min-w-0">
        <div
          ref={holder}
          role="application"
          aria-label="The cabinet in space; arrow keys turn it"
          tabIndex={0}
          data-testid="solid"
          data-state={state}
          className={`h-[clamp(320px,68vh,640px)] w-full ${state === "none" ? "hidden" : ""}`}
          onKeyDown={turn}
        />
        {state === "none" && <Still />}
      </div>
    </section>
  );
}

/** Without WebGL: the exploded drawing. */
function Still() {
  const drawings = useDrawings();
  const exploded = drawings?.find((d) => d.id === "exploded");
  if (!exploded) return <p className="text-soft">Computing…</p>;
  return (
    <>
      <p className="text-soft">This browser shows no 3-D pictures; here is the exploded drawing.</p>
      <Drawn svg={exploded.svg} title={plain(exploded.title)} className="h-[clamp(380px,62vh,600px)]" />
    </>
  );
}
