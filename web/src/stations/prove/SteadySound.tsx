import { useEffect, useRef, useState } from "react";
import type { SoundCard } from "../../lib/soundcard";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { Select } from "../../ui/Select";
import { fetchSound, steadyAddress } from "./tape";

const SIGNALS = {
  noise: { kind: "noise", from_hz: 30, to_hz: 80 },
  wide: { kind: "noise", from_hz: 20, to_hz: 500 },
  tone: { kind: "tone", hz: 50 },
};
const CHOICES: [string, string][] = [
  ["noise", "noise from 30 to 80 Hz"],
  ["wide", "noise from 20 to 500 Hz"],
  ["tone", "a tone of 50 Hz"],
];

/** A steady sound for setting levels: begins low, and is pulled up by hand. */
export function SteadySound({ card, safe }: { card: SoundCard; safe: number }) {
  const [signal, setSignal] = useState<keyof typeof SIGNALS>("noise");
  const [db, setDb] = useState(-50);
  const [playing, setPlaying] = useState(false);
  const [wrong, setWrong] = useState("");
  const loop = useRef<Awaited<ReturnType<SoundCard["loop"]>>>(null);
  const end = () => {
    loop.current?.stop();
    loop.current = null;
    setPlaying(false);
  };
  useEffect(() => () => loop.current?.stop(), [card]);
  const begin = async () => {
    setWrong("");
    try {
      loop.current = await card.loop(await fetchSound(steadyAddress(SIGNALS[signal], card.rate)), db);
      setPlaying(true);
    } catch {
      setWrong("The sound could not be fetched; nothing is played.");
    }
  };
  return (
    <Disclosure title="Set the level with a steady sound" indented>
      <p className="flex flex-wrap items-baseline gap-3 py-1">
        <Select
          label="Steady sound"
          value={signal}
          choices={CHOICES}
          onChange={(s) => {
            end();
            setSignal(s as keyof typeof SIGNALS);
          }}
        />
        <label className="flex items-baseline gap-2">
          Level
          <input
            type="range"
            min={-60}
            max={-6}
            value={db}
            aria-label="Level of the steady sound"
            onChange={(e) => {
              setDb(Number(e.target.value));
              loop.current?.set(Number(e.target.value));
            }}
          />
          <output className="font-mono">{db} dB</output>
        </label>
        <Button onClick={() => (playing ? end() : void begin())}>{playing ? "Silence" : "Play"}</Button>
      </p>
      <p className="text-xs text-soft">
        Amplifier down first. Bring it up until the microphone&apos;s bar stands in the shaded part, and not
        beyond {tidy(safe, 2)} V at the terminals: a meter set to AC reads it at 50 Hz.
      </p>
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
    </Disclosure>
  );
}
