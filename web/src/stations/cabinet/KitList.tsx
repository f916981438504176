import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, type Kit, type Tool } from "../../api/client";
import { useFigure } from "../../app/settings";
import { useWorkshop, withOwned, withoutOwned, workshop } from "../../app/workshop";
import { plain } from "../../lib/said";
import { Disclosure } from "../../ui/Disclosure";
import { Say } from "../../ui/Say";
import { SavedTable } from "../../ui/Saved";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";
import { useCurrentPart, useDocument } from "../../workbench/context";

/** What the work is done with, of which the workshop has what is ticked; asked again when one of the three changes. */
function useKit(): Kit | undefined {
  const document = useDocument();
  const days = useCurrentPart((r) => r.work.days);
  const has = useWorkshop()?.has;
  return useQuery({
    queryKey: ["kit", document, days, has],
    queryFn: ({ signal }) =>
      get(
        api.POST("/api/kit", {
          body: { document, ...(days && { work: { days } }), ...(has && { workshop: { has } }) },
          signal,
        }),
      ),
    enabled: !!document.cabinet,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  }).data;
}

const SORTS: [Tool["sort"], string][] = [
  ["clamp", "Clamps"],
  ["tool", "Tools"],
  ["bit", "Router bits"],
  ["drill", "Drills"],
];

/** Tools, clamps, bits, the jig's settings, screws and wires of this cabinet; what is ticked is kept for every build. */
export function KitList() {
  const kit = useKit();
  if (!kit) return null;
  const missing = kit.things.filter((t) => t.has < t.many).length;
  return (
    <section aria-label="Tools and small stuff" className="space-y-1 pt-2">
      <h3 className="flex items-baseline justify-between font-display text-base font-semibold">
        Tools and small stuff
        <span className="font-sans text-xs font-normal text-soft" data-testid="tools-missing">
          {missing ? `${missing} not there yet` : "all there"}
        </span>
      </h3>
      <p className="text-xs text-soft">
        Tick what your workshop has: it is kept for every build. Wear what the steps ask for; blades and bits
        are changed with the plug out.
      </p>
      {SORTS.map(([sort, title]) => (
        <Sort key={sort} title={title} things={kit.things.filter((t) => t.sort === sort)} />
      ))}
      {kit.circles.length > 0 && <Circles kit={kit} />}
      <Disclosure title="Screws and wires">
        <ul className="space-y-1 pb-2 text-xs">
          {kit.screws.map((s) => (
            <li key={s.id}>
              <Say text={s.said} />
            </li>
          ))}
          {kit.leads && (
            <li>
              <Say text={kit.leads.said} />
            </li>
          )}
        </ul>
      </Disclosure>
    </section>
  );
}

function Sort({ title, things }: { title: string; things: Tool[] }) {
  if (!things.length) return null;
  const there = things.filter((t) => t.has >= t.many).length;
  return (
    <Disclosure title={`${title}: ${there} of ${things.length} there`}>
      <ul className="pb-2">
        {things.map((t) => (
          <Thing key={`${t.thing} ${t.size_mm}`} thing={t} />
        ))}
      </ul>
    </Disclosure>
  );
}

/** One tool, to be ticked. Of clamps what is missing is put to what is there. */
function Thing({ thing }: { thing: Tool }) {
  // as it was pressed, until the server has counted
  const [pressed, setPressed] = useState({ at: -1, has: false });
  const there = pressed.at === thing.has ? pressed.has : thing.has >= thing.many;
  const tick = (has: boolean) => {
    setPressed({ at: thing.has, has });
    workshop.change((now) =>
      has
        ? withOwned(now, {
            thing: thing.thing,
            ...(thing.size_mm != null && { size_mm: thing.size_mm }),
            ...(thing.many - thing.has > 1 && { many: thing.many - thing.has }),
          })
        : withoutOwned(now, thing.thing, thing.size_mm),
    );
  };
  return (
    <li>
      <label className="flex cursor-pointer items-start gap-2 py-1">
        <input
          type="checkbox"
          className="mt-0.5 size-4 shrink-0 accent-(--verdigris)"
          checked={there}
          onChange={(e) => tick(e.target.checked)}
        />
        <span className="min-w-0">
          <Say text={thing.what} />
          {!there && thing.has > 0 && <span className="text-ochre"> ({thing.has} there)</span>}
          <span className="block text-xs text-soft">
            <Say text={thing.why} />
          </span>
        </span>
      </label>
    </li>
  );
}

function Circles({ kit }: { kit: Kit }) {
  const figure = useFigure();
  return (
    <Disclosure title="The router's jig, hole by hole">
      <SavedTable
        title="Holes"
        note="From the pivot to the middle of the bit; try the setting on scrap first."
        columns={["hole", "diameter_mm", "depth_mm", "bit_mm", "radius_mm"]}
        rows={() => kit.circles.map((c) => [plain(c.what), c.diameter_mm, c.depth_mm, c.bit_mm, c.radius_mm])}
      >
        <table className="w-full text-xs [&_td]:pl-2" data-testid="circles">
          <Heads>
            <Head left>hole</Head>
            <Head unit="mm">across</Head>
            <Head unit="mm">deep</Head>
            <Head unit="mm">bit</Head>
            <Head unit="mm">radius</Head>
          </Heads>
          <tbody>
            {kit.circles.map((c) => (
              <Row key={plain(c.what)} className="align-top">
                <Name>
                  <Say text={c.what} />
                </Name>
                <Value>{figure(c.diameter_mm, "mm", 4)}</Value>
                <Value>{figure(c.depth_mm, "mm", 3)}</Value>
                <Value>{c.radius_mm == null ? "saw" : figure(c.bit_mm, "mm", 3)}</Value>
                <Value>{c.radius_mm == null ? "" : figure(c.radius_mm, "mm", 4)}</Value>
              </Row>
            ))}
          </tbody>
        </table>
      </SavedTable>
    </Disclosure>
  );
}
