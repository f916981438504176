import { Link } from "react-router";

export function Lost() {
  return (
    <main className="grid h-full place-content-center gap-2 text-center">
      <h1 className="font-display text-2xl font-semibold">Nothing here</h1>
      <p className="text-soft">There is no such build, or it was put away.</p>
      <Link to="/" className="text-oak underline">
        To the workshop
      </Link>
    </main>
  );
}
