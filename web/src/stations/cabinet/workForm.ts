import { set } from "../../lib/pointer";
import { workPlanSchema } from "../../lib/schema";
import type { FormSource } from "../../ui/form";
import type { Workbench } from "../../workbench/workbench";

/** The form of what is the work plan's: prices, days. */
export function ofWorkPlan(workbench: Workbench): FormSource {
  return {
    schema: workPlanSchema,
    subscribe: workbench.subscribeLive,
    document: () => workbench.current?.work,
    problems: () =>
      workbench.current?.workProblem?.errors?.map((e) => ({
        ...e,
        pointer: e.pointer.replace(/^\/work/, ""),
      })),
    set: (pointer, value) => workbench.changeWork((plan) => set(plan, pointer, value)),
    endGesture: () => workbench.endGesture(),
  };
}
