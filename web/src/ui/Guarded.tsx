import { Component, type ErrorInfo, type ReactNode } from "react";
import { Button } from "./Button";

type Props = {
  /** What is guarded, in words: "The cabinet's sheets". */
  what: string;
  children: ReactNode;
};

/**
 * What breaks in a part of the page stays in that part: it says so, and can be tried again. Give it a key that changes with
 * what it shows, so that going elsewhere starts afresh.
 */
export class Guarded extends Component<Props, { wrong?: Error }> {
  override state: { wrong?: Error } = {};

  static getDerivedStateFromError(wrong: Error) {
    return { wrong };
  }

  override componentDidCatch(wrong: Error, info: ErrorInfo) {
    console.error(`${this.props.what}: ${wrong.message}`, info.componentStack);
  }

  override render() {
    const { wrong } = this.state;
    if (!wrong) return this.props.children;
    return (
      <div role="alert" className="m-2 border-l-4 border-brick p-3">
        <p className="font-semibold">{this.props.what} cannot be shown.</p>
        <p className="text-sm text-soft">
          A fault of this program, or its server is away; the design is not the cause, and what you did is
          kept. ({wrong.message})
        </p>
        <p className="mt-2 flex gap-2">
          <Button onClick={() => this.setState({ wrong: undefined })}>Try again</Button>
          <Button onClick={() => location.reload()}>Open the page again</Button>
        </p>
      </div>
    );
  }
}
