import { Progress } from "../../ui/Progress";
import { useEffect, useRef, useState } from "react";
import type { Taken } from "../../api/client";
import { devices, noInputs, refusal, SoundCard, type Device } from "../../lib/soundcard";
import { encodeWav } from "../../lib/wav";
import { downloadText } from "../../lib/download";
import { Button } from "../../ui/Button";
import { Select } from "../../ui/Select";
import { useCurrentPart, usePart } from "../../workbench/context";
import { isImpedance } from "./places";
import { LevelMeter } from "./LevelMeter";
import { Playing } from "./Playing";
import { SteadySound } from "./SteadySound";
import { channelsFor, fetchSweep, keepRecording, useSetting } from "./tape";
import { Kept, useKeeping } from "./useKeeping";

/** The same sweep, played and recorded by this computer. */
export function BySoundCard({ taken, safe }: { taken: Taken; safe: number }) {
  const build = usePart((b) => b.build.id);
  const revision = useCurrentPart((r) => r.id);
  const letter = useCurrentPart((r) => r.letter);
  const jig = isImpedance(taken);
  const wish = channelsFor(useSetting(), jig);
  const rate = wish.sweep?.rate_hz ?? 48000;
  const [card, setCard] = useState<SoundCard>();
  const [peaks, setPeaks] = useState<number[]>([]);
  const [input, setInput] = useState("");
  const [output, setOutput] = useState("");
  const [lists, setLists] = useState<{ inputs: Device[]; outputs: Device[] }>({ inputs: [], outputs: [] });
  const [wrong, setWrong] = useState(noInputs() ?? "");
  const [share, setShare] = useState(0);
  const [last, setLast] = useState<Blob>();
  const stop = useRef<AbortController>(null);
  const keeping = useKeeping();
  useEffect(() => () => void card?.close(), [card]);
  const stale = card && card.rate !== rate;

  const open = async (from: string, to: string) => {
    setWrong("");
    setCard(undefined);
    try {
      const made = await SoundCard.open(from, to, rate, setPeaks);
      setLists({ inputs: await devices("audioinput"), outputs: await devices("audiooutput") });
      setCard(made);
    } catch (cause) {
      setWrong(refusal(cause));
    }
  };
  const sweep = () =>
    keeping.keep(async () => {
      if (!card) throw new Error("no input is open");
      stop.current = new AbortController();
      const { signal } = stop.current;
      setLast(undefined);
      setShare(0);
      const played = await fetchSweep(wish, true, signal);
      const samples = await card.record(played, { signal, onShare: setShare });
      const tape = encodeWav(card.rate, samples);
      setLast(tape);
      const about = { name: `Sound card, revision ${letter}`, taken };
      return keepRecording(build, revision, tape, about, { wish, signal });
    });
  const choices = (list: Device[]): [string, string][] => [
    ["", "the usual one"],
    ...list.filter((d) => d.id && d.id !== "default").map((d): [string, string] => [d.id, d.name]),
  ];
  return (
    <div className="border-t border-rule pt-2">
      <h2 className="font-display text-base font-semibold">By this computer&apos;s sound card</h2>
      <p className="text-xs text-soft">
        The sweep leaves by both outputs. The browser is asked to leave what comes in alone: no echo
        cancelling, no noise removal, no automatic level. Nothing is sent anywhere but to this program.
      </p>
      {wrong && (
        <p role="alert" className="border-l-2 border-brick pl-2 text-brick">
          {wrong}
        </p>
      )}
      <p className="flex flex-wrap items-baseline gap-3 py-2">
        {card ? (
          <>
            <span>
              Input{" "}
              <Select
                label="Input device"
                value={input}
                choices={choices(lists.inputs)}
                onChange={(id) => {
                  setInput(id);
                  void open(id, output);
                }}
              />
            </span>
            <span>
              Output{" "}
              <Select
                label="Output device"
                value={output}
                choices={choices(lists.outputs)}
                onChange={(id) => {
                  setOutput(id);
                  void open(input, id);
                }}
              />
            </span>
            <Button
              onClick={() => {
                setCard(undefined);
                setPeaks([]);
              }}
            >
              Close
            </Button>
          </>
        ) : (
          <Button disabled={!!noInputs()} onClick={() => void open(input, output)}>
            Open the inputs
          </Button>
        )}
      </p>
      {card && (
        <>
          <LevelMeter
            peaks={peaks}
            channel={wish.channel ?? 1}
            loopback={wish.loopback ?? undefined}
            jig={jig}
          />
          <SteadySound card={card} safe={safe} />
          <Playing jig={jig} />
          <p className="flex flex-wrap items-baseline gap-3 py-2">
            <Button
              look="strong"
              disabled={keeping.busy}
              onClick={() => void (stale ? open(input, output) : sweep())}
            >
              {keeping.busy ? "Sweeping…" : stale ? `Open the inputs at ${rate / 1000} kHz` : "Sweep"}
            </Button>
            {keeping.busy && (
              <>
                <span className="w-40">
                  <Progress label="Sweep" value={share} />
                </span>
                <Button onClick={() => stop.current?.abort()}>Stop</Button>
              </>
            )}
            {last && !keeping.busy && (
              <button
                type="button"
                className="text-oak underline"
                onClick={() => downloadText(last, "audio/wav", "recording.wav")}
              >
                Save what was recorded
              </button>
            )}
          </p>
        </>
      )}
      <Kept keeping={keeping} build={build} />
    </div>
  );
}
