import { useState } from "react";
import { type ShelfWoofer } from "../../../api/client";
import { Draft } from "../../../ui/form";

export function Tags({ document, draft }: { document: ShelfWoofer; draft: Draft<ShelfWoofer> }) {
  const [text, setText] = useState((document.tags ?? []).join(", "));
  return (
    <label className="block py-1">
      <span className="text-soft">Tags</span>
      <input
        value={text}
        placeholder="hall, loud, second hand"
        className="w-full rounded-sm border border-rule bg-panel px-2 py-1"
        onChange={(e) => {
          setText(e.target.value);
          const tags = e.target.value
            .split(",")
            .map((t) => t.trim().slice(0, 40))
            .filter(Boolean);
          draft.replace({ ...draft.document(), tags: [...new Set(tags)].slice(0, 40) });
        }}
      />
    </label>
  );
}
