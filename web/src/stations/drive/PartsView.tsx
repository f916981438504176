import { useState } from "react";
import { api, get, type Design, type DriveView, type PartsFound } from "../../api/client";
import { useSay, useSize } from "../../app/settings";
import { partsSchema } from "../../lib/schema";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { Draft } from "../../ui/form";
import { Plot } from "../../ui/Plot";
import { Sideways } from "../../ui/Sideways";
import { Saved, SavedTable } from "../../ui/Saved";
import { SchemaForm } from "../../ui/SchemaForm";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";
import { Alone } from "./ChainSketch";
import { dropped, inserted, partKinds, shifted, stepped, type ChainPart } from "./ladder";
import { LadderDrawing } from "./LadderDrawing";
import { useDrive } from "./useDrive";
import { Wished } from "./Wished";

const NONE: ChainPart[] = [];
const MOST = 20;

/** Parts between leads and woofers: drawn, edited on the drawing, found by solving, and what they bear. */
export function PartsView() {
  const document = useDocument();
  const workbench = useWorkbench();
  const drive = useDrive();
  const parts = document.chain?.parts ?? NONE;
  const [chosen, setChosen] = useState<number | null>(null);
  const [inserting, setInserting] = useState<number | null>(null);
  const amplifier = document.chain?.amplifier;
  const count = document.array?.count ?? 1;
  const put = (at: number, part: ChainPart) => {
    workbench.change(inserted(parts, at, part));
    setInserting(null);
    setChosen(at);
  };
  return (
    <section
      aria-label="Parts"
      className="grid min-h-0 flex-1 content-start gap-x-6 gap-y-3 lg:grid-cols-[306px_minmax(0,1fr)]"
    >
      <div>
        <Find />
        {chosen !== null && parts[chosen] && (
          <Chosen
            index={chosen}
            parts={parts}
            drive={drive}
            onGone={() => setChosen(null)}
            onAt={setChosen}
          />
        )}
        <Snap drive={drive} />
      </div>
      <div className="min-w-0 space-y-3">
        <Saved title="Circuit" note="press a part to edit it, a ring on the line to put one in">
          <Sideways label="Circuit">
            {" "}
            <LadderDrawing
              parts={parts}
              chosen={chosen}
              onChoose={(i) => setChosen(i === chosen ? null : i)}
              onStep={(i, by) =>
                workbench.change(stepped(parts, i, by, drive?.parts[i]?.components), `part-step-${i}`)
              }
              onInsert={(i) => parts.length < MOST && setInserting(inserting === i ? null : i)}
              amplifier={amplifier?.name || "amplifier"}
              woofers={`${count > 1 ? `${count} x ` : ""}${document.woofer.name || "woofer"}`}
            />
          </Sideways>
        </Saved>
        {inserting !== null && (
          <div className="flex flex-wrap gap-1 text-xs" role="group" aria-label="Kinds of parts">
            {partKinds().flatMap((k) =>
              (["in_line", "across"] as const).map((placement) => (
                <button
                  key={k.kind + placement}
                  type="button"
                  title={k.help}
                  className="rounded-sm border border-rule px-1.5 py-0.5 hover:border-oak"
                  onClick={() => put(inserting, { placement, part: k.fresh() })}
                >
                  {k.title} {placement === "in_line" ? "in line" : "across"}
                </button>
              )),
            )}
          </div>
        )}
        {parts.length === 0 && (
          <p className="text-soft">
            Nothing lies between the leads and the woofers. Press the ring on the line to put a part in, or
            have parts found for a purpose.
          </p>
        )}
        <Effect />
        <Bearing drive={drive} parts={parts} />
        <p className="text-xs text-soft">
          Computed with the woofers&apos; real impedance in this box. What an iron core adds when it
          saturates, and how an electrolytic capacitor ages, are not.
        </p>
      </div>
    </section>
  );
}

const FOR = { properties: { wish: { ...partsSchema, title: "For" } }, required: ["wish"] };

type Purpose = { wish: unknown };

const ask = (document: Design, { wish }: Purpose): Promise<PartsFound> =>
  get(api.POST("/api/drive/parts", { body: { document, parts: wish as never } }));

/** Parts found for a purpose. */
function Find() {
  const say = useSay();
  const [draft] = useState(
    () => new Draft<Purpose>(FOR, { wish: { kind: "low_pass_second", corner_hz: 120 } }, 0),
  );
  return (
    <Wished
      title="Find parts for…"
      open
      draft={draft}
      from="/parts"
      to="/wish"
      find="Find parts"
      ask={ask}
      take="Put them in"
      taken="Parts"
      testid="parts-found"
    >
      {(found) => <p>{say(found.sentence)}</p>}
    </Wished>
  );
}

