import { useFigure } from "../../../app/settings";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, get, Refused, type TrialResult } from "../../../api/client";
import { families, rankingRules } from "../../../api/queries";
import { tidy } from "../../../lib/quantity";
import { useWorkbench } from "../../../workbench/context";
import { Say } from "../../../ui/Say";
import { Row, Value } from "../../../ui/Table";

const number = (value: number | null | undefined, digits = 3) =>
  typeof value === "number" ? tidy(value, digits) : "–";

export function Result({ result }: { result: TrialResult }) {
  const { id = "" } = useParams();
  const figure = useFigure();
  const workbench = useWorkbench();
  const navigate = useNavigate();
  const rules = useQuery(rankingRules()).data ?? [];
  const [wrong, setWrong] = useState<string | null>(null);
  const o = result.outcome;
  const list = useQuery(families()).data ?? [];
  const family = list.find((f) => f.id === o.family)?.title ?? o.family;
  const charges = (o.charges_db ?? []).map((c, i) => `${rules[i]?.id ?? ""} ${c.toFixed(2)} dB`).join(", ");
  const open = async () => {
    const current = workbench.current?.document;
    if (!current) return;
    try {
      const params = { path: { id: result.id } };
      const found = await get(api.GET("/api/trials/results/{id}/design", { params }));
      const rest = { ...current };
      // the old cabinet belongs to the old box
      delete rest.cabinet;
      await workbench.openAsRevision({
        ...rest,
        name: `${o.count > 1 ? `${o.count} x ` : ""}${result.name}, ${family.toLowerCase()}`,
        woofer: found.woofer,
        enclosure: found.enclosure,
        ...(found.array && { array: found.array }),
      });
      await navigate(`/builds/${id}/box`);
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    }
  };
  const look = { meets: "text-verdigris", short: "", no_fit: "text-ochre", not_tried: "text-soft" }[
    o.verdict
  ];
  return (
    <Row className="align-top hover:bg-panel" data-verdict={o.verdict}>
      <td className="max-w-44 truncate py-1" title={result.maker}>
        {o.count > 1 && <b>{o.count} x </b>}
        {result.name}
      </td>
      <td className="py-1">{family}</td>
      <Value className="px-1 py-1 text-xs">{figure(o.outside_l, "L")}</Value>
      <Value className="px-1 py-1 text-xs">{number(o.reaches_hz)}</Value>
      <Value className="px-1 py-1 text-xs">
        {typeof o.spare_db === "number"
          ? o.spare_db.toFixed(1).replace("-0.0", "0.0").replace("-", "−")
          : "–"}
      </Value>
      <Value className="px-1 py-1 text-xs">{number(result.price, 4)}</Value>
      <td className={`py-1 pl-2 leading-tight ${look}`} title={charges && `Charged: ${charges}`}>
        <Say text={o.reason} />
        {wrong && (
          <span role="alert" className="block text-brick">
            {wrong}
          </span>
        )}
      </td>
      <td className="py-1 text-right">
        {o.enclosure && (
          <button
            type="button"
            className="text-oak hover:underline"
            aria-label={`Open ${o.count} x ${result.name}, ${family} as a revision`}
            title="Opens it as the next revision of this build"
            onClick={() => void open()}
          >
            open
          </button>
        )}
      </td>
    </Row>
  );
}
