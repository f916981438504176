import { useMemo, useState } from "react";
import type { Bill, BuildStep, Spent } from "../../api/client";
import { SavedTable } from "../../ui/Saved";
import { FormContext } from "../../ui/form";
import { SchemaForm } from "../../ui/SchemaForm";
import { useCurrentPart, useDocument, useWorkbench } from "../../workbench/context";
import { minutesOf, ticked, tickOf, type Tick } from "../../workbench/plan";
import { Paid } from "./Paid";
import { ofWorkPlan } from "./workForm";
import { KitList } from "./KitList";
import { SpentSoFar } from "./SpentSoFar";
import { StepClock, inHours } from "./StepClock";
import { NoCabinet } from "../enclosure/NoCabinet";
import { useBuilding } from "./useCabinet";
import { Say } from "../../ui/Say";
import { useSay } from "../../app/settings";
import { useWorkshop, workshop } from "../../app/workshop";
import { plain } from "../../lib/said";
import { Head, Heads, Row, Value } from "../../ui/Table";

/** The steps of the building with what is done, and what has to be bought. */
export function BuildView() {
  const document = useDocument();
  const building = useBuilding();
  const plan = useCurrentPart((r) => r.work);
  if (!document.cabinet) return <NoCabinet then="and the building is laid out step by step." />;
  if (!building) return <p className="text-soft">Computing…</p>;
  const spent = (plan.steps ?? []).reduce((sum, t) => sum + minutesOf(t, 0), 0);
  const done = building.steps.filter((s) => tickOf(plan, s.id)?.done).length;
  return (
    <section
      aria-label="Build"
      className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]"
    >
      <div className="min-w-0">
        <h2 className="flex items-baseline justify-between font-display text-base font-semibold">
          Building it
          <span className="font-sans text-xs font-normal text-soft" data-testid="steps-done">
            {done} of {building.steps.length} done
            {spent > 0 && <>, {inHours(spent)} spent</>}
          </span>
        </h2>
        <ol>
          {building.steps.map((step, i) => (
            <Step
              key={step.id}
              step={step}
              number={i + 1}
              first={step.stage !== building.steps[i - 1]?.stage}
              tick={tickOf(plan, step.id)}
            />
          ))}
        </ol>
      </div>
      <Shopping bill={building.bill} spent={building.spent} />
    </section>
  );
}

function Step({
  step,
  number,
  first,
  tick,
}: {
  step: BuildStep;
  number: number;
  first: boolean;
  tick: Tick | undefined;
}) {
  const workbench = useWorkbench();
  const [noting, setNoting] = useState(false);
  const keep = (change: Partial<Tick>) => workbench.changeWork((plan) => ticked(plan, step.id, change));
  const note = tick?.note ?? "";
  return (
    <>
      {first && <li className="pt-3 pb-1 text-xs text-soft">{step.stage}</li>}
      <li className={`border-t border-rule/70 py-2 ${tick?.done ? "text-soft" : ""}`}>
        <label className="flex cursor-pointer items-start gap-3">
          <input
            type="checkbox"
            className="mt-0.5 size-5 shrink-0 accent-(--verdigris)"
            checked={!!tick?.done}
            onChange={(e) =>
              keep({
                done: e.target.checked,
                done_at: e.target.checked ? new Date().toISOString() : undefined,
                // what its clock says is held against what was reckoned then
                reckoned_min: e.target.checked ? step.minutes : undefined,
              })
            }
          />
          <span className="min-w-0">
            <span className="font-medium">
              {number}. <Say text={step.title} />
            </span>
            <span className="block">
              <Say text={step.text} />
            </span>
            <span className="block text-xs text-soft">
              about {inHours(step.minutes)}
              {step.hands > 1 && `, ${step.hands} people`}
              {step.tools.length > 0 && `; ${step.tools.join(", ")}`}
            </span>
          </span>
        </label>
        {step.caution && (
          <p className="mt-1 ml-8 border-l-2 border-ochre pl-2 text-xs">
            <Say text={step.caution} />
          </p>
        )}
        <div className="ml-8 flex flex-wrap items-start gap-x-4 gap-y-1 pt-1">
          <StepClock tick={tick} keep={keep} title={plain(step.title)} />
          {noting || note ? (
            <textarea
              aria-label={`Note to ${plain(step.title)}`}
              className="w-full rounded-sm border border-rule bg-panel px-2 py-1"
              rows={2}
              maxLength={2000}
              autoFocus={noting && !note}
              value={note}
              onChange={(e) => keep({ note: e.target.value })}
              onBlur={() => setNoting(false)}
            />
          ) : (
            <button
              type="button"
              className="text-xs text-oak underline decoration-dotted"
              onClick={() => setNoting(true)}
            >
              note
            </button>
          )}
        </div>
      </li>
    </>
  );
}

