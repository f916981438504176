import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { SessionShown } from "../../../api/client";
import { listening } from "../../../api/queries";
import { Head, Heads, Row, Value } from "../../../ui/Table";
import { usePart } from "../../../workbench/context";

/** What listeners said of the revisions, beside their figures; nothing where nobody has listened. */
export function Tasted({ letters }: { letters: string[] }) {
  const build = usePart((b) => b.build.id);
  const sessions = useQuery(listening(build)).data ?? [];
  const lines = sessions.flatMap((s) => lineOf(s, letters) ?? []);
  if (!lines.length) return null;
  return (
    <section aria-label="Heard blind" className="pt-4">
      <h2 className="flex items-baseline gap-2 font-display text-base font-semibold">
        Heard blind
        <Link className="font-sans text-xs font-normal text-oak underline" to={`/builds/${build}/listen`}>
          how it was heard
        </Link>
      </h2>
      <table className="w-full text-[13px]">
        <Heads>
          <Head left>session</Head>
          {letters.map((l) => (
            <Head key={l}>{l}</Head>
          ))}
        </Heads>
        <tbody>
          {lines.map((line) => (
            <Row key={line.id}>
              <td className="py-[3px] pr-2 text-soft">
                {line.what}
                {line.said && <span className="block text-xs">{line.said}</span>}
              </td>
              {line.values.map((value, i) => (
                <Value key={letters[i]} className="px-2 text-xs whitespace-nowrap">
                  {value ?? "–"}
                </Value>
              ))}
            </Row>
          ))}
        </tbody>
      </table>
    </section>
  );
}

type Line = { id: string; what: string; said: string; values: (string | undefined)[] };

/** A session as a line: the score of the whole, the votes won, or what was said of a difference. */
export function lineOf(session: SessionShown, letters: string[]): Line | undefined {
  const { outcome, document } = session;
  const of = letters.map((l) => document.candidates.findIndex((c) => c.revision === l));
  if (!outcome || of.filter((i) => i >= 0).length < 2) return undefined;
  const line = (what: string, said: string, at: (i: number) => string | undefined): Line => ({
    id: session.id,
    what,
    said,
    values: of.map((i) => (i < 0 ? undefined : at(i))),
  });
  if (outcome.difference) return line(document.title, outcome.sentence, () => undefined);
  const scale = outcome.scales.find((s) => s.scale === "overall") ?? outcome.scales[0];
  if (scale)
    return line(`${document.title}: ${scale.scale}, 1 to 10`, scale.sentence, (i) =>
      scale.told.means[i]?.toFixed(1),
    );
  if (!outcome.votes) return undefined;
  const won = (i: number) => (outcome.wins[i] ?? []).reduce((sum, v) => sum + v, 0);
  return line(`${document.title}: votes won`, outcome.sentence, (i) => String(won(i)));
}
