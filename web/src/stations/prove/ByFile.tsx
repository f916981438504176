import { useRef, useState } from "react";
import type { Taken } from "../../api/client";
import { useSay } from "../../app/settings";
import { Button } from "../../ui/Button";
import { useCurrentPart, usePart } from "../../workbench/context";
import { isImpedance } from "./places";
import { Playing } from "./Playing";
import { channelsFor, keepRecording, Refusal, setting, sweepAddress, useSetting } from "./tape";
import { Kept, useKeeping } from "./useKeeping";

/** The sweep as a file, played by anything; its recording brought back. */
export function ByFile({ taken }: { taken: Taken }) {
  const build = usePart((b) => b.build.id);
  const revision = useCurrentPart((r) => r.id);
  const say = useSay();
  const kept = useSetting();
  const jig = isImpedance(taken);
  const wish = channelsFor(kept, jig);
  const [impulse, setImpulse] = useState(false);
  const keeping = useKeeping();
  const stop = useRef<AbortController>(null);
  const bring = (file: File) =>
    keeping.keep(async () => {
      stop.current = new AbortController();
      try {
        const name = file.name.replace(/\.[^.]*$/, "").slice(0, 120);
        const more = { wish, file: file.name, impulse: impulse && !jig, signal: stop.current.signal };
        const made = await keepRecording(build, revision, file, { name, taken }, more);
        setting.say(undefined);
        return made;
      } catch (cause) {
        if (cause instanceof Refusal) {
          setting.say(cause.problem.errors);
          throw new Error(say(cause.problem.errors?.[0]?.message ?? [cause.problem.detail]), { cause });
        }
        throw cause;
      }
    });
  return (
    <div className="border-t border-rule pt-2">
      <h2 className="font-display text-base font-semibold">By files</h2>
      <p className="text-xs text-soft">
        Play the sweep with anything and record it with anything, at the sweep&apos;s own rate and without any
        processing. The recording may begin before the sweep and end after it.
      </p>
      <p className="flex flex-wrap gap-4 py-1">
        <a className="text-oak underline" href={sweepAddress(wish, false)} download>
          Save the sweep, one channel
        </a>
        <a className="text-oak underline" href={sweepAddress(wish, true)} download>
          Save it in two, for a wire back
        </a>
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
