import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { expect, it, vi } from "vitest";
import { askAgain } from "./queries";

it("a first answer that was asked for before does not stand for what is asked again", async () => {
  const client = new QueryClient();
  const answers: ((value: string) => void)[] = [];
  const observer = new QueryObserver(client, {
    queryKey: ["timeline", "7"],
    queryFn: () => new Promise<string>((answer) => answers.push(answer)),
  });
  const leave = observer.subscribe(() => undefined);
  await vi.waitFor(() => expect(answers).toHaveLength(1));
  // saved meanwhile: what is on its way does not know it
  void askAgain(client, ["timeline", "7"]);
  await vi.waitFor(() => expect(answers).toHaveLength(2));
  answers[1]?.("with the step");
  answers[0]?.("without");
  await vi.waitFor(() => expect(observer.getCurrentResult().data).toBe("with the step"));
  leave();
});
