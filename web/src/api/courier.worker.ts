// Carries questions to the server and answers back, so that no answer waits for the page to be drawn.

import type { Answer, Errand } from "./courier";

const under = new Map<number, AbortController>();

async function carry({ id, path, body }: { id: number; path: string; body: string }): Promise<Answer> {
  const leave = new AbortController();
  under.set(id, leave);
  try {
    const response = await fetch(path, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body,
      signal: leave.signal,
    });
    return { id, status: response.status, bytes: await response.arrayBuffer() };
  } catch {
    return { id, status: 0, bytes: new ArrayBuffer(0) };
  } finally {
    under.delete(id);
  }
}

addEventListener("message", ({ data }: MessageEvent<Errand>) => {
  if (data.body === undefined) under.get(data.id)?.abort();
  else void carry(data).then((answer) => postMessage(answer, { transfer: [answer.bytes] }));
});
