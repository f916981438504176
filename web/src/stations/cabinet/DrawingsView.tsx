import { useState } from "react";
import { api, get, type DrawingSheet } from "../../api/client";
import { downloadText, fileName } from "../../lib/download";
import { Button } from "../../ui/Button";
import { useDocument, useWorkbench } from "../../workbench/context";
import { NoCabinet } from "../enclosure/NoCabinet";
import { Drawn } from "./Drawn";
import { useDrawings } from "./useCabinet";
import { Say } from "../../ui/Say";
import { PaperChoice } from "../../app/PaperChoice";
import { useSay, useSettings } from "../../app/settings";
import { plain } from "../../lib/said";

type Format = "svg" | "dxf" | "pdf";

const KINDS: Record<Format, string> = { svg: "image/svg+xml", dxf: "image/vnd.dxf", pdf: "application/pdf" };

/** Every drawing of the cabinet, saved one by one or printed as one plan. */
export function DrawingsView() {
  const document = useDocument();
  const drawings = useDrawings();
  const workbench = useWorkbench();
  const { system, paper } = useSettings();
  const [shown, setShown] = useState<string>();
  const [busy, setBusy] = useState<string>();
  const [refused, setRefused] = useState<string>();
  if (!document.cabinet) return <NoCabinet then="and it is drawn." />;
  if (!drawings) return <p className="text-soft">Computing…</p>;
  const current = drawings.find((d) => d.id === shown) ?? drawings[0];
  const save = async (drawing: string, title: string, format: Format) => {
    const revision = workbench.current;
    if (!revision) return;
    const body = { document: revision.document, work: revision.work };
    setBusy(`${drawing} ${format}`);
    setRefused(undefined);
    try {
      const made = await get(
        api.POST("/api/drawings/file", {
          params: { query: { drawing, format, paper, system } },
          body,
          parseAs: "blob",
        }),
      );
      downloadText(made, KINDS[format], `${fileName(title)}.${format}`);
    } catch (cause) {
      setRefused(cause instanceof Error ? cause.message : "it could not be saved");
    }
    setBusy(undefined);
  };
  const name = document.name || "cabinet";
  return (
    <section aria-label="Drawings" className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[306px_minmax(0,1fr)]">
      <div>
        <Button look="strong" disabled={!!busy} onClick={() => void save("plan", `${name} plan`, "pdf")}>
          {busy === "plan pdf" ? "Drawing…" : "Print the whole plan (PDF)"}
        </Button>
        <p className="py-1 text-xs text-soft">
          Drawings, cut list, sheets, what to buy, steps with their cautions, hole templates at 1 : 1.
        </p>
        <PaperChoice />
        {refused && (
          <p role="alert" className="py-1 text-brick">
            {refused}
          </p>
        )}
        <ul className="pt-1">
          {drawings.map((d) => (
            <li key={d.id}>
              <button
                type="button"
                aria-current={d.id === current?.id}
                className={`w-full rounded-sm px-2 py-1 text-left hover:bg-selected ${d.id === current?.id ? "bg-selected font-medium" : ""}`}
                onClick={() => setShown(d.id)}
              >
                <Say text={d.title} />
                {d.real_size && <span className="text-xs text-soft"> at 1 : 1</span>}
              </button>
            </li>
          ))}
        </ul>
      </div>
      {current && <One drawing={current} busy={busy} save={save} name={name} />}
    </section>
  );
}

function One({
  drawing,
  busy,
  save,
  name,
}: {
  drawing: DrawingSheet;
  busy: string | undefined;
  save: (drawing: string, title: string, format: Format) => Promise<void>;
  name: string;
}) {
  const say = useSay();
  return (
    <div className="min-w-0">
      <h2 className="flex flex-wrap items-baseline gap-2 font-display text-base font-semibold">
        <Say text={drawing.title} />
        <span className="ml-auto flex gap-1 font-sans text-xs font-normal">
          {(["svg", "dxf", "pdf"] as const).map((format) => (
            <Button
              key={format}
              disabled={!!busy}
              onClick={() => void save(drawing.id, `${name} ${plain(drawing.title)}`, format)}
            >
              {format.toUpperCase()}
            </Button>
          ))}
        </span>
      </h2>
      {drawing.note.length > 0 && (
        <p className="text-soft">
          <Say text={drawing.note} />
        </p>
      )}
      <Drawn
        svg={drawing.svg}
        title={say(drawing.title)}
        caption={drawing.real_size ? "On screen not at its real size: print it" : ""}
        className="h-[clamp(380px,66vh,620px)]"
      />
    </div>
  );
}
