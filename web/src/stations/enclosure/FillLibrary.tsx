import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { materials } from "../../api/queries";
import { tidy } from "../../lib/quantity";

/** What the fills of the form stand for: flow resistivity against packing, and where each law comes from. */
export function FillLibrary() {
  const [open, setOpen] = useState(false);
  const list = useQuery({ ...materials(), enabled: open }).data ?? [];
  return (
    <details
      className="group border-b border-rule/70"
      onToggle={(e) => setOpen((e.target as HTMLDetailsElement).open)}
    >
      <summary className="cursor-pointer list-none py-[5px] text-soft before:mr-1.5 before:inline-block before:content-['▸'] group-open:before:rotate-90">
        Fill materials and their sources
      </summary>
      <table className="w-full text-xs" data-testid="materials">
        <thead className="text-soft">
          <tr>
            <td />
            <th className="text-right font-normal" title="Usual packing">
              kg/m³
            </th>
            <th
              className="pl-2 text-right font-normal"
              title="Flow resistivity at that packing, and at twice of it"
            >
              Pa·s/m²
            </th>
          </tr>
        </thead>
        <tbody>
          {list.map((m) => (
            <tr key={m.title} className="border-t border-rule/60 align-top">
              <th scope="row" className="py-0.5 text-left font-normal">
                <span className="first-letter:uppercase">{m.title}</span>
                <span className="block text-[10.5px] leading-tight text-soft">{m.source}</span>
              </th>
              <td className="text-right font-mono">{tidy(m.usual_kg_per_m3, 2)}</td>
              <td className="pl-2 text-right font-mono whitespace-nowrap">
                {tidy(m.flow_resistivity_pa_s_per_m2, 2)}
                <span className="block text-soft">{tidy(m.packed_twice_pa_s_per_m2, 2)}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
