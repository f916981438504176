import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { useAnswer } from "../../../api/answer";
import {
  api,
  get,
  Refused,
  type AmplifierRecord,
  type ShelfAmplifier,
  type Suits,
} from "../../../api/client";
import { amplifiers } from "../../../api/queries";
import { useSay } from "../../../app/settings";
import { RULED_BY } from "../../../lanes/specs";
import { tidy } from "../../../lib/quantity";
import { Button } from "../../../ui/Button";
import { Head, Heads, Name, Row, Value } from "../../../ui/Table";
import { RESTED_MS } from "../../../workbench/asker";
import { useDocument, usePartOfDocument, useWorkbench } from "../../../workbench/context";
import { rated } from "../chain";
import { AmplifierEditor } from "./AmplifierEditor";
import { AmplifierFiles } from "./AmplifierFiles";

const VERDICT: Record<Suits["amplifiers"][number]["verdict"], { words: string; look: string }> = {
  suits: { words: "suits", look: "text-verdigris" },
  mind: { words: "would do", look: "text-ochre" },
  not: { words: "may not", look: "text-brick" },
  unread: { words: "not judged", look: "text-soft" },
};

/** The shelf's amplifiers, judged for this build; over them one's sheet. Which one is in the address. */
export function AmplifiersView() {
  const [query, setQuery] = useSearchParams();
  const { data, isPending, error } = useQuery(amplifiers());
  const [off, setOff] = useState<AmplifierRecord | null>(null);
  const client = useQueryClient();
  const back = () => setQuery({});
  const sheet = query.get("sheet");
  if (isPending) return <p className="text-soft">Fetching the shelf…</p>;
  if (error && !data)
    return (
      <p role="alert" className="text-brick">
        The shelf cannot be reached now.
      </p>
    );
  const record = data.find((r) => r.id === sheet);
  if (sheet && (record || sheet === "new"))
    return (
      <AmplifierEditor
        key={sheet}
        record={record}
        onBack={back}
        onTakenOff={(gone) => {
          setOff(gone);
          back();
        }}
      />
    );
  const putBack = async () => {
    if (!off) return;
    await get(api.POST("/api/amplifiers/{id}/restore", { params: { path: { id: off.id } } }));
    setOff(null);
    await client.invalidateQueries(amplifiers());
  };
  return (
    <section aria-label="Amplifiers" className="min-h-0 flex-1 overflow-y-auto">
      {off && (
        <p role="status" className="mb-2 border-l-2 border-ochre pl-2">
          {off.document.amplifier.name} is off the shelf.{" "}
          <button type="button" className="text-oak underline" onClick={() => void putBack()}>
            Put it back
          </button>
        </p>
      )}
      <Present list={data} />
      <Judged list={data} open={(id) => setQuery({ sheet: id })} />
      <AmplifierFiles />
    </section>
  );
}

/** The build's own amplifier: it can be put on the shelf. */
function Present({ list }: { list: AmplifierRecord[] }) {
  const amplifier = usePartOfDocument((d) => d.chain?.amplifier);
  const client = useQueryClient();
  const say = useSay();
  const [said, setSaid] = useState("");
  const same = (r: AmplifierRecord) =>
    r.document.amplifier.name === amplifier?.name &&
    (r.document.amplifier.maker ?? "") === (amplifier?.maker ?? "");
  const keep = async () => {
    if (!amplifier) return;
    try {
      const document: ShelfAmplifier = { format: "oak-drum-amplifier", version: 1, amplifier };
      await get(api.POST("/api/amplifiers", { body: { document } }));
      await client.invalidateQueries(amplifiers());
      setSaid("On the shelf.");
    } catch (cause) {
      const first = cause instanceof Refused ? cause.problem?.errors?.[0]?.message : undefined;
      setSaid(first ? `Not kept: ${say(first)}` : "Not kept: the server does not answer.");
    }
  };
  return (
    <p className="flex flex-wrap items-baseline gap-2 pb-2">
      {amplifier ? (
        <>
          <span>
            This build has <b>{rated(amplifier)}</b>.
          </span>
          {!list.some(same) && <Button onClick={() => void keep()}>Put it on the shelf</Button>}
        </>
      ) : (
        <span>This build has no amplifier yet: take one that suits.</span>
      )}
      <span role="status" className="text-xs text-soft">
        {said}
      </span>
    </p>
  );
}

