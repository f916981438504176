// Answers that come line by line, each line JSON.

/** Hands over each whole line as it comes; what was begun when the stream ends is the last. */
export async function eachLine(stream: ReadableStream<Uint8Array>, told: (line: unknown) => void) {
  const reader = stream
    .pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>)
    .getReader();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read();
    const lines = (rest + (value ?? "")).split("\n");
    rest = done ? "" : (lines.pop() ?? "");
    for (const line of lines) if (line) told(JSON.parse(line));
    if (done) return;
  }
}
