import { useState, type ReactNode } from "react";
import { api, get, Refused, type CabinetForm } from "../../api/client";
import { useSay, useSettings } from "../../app/settings";
import { inSystem, printUnit, readIn } from "../../lib/quantity";
import { schemaAt, start } from "../../lib/schema";
import { Button } from "../../ui/Button";
import { useDocument, useWorkbench } from "../../workbench/context";

type Kind = CabinetForm["kind"];

/** Outlines of the forms, seen from the front: width and height. */
const FORMS: { kind: Exclude<Kind, "within">; title: string; size: [number, number] }[] = [
  { kind: "balanced", title: "Balanced", size: [16, 22] },
  { kind: "slim", title: "Slim and tall", size: [10, 28] },
  { kind: "squat", title: "Low and broad", size: [28, 15] },
  { kind: "as_wide_as_woofer", title: "As wide as the woofer", size: [13, 20] },
];

/** A cabinet from the box, in the form that is pressed. */
export function MakeCabinet() {
  const workbench = useWorkbench();
  const document = useDocument();
  const say = useSay();
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const make = async (form: CabinetForm) => {
    setBusy(true);
    setWrong("");
    try {
      const made = await get(api.POST("/api/cabinet/made", { body: { document, form } }));
      workbench.take(made.title, made.changes);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      const first = problem?.errors?.[0]?.message;
      setWrong((first && say(first)) ?? problem?.detail ?? "The server does not answer.");
    }
    setBusy(false);
  };
  return (
    <div className="space-y-2">
      <div className="flex flex-wrap gap-1.5">
        {FORMS.map((f) => (
          <button
            key={f.kind}
            type="button"
            disabled={busy}
            className="flex min-h-11 items-center gap-2 rounded-sm border border-rule bg-panel px-2.5 hover:border-oak disabled:text-soft"
            onClick={() => void make({ kind: f.kind })}
          >
            <svg viewBox="0 0 32 32" className="size-7 shrink-0" aria-hidden="true">
              <rect
                x={16 - f.size[0] / 2}
                y={30 - f.size[1]}
                width={f.size[0]}
                height={f.size[1]}
                fill="none"
                stroke="var(--oak)"
                strokeWidth="1.6"
              />
              <circle
                cx="16"
                cy={30 - f.size[1] * 0.58}
                r={Math.min(...f.size) * 0.36}
                fill="none"
                stroke="var(--oak)"
              />
            </svg>
            {f.title}
          </button>
        ))}
      </div>
      <Within make={make} busy={busy}>
        {!document.cabinet && (
          <button
            type="button"
            className="text-oak underline decoration-dotted"
            onClick={() => workbench.set("/cabinet", start(schemaAt("/cabinet", {}) ?? {}))}
          >
            State its outside
          </button>
        )}
      </Within>
      {busy && (
        <p role="status" className="text-soft">
          Making it…
        </p>
      )}
      {wrong && (
        <p role="alert" className="border-l-2 border-brick pl-2">
          {wrong}
        </p>
      )}
    </div>
  );
}

/** Into a space of given sides. */
function Within({
  make,
  busy,
  children,
}: {
  make: (form: CabinetForm) => Promise<void>;
  busy: boolean;
  children: ReactNode;
}) {
  const { system } = useSettings();
  const unit = printUnit(inSystem("mm", system).unit);
  const [sides, setSides] = useState<string[]>(["", "", ""]);
  const read3 = sides.map((s) => readIn(s, "mm", system));
  const values = read3.flatMap((r) => ("value" in r && r.value >= 100 && r.value <= 5000 ? [r.value] : []));
  const [width_mm, height_mm, depth_mm] = values;
  const whole = width_mm !== undefined && height_mm !== undefined && depth_mm !== undefined;
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <span>Into a space, {unit}</span>
      {["wide", "high", "deep"].map((side, i) => (
        <input
          key={side}
          className="h-8 w-16 rounded-sm border border-rule bg-panel px-1.5"
          inputMode="decimal"
          aria-label={`The space is ${side}`}
          placeholder={side}
          value={sides[i]}
          onChange={(e) => setSides(sides.map((s, k) => (k === i ? e.target.value : s)))}
        />
      ))}
      <Button
        disabled={busy || !whole}
        onClick={() => whole && void make({ kind: "within", width_mm, height_mm, depth_mm })}
      >
        Make it
      </Button>
      {children}
    </div>
  );
}
