import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { materials } from "../../api/queries";
import { tidy } from "../../lib/quantity";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";
import { Disclosure } from "../../ui/Disclosure";

/** What the fills of the form stand for: flow resistivity against packing, and where each law comes from. */
export function FillLibrary() {
  const [open, setOpen] = useState(false);
  const list = useQuery({ ...materials(), enabled: open }).data ?? [];
  return (
    <Disclosure title="Fill materials and their sources" onOpen={setOpen}>
      <table className="w-full text-xs" data-testid="materials">
        <Heads>
          <td />
          <Head title="Usual packing">kg/m³</Head>
          <Head className="pl-2" title="Flow resistivity at that packing, and at twice of it">
            Pa·s/m²
          </Head>
        </Heads>
        <tbody>
          {list.map((m) => (
            <Row key={m.title} className="align-top">
              <Name>
                <span className="first-letter:uppercase">{m.title}</span>
                <span className="block text-[10.5px] leading-tight text-soft">{m.source}</span>
              </Name>
              <Value>{tidy(m.usual_kg_per_m3, 2)}</Value>
              <Value className="pl-2 whitespace-nowrap">
                {tidy(m.flow_resistivity_pa_s_per_m2, 2)}
                <span className="block text-soft">{tidy(m.packed_twice_pa_s_per_m2, 2)}</span>
              </Value>
            </Row>
          ))}
        </tbody>
      </table>
    </Disclosure>
  );
}
