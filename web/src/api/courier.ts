// Questions that follow a hand are asked from a thread of their own: on the page's thread each step of an answer's way would wait
// for a frame to be drawn.

import { Refused, type Problem } from "./client";

/** What is carried there; without a body it is to be left. */
export type Errand =
  | { id: number; path: string; body: string }
  | { id: number; path?: undefined; body?: undefined };
/** What is brought back; status 0 where there was no server. */
export type Answer = { id: number; status: number; bytes: ArrayBuffer };

let worker: Worker | undefined;
let count = 0;
const waiting = new Map<number, (answer: Answer) => void>();

function courier(): Worker {
  if (worker) return worker;
  const made = new Worker(new URL("./courier.worker.ts", import.meta.url), { type: "module" });
  made.onmessage = ({ data }: MessageEvent<Answer>) => waiting.get(data.id)?.(data);
  // its script could not be had: as if there were no server, and another one is tried the next time
  made.onerror = () => {
    made.terminate();
    worker = undefined;
    for (const [id, got] of waiting) got({ id, status: 0, bytes: new ArrayBuffer(0) });
  };
  return (worker = made);
}

/** Posts a body and gives the bytes of the answer; throws what the server refused, or that there was none. */
export async function post(path: string, body: object, signal: AbortSignal): Promise<ArrayBuffer> {
  const id = ++count;
  const leave = () => courier().postMessage({ id } satisfies Errand);
  const answer = await new Promise<Answer>((got) => {
    waiting.set(id, got);
    signal.addEventListener("abort", leave, { once: true });
    courier().postMessage({ id, path, body: JSON.stringify(body) } satisfies Errand);
  });
  waiting.delete(id);
  signal.removeEventListener("abort", leave);
  if (answer.status >= 200 && answer.status < 300) return answer.bytes;
  throw new Refused(problem(answer));
}

function problem({ status, bytes }: Answer): Problem | undefined {
  if (!status) return undefined;
  try {
    return JSON.parse(new TextDecoder().decode(bytes)) as Problem;
  } catch {
    return undefined;
  }
}

/** The same where the answer is JSON. */
export async function postJson<T>(path: string, body: object, signal: AbortSignal): Promise<T> {
  return JSON.parse(new TextDecoder().decode(await post(path, body, signal))) as T;
}
