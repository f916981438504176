import type { FamilyInfo } from "../../api/client";
import { termOfFamily } from "../../lib/glossary";
import { Tip } from "../../ui/Tip";
import { FamilyMark } from "./FamilyMark";

type Props = {
  families: FamilyInfo[];
  chosen: string;
  possible: (id: string) => boolean;
  onChoose: (id: string) => void;
};

/** Every way to load the woofer, as small sections with their names; of the chosen one a sentence. */
export function FamilyPicker({ families, chosen, possible, onChoose }: Props) {
  const here = families.find((f) => f.id === chosen);
  return (
    <div className="border-b border-rule pb-1">
      <div className="grid grid-cols-4 gap-px" role="radiogroup" aria-label="Enclosure">
        {families.map((f) => (
          <Tip key={f.id} text={`${f.title}. ${f.summary}`} term={termOfFamily(f.id)}>
            <button
              type="button"
              role="radio"
              aria-label={f.title}
              aria-checked={f.id === chosen}
              disabled={f.id !== chosen && !possible(f.id)}
              onClick={() => onChoose(f.id)}
              className={`flex min-h-11 flex-col items-center gap-0.5 border-b-2 px-0.5 py-1 text-center text-[11px] leading-[1.15] hyphens-auto disabled:opacity-30 ${
                f.id === chosen ? "border-oak bg-selected" : "border-transparent hover:bg-panel"
              }`}
            >
              <FamilyMark id={f.id} />
              {f.title}
            </button>
          </Tip>
        ))}
      </div>
      <p className="pt-1 text-xs text-soft">
        <b className="font-display text-base font-semibold text-ink">{here?.title}</b> {here?.summary}
      </p>
    </div>
  );
}