function Judged({ list, open }: { list: AmplifierRecord[]; open: (id: string) => void }) {
  const document = useDocument();
  const workbench = useWorkbench();
  const say = useSay();
  // each is judged in the place of the one in use: taking another does not turn the list over
  const about = list.length ? { document, amplifiers: list.map((r) => r.document.amplifier) } : undefined;
  const ask = (signal: AbortSignal) =>
    get(api.POST("/api/drive/amplifiers", { body: about as never, signal })) as Promise<Suits>;
  const suits = useAnswer("amplifiers", about, ask, RESTED_MS);
  const current = document.chain?.amplifier;
  // an answer about a list that has changed since
  const rows = (suits?.amplifiers ?? []).filter((s) => list[s.index]);
  const take = (record: AmplifierRecord) =>
    workbench.take(`${record.document.amplifier.name ?? "amplifier"} taken`, [
      { pointer: "/chain/amplifier", value: record.document.amplifier },
      ...(document.chain?.amplifier_off ? [{ pointer: "/chain/amplifier_off", value: undefined }] : []),
    ]);
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-3">
        <h2 className="font-display text-base font-semibold">On the shelf</h2>
        {suits && (
          <span className="text-xs text-soft">
            The woofers show {tidy(suits.lowest_load_ohm, 2)} ohm at least
            {typeof suits.coils_w === "number" && `; the coils are rated for ${tidy(suits.coils_w, 3)} W`}.
          </span>
        )}
        <span className="flex-1" />
        <Button look="strong" onClick={() => open("new")}>
          New amplifier
        </Button>
      </div>
      {!list.length && <p className="py-2 text-soft">No amplifier stands here yet.</p>}
      {list.length > 0 && !suits && <p className="py-2 text-soft">Computing…</p>}
      {rows.length > 0 && (
        <div className="overflow-x-auto">
          <table className="mt-1 w-full min-w-[640px] text-sm" data-testid="amplifiers">
            <Heads>
              <Head left>amplifier</Head>
              <Head left className="pl-3">
                for this build
              </Head>
              <Head unit="W" className="whitespace-nowrap">
                gives here
              </Head>
              <Head
                unit="dB"
                className="whitespace-nowrap pl-3"
                title="The loudest it lets a programme be, at the lowest note"
              >
                at {tidy(suits?.note_hz ?? 0, 3)} Hz
              </Head>
              <Head unit="dB" className="whitespace-nowrap pl-3">
                costs
              </Head>
              <Head className="pl-3">price</Head>
            </Heads>
            <tbody>
              {rows.map((s) => {
                const record = list[s.index];
                if (!record) return null;
                const { amplifier } = record.document;
                const { words, look } = VERDICT[s.verdict];
                const used = current?.name === amplifier.name && current?.power_w === amplifier.power_w;
                return (
                  <Row key={record.id} className={`align-top ${used ? "bg-selected/40" : ""}`}>
                    <Name className="pl-1">
                      <button
                        type="button"
                        className="text-left hover:text-oak"
                        title="Its sheet"
                        onClick={() => open(record.id)}
                      >
                        <b className="font-semibold">{amplifier.name}</b>{" "}
                        <span className="text-xs text-soft">{amplifier.maker}</span>
                        <span className="block text-xs text-soft">
                          {tidy(amplifier.power_w, 3)} W into {tidy(amplifier.load_ohm, 2)} ohm
                          {amplifier.supply === "battery" && ", on a battery"}
                        </span>
                      </button>
                      {used ? (
                        <span className="text-xs text-soft">in use</span>
                      ) : (
                        <Button look="action" className="my-0.5 text-xs" onClick={() => take(record)}>
                          Take it
                        </Button>
                      )}
                    </Name>
                    <td className="max-w-96 py-0.5 pl-3">
                      <b className={look}>{words}</b>
                      {s.reasons.map((r, i) => (
                        <span key={i} className="block text-xs">
                          {say(r)}
                        </span>
                      ))}
                    </td>
                    <Value>{typeof s.gives_w === "number" ? tidy(s.gives_w, 3) : ""}</Value>
                    <Value title={s.limiting ? say([RULED_BY[s.limiting] ?? ""]) : undefined}>
                      {typeof s.level_db === "number" ? s.level_db.toFixed(1) : ""}
                    </Value>
                    <Value>{typeof s.costs_db === "number" ? s.costs_db.toFixed(1) : ""}</Value>
                    <Value className="pl-3">{amplifier.price ?? ""}</Value>
                  </Row>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      <p className="max-w-3xl pt-2 text-xs text-soft">
        Costs: decibels it takes on average of what the woofers could do without it. Near the coil&apos;s
        rating is usual; a fifth under an amplifier&apos;s lowest load is still allowed (IEC 60268-5).
      </p>
    </>
  );
}
