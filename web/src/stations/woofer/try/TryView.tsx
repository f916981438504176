import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { trial as trialQuery } from "../../../api/queries";

import { Answers } from "./Answers";
import { Question } from "./Question";

/** The whole shelf against the brief: for each woofer, number and family the best box, ranked by stated rules. */
export function TryView() {
  const { id = "" } = useParams();
  const { data: trial } = useQuery(trialQuery(id));
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[262px_minmax(0,1fr)]">
      <Question trial={trial ?? undefined} />
      {trial ? (
        <Answers trial={trial} />
      ) : (
        <div className="max-w-prose pt-2 text-soft">
          <p>
            For each woofer of the shelf, alone and in numbers, the best box and tuning for this brief is
            searched for and computed. Those that do what is asked come first, each with the reason why it
            stands where it stands.
          </p>
        </div>
      )}
    </div>
  );
}
