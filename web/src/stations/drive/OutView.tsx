import { useState } from "react";
import { useAnswer } from "../../api/answer";
import { api, get, type DriveView } from "../../api/client";
import { PaperChoice } from "../../app/PaperChoice";
import { useSettings } from "../../app/settings";
import { downloadText, fileName } from "../../lib/download";
import { Button } from "../../ui/Button";
import { SavedTable } from "../../ui/Saved";
import { Select } from "../../ui/Select";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";
import { useDocument } from "../../workbench/context";
import { useDrive } from "./useDrive";

type Format = "json" | "csv" | "text" | "wav";

const FILES: Record<Format, { title: string; type: string; end: string }> = {
  json: { title: "JSON", type: "application/json", end: "json" },
  csv: { title: "CSV", type: "text/csv", end: "csv" },
  text: { title: "Plain text", type: "text/plain", end: "txt" },
  wav: { title: "Impulse response (WAV)", type: "audio/wav", end: "wav" },
};

const PLACES = { player: "in what plays", line: "at line level", amplifier: "in the amplifier" };

/** What leaves the door: the settings card, and the filters as biquads. */
export function OutView() {
  const document = useDocument();
  const drive = useDrive();
  const { system, paper } = useSettings();
  const [rate, setRate] = useState("48000");
  const [added, setAdded] = useState(false);
  const [amplifier, setAmplifier] = useState(false);
  const [refused, setRefused] = useState<string>();
  const [answered, setAnswered] = useState<string>();
  const query = { rate: Number(rate), added, amplifier };
  const ask = async (signal: AbortSignal) => {
    try {
      const made = await get(
        api.POST("/api/drive/biquads", {
          params: { query: { ...query, format: "json" } },
          body: document,
          signal,
        }),
      );
      setAnswered(undefined);
      return made;
    } catch (cause) {
      if (!signal.aborted) setAnswered(cause instanceof Error ? cause.message : "they could not be made");
      return undefined;
    }
  };
  const biquads = useAnswer("biquads", { document, query }, ask);
  const name = fileName(`${document.name || "chain"} ${rate}`);
  const guarded = async (work: () => Promise<void>) => {
    setRefused(undefined);
    try {
      await work();
    } catch (cause) {
      setRefused(cause instanceof Error ? cause.message : "it could not be saved");
    }
  };
  const save = (format: Format) =>
    guarded(async () => {
      const made = await get(
        api.POST("/api/drive/biquads", {
          params: { query: { ...query, format } },
          body: document,
          parseAs: "blob",
        }),
      );
      downloadText(made, FILES[format].type, `${name}.${FILES[format].end}`);
    });
  const card = () =>
    guarded(async () => {
      const made = await get(
        api.POST("/api/drive/card", {
          params: { query: { paper, system } },
          body: document,
          parseAs: "blob",
        }),
      );
      downloadText(made, "application/pdf", `${fileName(`${document.name || "chain"} settings`)}.pdf`);
    });
  return (
    <section
      aria-label="Out"
      className="grid min-h-0 flex-1 content-start gap-6 lg:grid-cols-[306px_minmax(0,1fr)]"
    >
      <div>
        <h2 className="font-display text-base font-semibold">Settings card</h2>
        <p className="py-1 text-xs text-soft">
          What every knob is set to, on paper, to lie beside the amplifier.
        </p>
        <div className="flex items-center gap-2">
          <Button look="strong" onClick={() => void card()}>
            Print the card (PDF)
          </Button>
          <PaperChoice />
        </div>
        <h2 className="pt-4 font-display text-base font-semibold">For a digital equaliser</h2>
        <div className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
          <span className="flex-1 text-soft">Sampling rate</span>
          <Select
            label="Sampling rate"
            value={rate}
            choices={[
              ["44100", "44.1 kHz"],
              ["48000", "48 kHz"],
              ["96000", "96 kHz"],
            ]}
            onChange={setRate}
          />
        </div>
        <div className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
          <span className="flex-1 text-soft">a1 and a2 are</span>
          <Select
            label="Sign of a1 and a2"
            value={added ? "added" : "subtracted"}
            choices={[
              ["subtracted", "taken off"],
              ["added", "added, signs turned"],
            ]}
            onChange={(v) => setAdded(v === "added")}
          />
        </div>
        <label className="flex items-center gap-1.5 border-b border-rule/70 py-[5px] text-soft">
          <input
            type="checkbox"
            className="accent-oak"
            checked={amplifier}
            onChange={(e) => setAmplifier(e.target.checked)}
          />
          with the filters set in the amplifier
        </label>
        <div className="flex flex-wrap gap-1 pt-2">
          {(Object.keys(FILES) as Format[]).map((format) => (
            <Button key={format} look="action" onClick={() => void save(format)}>
              {FILES[format].title}
            </Button>
          ))}
        </div>
        {(refused ?? answered) && (
          <p role="alert" className="py-1 text-xs text-brick">
            {refused ?? answered}
          </p>
        )}
        {biquads && (
          <p className="pt-2 text-xs text-soft">
            {biquads.convention}. From 10 to 500 Hz the sampled filters are within{" "}
            {small(biquads.off_analog_db)} dB of the analog ones; coefficients cut to 32-bit floats would be
            off by up to {small(biquads.off_in_floats_db)} dB.
          </p>
        )}
      </div>
      <div className="min-w-0 space-y-4">
        <Settings settings={drive?.settings ?? []} />
        {biquads && biquads.sections.length > 0 && (
          <SavedTable
            title="Biquads"
            note={`${Number(rate) / 1000} kHz; ${added ? "a1, a2 added" : "a1, a2 taken off"}`}
            columns={["filter", "b0", "b1", "b2", "a1", "a2"]}
            rows={() => biquads.sections.map((s) => [s.filter, s.b0, s.b1, s.b2, s.a1, s.a2])}
          >
            <div className="overflow-x-auto">
              <table className="w-full text-xs" data-testid="biquads">
                <Heads>
                  <Head left>of</Head>
                  {["b0", "b1", "b2", "a1", "a2"].map((c) => (
                    <Head key={c}>{c}</Head>
                  ))}
                </Heads>
                <tbody>
                  {biquads.sections.map((s, i) => (
                    <Row key={i}>
                      <Name>{s.filter}</Name>
                      {[s.b0, s.b1, s.b2, s.a1, s.a2].map((v, k) => (
                        <Value key={k}>{v.toFixed(12)}</Value>
                      ))}
                    </Row>
                  ))}
                </tbody>
              </table>
            </div>
          </SavedTable>
        )}
      </div>
    </section>
  );
}

/** A small level, to what it is worth telling. */
const small = (db: number) => (db < 0.001 ? "0.001" : db.toFixed(db < 0.1 ? 3 : 1));

function Settings({ settings }: { settings: DriveView["settings"] }) {
  return (
    <SavedTable
      title="Settings"
      note="filters that are off are left out"
      columns={["where", "filter", "knob", "set to"]}
      rows={() => settings.map((s) => [PLACES[s.stage], s.filter, s.knob, s.value])}
    >
      {settings.length ? (
        <table className="w-full text-xs" data-testid="settings">
          <Heads>
            <Head left>where</Head>
            <Head left>filter</Head>
            <Head left>knob</Head>
            <Head left>set to</Head>
          </Heads>
          <tbody>
            {settings.map((s, i) => (
              <Row key={i}>
                <Name>{PLACES[s.stage]}</Name>
                <td className="pr-3">{s.filter}</td>
                <td className="pr-3">{s.knob}</td>
                <td className="font-mono">{s.value}</td>
              </Row>
            ))}
          </tbody>
        </table>
      ) : (
        <p className="text-soft">No filter is on: there is nothing to set. Add one at the chain.</p>
      )}
    </SavedTable>
  );
}
