import { useEffect, useRef, useState } from "react";
import type { LevelRead, Problem } from "../../api/client";
import { noInputs, refusal, SoundCard } from "../../lib/soundcard";
import { encodeWav } from "../../lib/wav";
import type { Changes } from "./plan";

const RATE = 48_000;
/** Of what is kept of a recording nothing was played at first, s. */
const QUIET = 0.25;
/** So long it is listened where something else plays, s. */
const LISTENS = 8;

/** The microphone of this computer reads each, one after another; it stays where it is. */
export function ByMicrophone({ draft, change }: Changes) {
  const [plays, setPlays] = useState(true);
  const [busy, setBusy] = useState<{ at: number; share: number }>();
  const [wrong, setWrong] = useState("");
  const [doubt, setDoubt] = useState("");
  const stop = useRef<AbortController | undefined>(undefined);
  useEffect(() => () => stop.current?.abort(), []);
  const unable = noInputs();
  const read = async (at: number) => {
    stop.current = new AbortController();
    const { signal } = stop.current;
    setBusy({ at, share: 0 });
    setWrong("");
    setDoubt("");
    let card: SoundCard | undefined;
    try {
      card = await SoundCard.open("", "", RATE, () => undefined);
      const wav = plays
        ? await (await fetch("/api/programme/noise", { signal })).arrayBuffer()
        : await encodeWav(RATE, [new Float32Array(LISTENS * RATE)]).arrayBuffer();
      const heard = await card.record(wav, { signal, onShare: (share) => setBusy({ at, share }) });
      const first = heard[0];
      if (!first) throw new Error("Nothing came in from the input.");
      const query = plays ? `?quiet_s=${QUIET}` : "";
      const answer = await fetch(`/api/listening/level${query}`, {
        method: "POST",
        headers: { "content-type": "audio/wav" },
        body: encodeWav(RATE, [first]),
        signal,
      });
      const told = (await answer.json()) as LevelRead & Problem;
      if (!answer.ok) throw new Error(told.detail ?? "The recording was refused.");
      setDoubt(told.doubt);
      change({
        readings: draft.candidates.map((_, k) =>
          k === at ? told.level_db.toFixed(2) : (draft.readings[k] ?? ""),
        ),
      });
    } catch (cause) {
      if (!signal.aborted) setWrong(refusal(cause));
    }
    await card?.close();
    setBusy(undefined);
  };
  if (unable) return <p className="text-xs text-soft">{unable}</p>;
  return (
    <div className="space-y-1 text-xs">
      <p className="flex flex-wrap gap-x-3 gap-y-1">
        <span className="text-soft">Read by this computer's microphone:</span>
        {draft.candidates.map((c, i) => (
          <button
            key={i}
            type="button"
            className="text-oak underline decoration-dotted disabled:text-soft"
            disabled={!!busy}
            onClick={() => void read(i)}
          >
            {c.name}
          </button>
        ))}
      </p>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-(--verdigris)"
          checked={plays}
          onChange={(e) => setPlays(e.target.checked)}
        />
        this computer plays the noise to the amplifier
      </label>
      <p className="text-soft">
        The microphone stays where it is, and so does every gain but the one that is matched. Begin quietly:
        what comes out is as loud as the computer is set.
      </p>
      {busy && (
        <p role="status">
          Listening to {draft.candidates[busy.at]?.name}: {Math.round(busy.share * 100)} %{" "}
          <button type="button" className="text-oak underline" onClick={() => stop.current?.abort()}>
            stop
          </button>
        </p>
      )}
      {doubt && <p className="text-ochre">{doubt}</p>}
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
    </div>
  );
}