function Shopping({ bill, spent }: { bill: Bill; spent: Spent }) {
  const say = useSay();
  const workbench = useWorkbench();
  const prices = useMemo(() => ofWorkPlan(workbench), [workbench]);
  const kept = useWorkshop();
  const currency = kept?.currency;
  const over = bill.budget != null && bill.total > bill.budget;
  const money = (value: number | null | undefined) => (value == null ? "" : value.toFixed(2));
  return (
    <div className="min-w-0 space-y-3">
      <SavedTable
        title="To buy"
        note={say(bill.lifting)}
        columns={["what", "quantity", "unit", "each", "together", "estimate", "paid"]}
        rows={() =>
          bill.items.map((i) => [
            plain(i.what),
            i.quantity,
            i.unit,
            i.each,
            i.total,
            i.estimated ? "estimate" : "",
            spent.lines.find((l) => l.item === i.id)?.paid,
          ])
        }
      >
        <table className="w-full text-xs" data-testid="bill">
          <Heads>
            <Head left>what</Head>
            <Head>how much</Head>
            <Head className="pl-2">each</Head>
            <Head className="pl-2">{currency ? `together, ${currency}` : "together"}</Head>
            <Head className="pl-2">paid</Head>
          </Heads>
          <tbody>
            {bill.items.map((item, i) => (
              <Row key={i} className="align-top">
                <td className="py-0.5">
                  <Say text={item.what} />
                </td>
                <Value className="whitespace-nowrap">
                  <Say text={item.amount} />
                </Value>
                <Value className="pl-2">{money(item.each)}</Value>
                <Value className="pl-2">{money(item.total)}</Value>
                <td className="pl-2 text-right">
                  <Paid item={item} />
                </td>
              </Row>
            ))}
            <tr className="border-t border-ink font-semibold">
              <td className="py-0.5" colSpan={3}>
                what has a price
                {bill.unpriced > 0 && (
                  <span className="font-normal text-soft"> ({bill.unpriced} without one are not in it)</span>
                )}
              </td>
              <Value className={over ? "text-brick" : ""} data-testid="bill-total">
                {money(bill.total)}
              </Value>
              <Value data-testid="paid-total">{spent.paid > 0 && money(spent.paid)}</Value>
            </tr>
            {bill.budget != null && (
              <tr>
                <td colSpan={3}>the brief allows</td>
                <Value>{money(bill.budget)}</Value>
              </tr>
            )}
          </tbody>
        </table>
      </SavedTable>
      {spent.paid > 0 && <SpentSoFar spent={spent} currency={currency} />}
      <details>
        <summary className="cursor-pointer text-soft">Prices and budget</summary>
        <SchemaForm pointer="/brief" only={["budget"]} />
        <FormContext value={prices}>
          <SchemaForm pointer="/prices" />
        </FormContext>
        {kept && (
          <FormContext value={workshop}>
            <SchemaForm pointer="" only={["currency"]} />
          </FormContext>
        )}
      </details>
      <KitList />
    </div>
  );
}
