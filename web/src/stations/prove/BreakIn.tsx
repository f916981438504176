import { useEffect, useRef, useState } from "react";
import { api, get, Refused, type MeasuringPlan } from "../../api/client";
import { useSize } from "../../app/settings";
import { playAlone, type Loop } from "../../lib/soundcard";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { Say } from "../../ui/Say";
import { RESTED_MS } from "../../workbench/asker";
import { useDocument } from "../../workbench/context";
import { fetchSound, steadyAddress } from "./tape";
import { useDocumentQuery, type Question } from "../../workbench/documentQuery";

const asked: Question<MeasuringPlan> = (body, signal) => get(api.POST("/api/prove/plan", { body, signal }));
const RATE = 48000;

const clock = (seconds: number) =>
  [seconds / 3600, (seconds / 60) % 60, seconds % 60]
    .map((n) => String(Math.floor(n)).padStart(2, "0"))
    .join(":");

/** Breaking the woofer in: a tone that ends by itself, and a line in the woofer's notes. */
export function BreakIn() {
  const how = useDocumentQuery(asked, RESTED_MS)?.break_in;
  const document = useDocument();
  const size = useSize();
  const [db, setDb] = useState(-60);
  const [ran, setRan] = useState(0);
  const [running, setRunning] = useState(false);
  const [said, setSaid] = useState("");
  const loop = useRef<Loop>(null);
  const whole = (how?.hours ?? 0) * 3600;
  useEffect(() => () => loop.current?.stop(), []);
  useEffect(() => {
    if (!running) return;
    const began = Date.now() - ran * 1000;
    const timer = setInterval(() => {
      const seconds = Math.min((Date.now() - began) / 1000, whole);
      setRan(seconds);
      if (seconds >= whole) {
        loop.current?.stop();
        setRunning(false);
      }
    }, 500);
    return () => clearInterval(timer);
    // it goes on from where it was begun
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [running, whole]);
  if (!how) return null;
  const begin = async () => {
    setSaid("");
    try {
      const tone = await fetchSound(steadyAddress({ kind: "tone", hz: how.frequency_hz }, RATE));
      loop.current = await playAlone(tone, RATE, db);
      setRunning(true);
    } catch {
      setSaid("The tone could not be played: is there a sound output?");
    }
  };
  const end = () => {
    loop.current?.stop();
    setRunning(false);
  };
  const log = async () => {
    const day = new Date().toISOString().slice(0, 10);
    const hours = (ran / 3600).toFixed(1);
    const note = `${day}: broken in for ${hours} h at ${how.frequency_hz} Hz, about ${how.volts.toFixed(1)} V, ${size(how.stroke_mm, "mm", 2)} each way`;
    try {
      const kept = await get(api.POST("/api/woofers/log", { body: { document, note } }));
      setSaid(`Written down with ${kept.name || "the woofer"} on the shelf.`);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      setSaid(`Not written down: ${problem?.detail ?? "the server does not answer."}`);
    }
  };
  return (
    <Disclosure title="Break it in" offers indented>
      <ol className="list-decimal py-1 pl-5">
        {how.steps.map((step, i) => (
          <li key={i}>
            <Say text={step} />
          </li>
        ))}
      </ol>
      <label className="flex items-baseline gap-2 py-1">
        Level
        <input
          type="range"
          min={-60}
          max={0}
          value={db}
          aria-label="Level of the tone"
          onChange={(e) => {
            setDb(Number(e.target.value));
            loop.current?.set(Number(e.target.value));
          }}
        />
        <output className="font-mono">{db} dB</output>
      </label>
      <p className="flex flex-wrap items-baseline gap-3 py-1">
        <Button look="action" onClick={() => (running ? end() : void begin())}>
          {running ? "Stop" : ran ? "Go on" : `Play ${how.frequency_hz} Hz`}
        </Button>
        <span className="font-mono" role="timer">
          {clock(ran)} of {clock(whole)}
        </span>
        {ran > 0 && !running && <Button onClick={() => void log()}>Write it down</Button>}
      </p>
      <p className="text-xs text-soft">
        {how.volts.toFixed(1)} V for {size(how.stroke_mm, "mm", 2)} each way.
      </p>
      <p role="status" className="text-xs">
        {said}
      </p>
    </Disclosure>
  );
}
