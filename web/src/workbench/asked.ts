import { useEffect, useRef, useState } from "react";
import { Refused, type Design } from "../api/client";
import { useDocument } from "./context";

/**
 * What the server answers about the current document, kept up with a drag: one question is under way at a time, and the
 * document as it is then is asked about next. An answer stays until there is another; a refused document keeps the last.
 */
export function useAsked<T>(
  ask: (document: Design, signal: AbortSignal) => Promise<T>,
  key = "",
): T | undefined {
  const document = useDocument();
  const [answer, setAnswer] = useState<T>();
  const state = useRef({ busy: false, wanted: document, asked: undefined as Design | undefined, key });
  const asking = useRef(ask);
  useEffect(() => {
    asking.current = ask;
  }, [ask]);
  useEffect(() => {
    const own = state.current;
    const abort = new AbortController();
    own.wanted = document;
    if (own.key !== key) {
      own.key = key;
      own.asked = undefined;
      own.busy = false;
    }
    const next = async () => {
      if (own.busy) return;
      own.busy = true;
      while (own.asked !== own.wanted && !abort.signal.aborted) {
        const about = own.wanted;
        own.asked = about;
        try {
          const found = await asking.current(about, abort.signal);
          if (own.key === key) setAnswer(found);
        } catch (cause) {
          if (!(cause instanceof Refused) || cause.problem) break;
          await new Promise((done) => setTimeout(done, 1500));
          own.asked = undefined;
        }
      }
      own.busy = false;
    };
    void next();
    return () => undefined;
  }, [document, key]);
  return answer;
}
