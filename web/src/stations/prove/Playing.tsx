import { SchemaForm } from "../../ui/SchemaForm";
import { FormContext } from "../../ui/form";
import { Disclosure } from "../../ui/Disclosure";
import { setting } from "./tape";

const NOT_HERE = ["about", "sweep", "reference_ohm", "leads_ohm"];
const NOT_FOR_A_JIG = ["about", "sweep"];

/** What is played, and which channel is which. */
export function Playing({ jig }: { jig: boolean }) {
  return (
    <FormContext value={setting}>
      <div className="max-w-80">
        <SchemaForm pointer="/wish" skip={jig ? NOT_FOR_A_JIG : NOT_HERE} />
        <Disclosure title="The sweep" indented>
          <SchemaForm pointer="/wish/sweep" />
        </Disclosure>
      </div>
    </FormContext>
  );
}
