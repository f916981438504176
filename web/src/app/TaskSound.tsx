import { useEffect, useRef, useState } from "react";
import type { Design } from "../api/client";
import { Player } from "../lib/player";
import { Button } from "../ui/Button";

/** A piece as the box played it when the task began and as it plays it now, at the same level in. */
export function TaskSound({ piece, start, now }: { piece: string; start: Design; now: Design }) {
  const [playing, setPlaying] = useState<string>();
  const [wrong, setWrong] = useState(false);
  const player = useRef<Player>(undefined);
  const asked = useRef<AbortController>(undefined);
  useEffect(
    () => () => {
      asked.current?.abort();
      player.current?.close();
    },
    [],
  );
  const stop = () => {
    asked.current?.abort();
    player.current?.stop();
    setPlaying(undefined);
  };
  const play = async (words: string, document: Design) => {
    stop();
    setWrong(false);
    const body = JSON.stringify({ document, piece });
    const { signal } = (asked.current = new AbortController());
    try {
      const headers = { "content-type": "application/json" };
      const answer = await fetch("/api/tour/sound", { method: "POST", headers, body, signal });
      if (!answer.ok) throw new Error(answer.statusText);
      player.current ??= new Player();
      const made = await player.current.own(await answer.blob());
      // what was left or stopped meanwhile stays silent
      if (signal.aborted) return;
      await player.current.begin(made, [{ gain: 1, sections: [] }], 0);
      setPlaying(words);
    } catch {
      setWrong(!signal.aborted);
    }
  };
  const ways: [string, Design][] = [
    ["as it was", start],
    ["as it is now", now],
  ];
  return (
    <span role="group" aria-label="By ear" className="flex flex-wrap items-center gap-2">
      {ways.map(([words, document]) => (
        <Button
          key={words}
          look="action"
          className="bg-panel"
          aria-pressed={playing === words}
          onClick={() => void play(words, document)}
        >
          Play it {words}
        </Button>
      ))}
      {playing && (
        <Button look="action" className="bg-panel" onClick={stop}>
          Stop
        </Button>
      )}
      <span className="text-xs text-soft">
        {wrong
          ? "That did not work."
          : "Turn it down first; small speakers do not play this low: headphones do."}
      </span>
    </span>
  );
}