function Chosen({
  index,
  parts,
  drive,
  onGone,
  onAt,
}: {
  index: number;
  parts: ChainPart[];
  drive: DriveView | undefined;
  onGone: () => void;
  onAt: (index: number) => void;
}) {
  const workbench = useWorkbench();
  const size = useSize();
  const part = parts[index];
  const seen = drive?.parts[index];
  if (!part) return null;
  const move = (by: 1 | -1) => {
    if (!parts[index + by]) return;
    workbench.change(shifted(parts, index, by));
    onAt(index + by);
  };
  return (
    <section aria-label="Chosen part" className="mt-2 border-l-2 border-oak/60 pl-2">
      <label className="flex items-center gap-1.5 text-soft">
        <input
          type="checkbox"
          className="accent-oak"
          checked={!part.off}
          onChange={(e) => workbench.set(`/chain/parts/${index}/off`, e.target.checked ? undefined : true)}
        />
        on
      </label>
      <SchemaForm pointer={`/chain/parts/${index}`} only={["placement", "part", "price"]} />
      {seen && drive && <Alone view={seen.member} hz={drive.frequency_hz} />}
      {seen && seen.windings.length > 0 && (
        <Disclosure title="Wind it yourself" offers>
          <table className="w-full text-xs" data-testid="windings">
            <Heads>
              <Head left>wire</Head>
              <Head>turns</Head>
              <Head>core</Head>
              <Head>wide</Head>
              <Head>ohm</Head>
              <Head>g</Head>
            </Heads>
            <tbody>
              {seen.windings.map((w) => (
                <Row key={w.wire_mm}>
                  <Name>{size(w.wire_mm, "mm", 2)}</Name>
                  <Value>{w.turns}</Value>
                  <Value>{size(w.core_mm, "mm", 2)}</Value>
                  <Value>{size(w.width_mm, "mm", 2)}</Value>
                  <Value>{tidy(w.resistance_ohm, 2)}</Value>
                  <Value>{w.copper_g.toFixed(0)}</Value>
                </Row>
              ))}
            </tbody>
          </table>
          <p className="text-xs text-soft">
            Air core, square winding (Brooks 1931); enamel a sixteenth over the copper, an estimate.
          </p>
        </Disclosure>
      )}
      <div className="flex flex-wrap gap-1 pt-1 text-xs">
        <Button disabled={index === 0} onClick={() => move(-1)}>
          Toward the amplifier
        </Button>
        <Button disabled={index === parts.length - 1} onClick={() => move(1)}>
          Toward the woofers
        </Button>
        <Button
          disabled={parts.length >= MOST}
          onClick={() => {
            workbench.change(inserted(parts, index + 1, { ...part }));
            onAt(index + 1);
          }}
        >
          Copy it
        </Button>
        <Button
          onClick={() => {
            onGone();
            workbench.change(dropped(parts, index));
          }}
        >
          Take out
        </Button>
      </div>
    </section>
  );
}

/** Values that can be bought, with what rounding does. */
function Snap({ drive }: { drive: DriveView | undefined }) {
  const workbench = useWorkbench();
  if (!drive?.snapped.length) return null;
  return (
    <Disclosure title="Values that can be bought" indented open>
      <ul className="text-xs">
        {drive.snapped.map((s) => (
          <li key={s.series} className="flex items-baseline gap-2 py-0.5">
            <Button
              look="action"
              className="text-xs"
              onClick={() => workbench.take(`Rounded to ${s.series.toUpperCase()}`, s.changes)}
            >
              Round to {s.series.toUpperCase()}
            </Button>
            <span className="text-soft">changes the level by up to {s.off_db.toFixed(2)} dB</span>
          </li>
        ))}
      </ul>
    </Disclosure>
  );
}

/** What the parts do to the level and to the load. */
function Effect() {
  const evaluation = useEvaluation();
  if (!evaluation) return null;
  const c = evaluation.curves;
  const top = Math.ceil((Math.max(...c.level_db) + 1) / 5) * 5;
  const shared = {
    x: c.frequency_hz,
    width: 640,
    height: 120,
    log: true,
    across: [10, 1000] as [number, number],
    ticks: [10, 20, 50, 100, 200, 500, 1000],
  };
  const load = c.load_ohm.length ? c.load_ohm : c.impedance_ohm;
  return (
    <>
      <Plot {...shared} title="Level" unit="dB" range={[top - 40, top]} curves={[{ values: c.level_db }]} />
      <Plot
        {...shared}
        title="Load of the amplifier"
        note="dashed: the woofers alone"
        unit="ohm"
        range={[0, Math.min(Math.max(...load, ...c.impedance_ohm) * 1.1, 200)]}
        showTicks
        xUnit="Hz"
        curves={[
          { values: load },
          { values: c.impedance_ohm, dash: "4 3", colour: "var(--soft)", width: 1.1 },
        ]}
      />
    </>
  );
}

/** What each component bears at this drive. */
function Bearing({ drive, parts }: { drive: DriveView | undefined; parts: ChainPart[] }) {
  const rows = (drive?.parts ?? []).flatMap((p, i) =>
    p.components.map((c) => ({ title: `${p.member.title} ${i + 1}`, part: parts[i], ...c })),
  );
  if (!rows.length) return null;
  return (
    <SavedTable
      title="What they bear"
      note="at this drive, a sine at the worst frequency from 10 to 1000 Hz"
      columns={["part", "component", "watts", "amperes_rms", "volts_rms"]}
      rows={() => rows.map((r) => [r.title, r.sort, r.watts, r.amperes, r.volts])}
    >
      <table className="w-full text-xs" data-testid="bearing">
        <Heads>
          <Head left>part</Head>
          <Head left>component</Head>
          <Head>W</Head>
          <Head>A</Head>
          <Head>V</Head>
        </Heads>
        <tbody>
          {rows.map((r, i) => (
            <Row key={i}>
              <Name>{r.title}</Name>
              <td>{r.sort}</td>
              <Value>{tidy(r.watts, 2)}</Value>
              <Value>{tidy(r.amperes, 2)}</Value>
              <Value>{tidy(r.volts, 2)}</Value>
            </Row>
          ))}
        </tbody>
      </table>
    </SavedTable>
  );
}
