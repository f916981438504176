import { useEffect, useRef, useState } from "react";
import { Refused, type Design } from "../api/client";
import { useWorkbench } from "./context";

const RETRY_AFTER_MS = 1500;

/**
 * What the server answers about the current document, kept up with a drag: one question is under way at a time, and the
 * document as it is then is asked about next. An answer stays until there is another; a refused document keeps the last.
 */
export function useAsked<T>(ask: (document: Design, signal: AbortSignal) => Promise<T>): T | undefined {
  const workbench = useWorkbench();
  const [answer, setAnswer] = useState<T>();
  const asking = useRef(ask);
  useEffect(() => {
    asking.current = ask;
  }, [ask]);
  useEffect(() => {
    const abort = new AbortController();
    let busy = false;
    let asked: Design | undefined;
    const next = async () => {
      if (busy) return;
      busy = true;
      for (;;) {
        const about = workbench.current?.document;
        if (!about || about === asked || abort.signal.aborted) break;
        asked = about;
        try {
          const found = await asking.current(about, abort.signal);
          if (!abort.signal.aborted) setAnswer(found);
        } catch (cause) {
          // no answer at all is asked for again; a refusal waits for another document
          if (abort.signal.aborted) break;
          if (cause instanceof Refused && !cause.problem) {
            await new Promise((done) => setTimeout(done, RETRY_AFTER_MS));
            asked = undefined;
          }
        }
      }
      busy = false;
    };
    const unsubscribe = workbench.subscribeEarly(() => void next());
    void next();
    return () => {
      unsubscribe();
      abort.abort();
    };
  }, [workbench]);
  return answer;
}
