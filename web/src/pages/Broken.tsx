import { isRouteErrorResponse, Link, useRouteError } from "react-router";
import { Button } from "../ui/Button";
import { Lost } from "./Lost";

/** Where a page could not be drawn at all: what is not there, or a fault of this program. */
export function Broken() {
  const wrong = useRouteError();
  if (isRouteErrorResponse(wrong) && wrong.status === 404) return <Lost />;
  return (
    <main className="grid h-full place-content-center gap-2 text-center">
      <h1 className="font-display text-2xl font-semibold">This page cannot be shown</h1>
      <p className="max-w-prose text-soft">
        A fault of this program. What you did is kept here until the server has it.
        {wrong instanceof Error && ` (${wrong.message})`}
      </p>
      <p className="flex justify-center gap-3">
        <Button onClick={() => location.reload()}>Open it again</Button>
        <Link to="/" className="self-center text-oak underline">
          To the workshop
        </Link>
      </p>
    </main>
  );
}
