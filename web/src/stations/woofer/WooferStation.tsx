import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, Refused } from "../../api/client";
import { woofers } from "../../api/queries";
import { FIGURES } from "../../lib/shelf";
import { Button } from "../../ui/Button";
import { SchemaForm, type Assumed } from "../../ui/SchemaForm";
import { useDocument, useEvaluation } from "../../workbench/context";
import { AddedMass } from "./AddedMass";
import { ArrayPanel } from "./ArrayPanel";

const OPEN = ["Small signal", "Limits"];

/** The woofer of this build: what custom reads from it, how many and how wired, and its figures. */
export function WooferStation() {
  const document = useDocument();
  const evaluation = useEvaluation();
  const derived = evaluation?.summary.woofer as Record<string, number> | undefined;
  const assumed: Assumed = Object.fromEntries(
    FIGURES.map((name) => {
      const value = derived?.[name];
      return [`/woofer/${name}`, value === undefined ? "none" : { value, words: "derived" }];
    }),
  );
  const { xmax_mm, displacement_l } = document.woofer;
  if (xmax_mm) assumed["/woofer/xmech_mm"] = "1.5 x Xmax";
  if (displacement_l === undefined) assumed["/woofer/displacement_l"] = "by its sizes";
  return (
    <>
      <h2 className="font-display text-base font-semibold">
        {document.woofer.name || "Own figures"}{" "}
        <span className="font-sans text-xs font-normal text-soft">{document.woofer.maker}</span>
      </h2>
      <div className="pb-1 text-xs text-soft">
        {evaluation?.summary.indications.map((i) => (
          <p key={i.school} title="An indication by common practice, not a verdict: the box is computed.">
            {i.sentence}
          </p>
        ))}
      </div>
      <ArrayPanel />
      <AddedMass />
      <SchemaForm pointer="/woofer" assumed={assumed} open={OPEN} />
      <KeepOnShelf />
    </>
  );
}

function KeepOnShelf() {
  const document = useDocument();
  const client = useQueryClient();
  const [said, setSaid] = useState<string | null>(null);
  const keep = async () => {
    try {
      const made = await get(api.POST("/api/woofers/keep", { body: { document } }));
      setSaid(`${made.name} is on the shelf.`);
      await client.invalidateQueries(woofers());
    } catch (cause) {
      setSaid(cause instanceof Refused ? cause.message : "That did not work.");
    }
  };
  return (
    <div className="mt-2 flex items-baseline gap-2">
      <Button look="action" onClick={() => void keep()}>
        Keep it on the shelf
      </Button>
      <span role="status" className="text-xs text-soft">
        {said}
      </span>
    </div>
  );
}
