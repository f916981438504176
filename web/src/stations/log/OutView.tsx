import { useState } from "react";
import { api, get } from "../../api/client";
import { PaperChoice } from "../../app/PaperChoice";
import { useSettings } from "../../app/settings";
import { downloadText, fileName } from "../../lib/download";
import { Button } from "../../ui/Button";
import { useCurrentPart, usePart, useWorkbench } from "../../workbench/context";
import { outbox } from "../../workbench/outbox";

/** The build as it leaves: printed as a booklet, or as one file for another workshop. */
export function OutView() {
  const workbench = useWorkbench();
  const build = usePart((b) => b.build);
  const { id, letter } = useCurrentPart((r) => r);
  const { system, paper } = useSettings();
  const [busy, setBusy] = useState<"booklet" | "file">();
  const [wrong, setWrong] = useState("");
  const leave = async (what: "booklet" | "file", made: () => Promise<Blob>, kind: string, ending: string) => {
    setBusy(what);
    setWrong("");
    try {
      // what was changed a moment ago belongs to it
      await Promise.all([workbench.saved(), outbox.flush()]);
      downloadText(await made(), kind, `${fileName(build.name)}.${ending}`);
    } catch (cause) {
      setWrong(cause instanceof Error ? cause.message : "That did not work.");
    }
    setBusy(undefined);
  };
  const booklet = () => {
    const query = { paper, system, ahead_min: -new Date().getTimezoneOffset() };
    const params = { path: { id }, query };
    return get(api.GET("/api/revisions/{id}/booklet", { params, parseAs: "blob" }));
  };
  const file = () =>
    get(api.GET("/api/builds/{id}/file", { params: { path: { id: build.id } }, parseAs: "blob" }));
  return (
    <section aria-label="Out" className="grid max-w-4xl gap-8 md:grid-cols-2">
      <div className="space-y-2">
        <h2 className="font-display text-base font-semibold">The booklet</h2>
        <p>
          Revision {letter} on paper: brief, woofer, box with its curves, findings, drawings, cut plan, steps
          with their cautions, what was measured, the log with its photos, what was heard, cost, sources and
          estimates. Templates at 1 : 1 come last.
        </p>
        <PaperChoice />
        <Button
          look="strong"
          disabled={!!busy}
          onClick={() => void leave("booklet", booklet, "application/pdf", "pdf")}
        >
          {busy === "booklet" ? "Printing…" : "Print the booklet (PDF)"}
        </Button>
      </div>
      <div className="space-y-2">
        <h2 className="font-display text-base font-semibold">One file</h2>
        <p>
          All revisions with what they were before, work plans, measurements with their samples, log, photos
          and listening sessions that have ended, in an open zip. Any workshop takes it in, on its first page.
          A session that still runs is sealed and stays here.
        </p>
        <Button disabled={!!busy} onClick={() => void leave("file", file, "application/zip", "oak.zip")}>
          {busy === "file" ? "Packing…" : "Save the build as one file"}
        </Button>
      </div>
      {wrong && (
        <p role="alert" className="text-brick md:col-span-2">
          {wrong}
        </p>
      )}
    </section>
  );
}
