import { useRef, useState } from "react";
import { Refused, type Taken } from "../../api/client";
import { downloadText } from "../../lib/download";
import { Button } from "../../ui/Button";
import { useCurrentPart, usePart } from "../../workbench/context";
import { isImpedance } from "./places";
import { Playing } from "./Playing";
import { channelsFor, fetchSweep, keepRecording, useSetting } from "./tape";
import { Kept, useKeeping } from "./useKeeping";

/** The sweep as a file, played by anything; its recording brought back. */
export function ByFile({ taken }: { taken: Taken }) {
  const build = usePart((b) => b.build.id);
  const revision = useCurrentPart((r) => r.id);
  const kept = useSetting();
  const jig = isImpedance(taken);
  const wish = channelsFor(kept, jig);
  const [impulse, setImpulse] = useState(false);
  const [wrong, setWrong] = useState("");
  const keeping = useKeeping();
  const stop = useRef<AbortController>(null);
  const bring = (file: File) =>
    keeping.keep(() => {
      stop.current = new AbortController();
      const name = file.name.replace(/\.[^.]*$/, "").slice(0, 120);
      const more = { wish, file: file.name, impulse: impulse && !jig, signal: stop.current.signal };
      return keepRecording(build, revision, file, { name, taken }, more);
    });
  const save = async (stereo: boolean) => {
    setWrong("");
    try {
      const sound = await fetchSweep(wish, stereo);
      downloadText(new Blob([sound]), "audio/wav", "sweep.wav");
    } catch (cause) {
      setWrong(cause instanceof Refused ? "Not saved: see the sweep." : "The server does not answer.");
    }
  };
  return (
    <div className="border-t border-rule pt-2">
      <h2 className="font-display text-base font-semibold">By files</h2>
      <p className="text-xs text-soft">
        Play the sweep with anything and record it with anything, at the sweep&apos;s own rate and without any
        processing. The recording may begin before the sweep and end after it.
      </p>
      <p className="flex flex-wrap gap-4 py-1">
        <Button look="action" onClick={() => void save(false)}>
          Save the sweep, one channel
        </Button>
        <Button look="action" onClick={() => void save(true)}>
          Save it in two, for a wire back
        </Button>
        {wrong && (
          <span role="alert" className="text-brick">
            {wrong}
          </span>
        )}
      </p>
      <Playing jig={jig} />
      {!jig && (
        <label className="block py-1 text-xs">
          <input type="checkbox" checked={impulse} onChange={(e) => setImpulse(e.target.checked)} /> the file
          is an impulse response already
        </label>
      )}
      <p className="flex flex-wrap items-baseline gap-3 py-2">
        <label>
          Bring the recording back{" "}
          <input
            type="file"
            accept=".wav,audio/wav"
            aria-label="Recording"
            disabled={keeping.busy}
            className="max-w-72"
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = "";
              if (file) void bring(file);
            }}
          />
        </label>
        {keeping.busy && (
          <>
            <span role="status">Taking it apart…</span>
            <Button onClick={() => stop.current?.abort()}>Stop</Button>
          </>
        )}
      </p>
      <Kept keeping={keeping} build={build} />
    </div>
  );
}
