import { useState } from "react";
import { api, get, type MeasuringPlan, type Taken } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Say } from "../../ui/Say";
import { RESTED_MS } from "../../workbench/asker";
import { useCurrentPart, useDocument, usePart } from "../../workbench/context";
import { useDocumentQuery, type Question } from "../../workbench/documentQuery";
import { Amount } from "./Amount";
import { Sideways } from "../../ui/Sideways";
import { BenchDrawing } from "./BenchDrawing";
import { ByFile } from "./ByFile";
import { BySoundCard } from "./BySoundCard";
import { isImpedance } from "./places";
import { Kept, useKeeping } from "./useKeeping";

const asked: Question<MeasuringPlan> = (body, signal) => get(api.POST("/api/prove/plan", { body, signal }));

/** Where one measures, with what, how loud; and the simulated bench, which gives samples to learn on. */
export function TakeView() {
  const plan = useDocumentQuery(asked, RESTED_MS);
  const [kind, setKind] = useState<Taken["kind"]>("in_box");
  // what was said about a place: which mass, which box, how far
  const [amounts, setAmounts] = useState<Partial<Record<Taken["kind"], Taken>>>({});
  const place = plan?.places.find((p) => p.taken.kind === kind) ?? plan?.places[0];
  if (!plan || !place) return <p className="text-soft">Computing…</p>;
  const taken = amounts[place.taken.kind] ?? place.taken;
  return (
    <section
      aria-label="Take a measurement"
      className="grid min-h-0 flex-1 content-start gap-6 overflow-y-auto lg:grid-cols-[280px_minmax(0,1fr)]"
    >
      <div role="radiogroup" aria-label="Where">
        {plan.places.map((p) => (
          <label
            key={p.taken.kind}
            className={`block cursor-pointer border-l-3 py-1.5 pl-3 ${
              p.taken.kind === place.taken.kind
                ? "border-oak bg-selected"
                : "border-transparent hover:bg-panel"
            }`}
          >
            <input
              type="radio"
              name="place"
              className="sr-only"
              checked={p.taken.kind === place.taken.kind}
              onChange={() => setKind(p.taken.kind)}
            />
            <b className="font-display text-base font-semibold">{p.title}</b>
            <span className="block text-xs text-soft">{p.tells}</span>
          </label>
        ))}
      </div>
      <div className="max-w-2xl min-w-0">
        <Sideways label="Bench">
          <BenchDrawing taken={place.taken} />
        </Sideways>
        <ol className="list-decimal py-2 pl-5">
          {place.steps.map((step, i) => (
            <li key={i}>
              <Say text={step} />
            </li>
          ))}
        </ol>
        <p>
          Begin with <b>{tidy(plan.safe_volts, 2)} V</b> at the terminals at most: {plan.safe_why}.
        </p>
        <ul className="my-2 border-l-2 border-ochre pl-2 text-xs text-soft">
          {plan.cautions.map((c, i) => (
            <li key={i}>
              <Say text={c} />
            </li>
          ))}
        </ul>
        <Amount
          key={taken.kind}
          taken={taken}
          onChange={(next) => setAmounts({ ...amounts, [next.kind]: next })}
        />
        <Ways key={`with-${taken.kind}`} taken={taken} safe={plan.safe_volts} />
      </div>
    </section>
  );
}

const WAYS: [string, string][] = [
  ["bench", "On the simulated bench"],
  ["file", "By files"],
  ["card", "By this computer's sound card"],
];
let lastWay = "bench";

/** With what it is taken. */
function Ways({ taken, safe }: { taken: Taken; safe: number }) {
  const [way, setWay] = useState(lastWay);
  return (
    <>
      <div role="radiogroup" aria-label="With what" className="flex flex-wrap gap-x-4 gap-y-1 py-2">
        {WAYS.map(([id, title]) => (
          <label key={id} className="cursor-pointer">
            <input
              type="radio"
              name="way"
              checked={way === id}
              onChange={() => {
                lastWay = id;
                setWay(id);
              }}
            />{" "}
            {title}
          </label>
        ))}
      </div>
      {way === "bench" && <OnBench taken={taken} safe={safe} />}
      {way === "file" && <ByFile taken={taken} />}
      {way === "card" && <BySoundCard taken={taken} safe={safe} />}
    </>
  );
}

function OnBench({ taken, safe }: { taken: Taken; safe: number }) {
  const build = usePart((b) => b.build.id);
  const revision = useCurrentPart((r) => r.id);
  const letter = useCurrentPart((r) => r.letter);
  const document = useDocument();
  const keeping = useKeeping();
  const [room, setRoom] = useState(false);
  const away = taken.kind === "in_front" || taken.kind === "at_seat";
  const measure = () =>
    keeping.keep(() => {
      const volts = isImpedance(taken) ? undefined : Math.min(Number(tidy(safe, 2)), 2);
      const seed = Math.floor(Math.random() * 1e6);
      const wish = { taken, room: away && room, bench: { seed }, ...(volts && { volts }) };
      const path = { id: build };
      const body = { document, wish, name: `Bench, revision ${letter}`, revision };
      return get(api.POST("/api/builds/{id}/measurements/bench", { params: { path }, body }));
    });
  return (
    <div className="border-t border-rule pt-2">
      <h2 className="font-display text-base font-semibold">On the simulated bench</h2>
      <p className="text-xs text-soft">
        A sound card, a microphone and an impedance jig that are reckoned, with noise, hum and distortion; on
        it stands this cabinet just as it is designed. Its samples go the way a real recording goes.
      </p>
      {away && (
        <label className="block py-1 text-xs">
          <input type="checkbox" checked={room} onChange={(e) => setRoom(e.target.checked)} /> in a small room
          (a stand-in, not yours)
        </label>
      )}
      <p className="py-2">
        <Button look="strong" disabled={keeping.busy} onClick={() => void measure()}>
          {keeping.busy ? "Sweeping…" : "Measure"}
        </Button>
      </p>
      <Kept keeping={keeping} build={build} />
    </div>
  );
}
