import { useSize } from "../app/settings";
import { useWorkshop, useWorkshopState, workshop, type Owned } from "../app/workshop";
import { Disclosure } from "../ui/Disclosure";
import { FormContext } from "../ui/form";
import { SchemaForm } from "../ui/SchemaForm";

/** What belongs to the workshop and to no single build: its currency, its tools, the pieces on its rack. */
export function WorkshopHas() {
  const kept = useWorkshop();
  const state = useWorkshopState();
  if (!kept) return null;
  const tools = kept.has ?? [];
  const pieces = kept.rack?.length ?? 0;
  const counted = (n: number, one: string, more: string) => (n === 1 ? `1 ${one}` : `${n} ${more}`);
  return (
    <Disclosure
      title={`What the workshop has: ${counted(tools.length, "tool", "tools")}, ${counted(pieces, "piece", "pieces")} on the rack`}
    >
      <FormContext value={workshop}>
        <div className="grid gap-6 py-2 md:grid-cols-2">
          <div>
            <SchemaForm pointer="" only={["currency"]} />
            <SchemaForm pointer="" only={["rack"]} />
          </div>
          <div>
            <p className="text-soft">
              {tools.length
                ? "Ticked in the Build view of a cabinet, where each is wanted."
                : "Nothing is ticked yet. The Build view of a cabinet says what the work wants; what is ticked there is kept here."}
            </p>
            <ul className="columns-2 gap-4 pt-1">
              {tools.map((tool, i) => (
                <Tool key={`${tool.thing} ${tool.size_mm} ${i}`} tool={tool} />
              ))}
            </ul>
          </div>
        </div>
      </FormContext>
      {state === "away" && (
        <p role="status" className="text-ochre">
          The server does not answer; what was changed is kept here and sent when it does.
        </p>
      )}
    </Disclosure>
  );
}

function Tool({ tool }: { tool: Owned }) {
  const size = useSize();
  const many = tool.many && tool.many > 1 ? `${tool.many} x ` : "";
  const name = tool.thing.replaceAll("_", " ");
  const words = `${many}${name}${tool.size_mm == null ? "" : `, ${size(tool.size_mm, "mm", 4)}`}`;
  return (
    <li className="flex items-baseline justify-between gap-2 break-inside-avoid">
      <span>{words}</span>
      <button
        type="button"
        aria-label={`No longer has: ${words}`}
        className="px-1 text-soft hover:text-brick"
        onClick={() =>
          workshop.change((now) => {
            const has = (now.has ?? []).filter((o) => o !== tool);
            const made = { ...now };
            delete made.has;
            return has.length ? { ...made, has } : made;
          })
        }
      >
        ×
      </button>
    </li>
  );
}
