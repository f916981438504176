import { useEffect, useRef, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { change, useSettings } from "../app/settings";
import { termsFor, type Term } from "../lib/glossary";
import { STATIONS } from "../stations/stations";
import { TermDrawing } from "../ui/TermDrawing";

/** Every term with its sentence, its other names, its source and what it does, drawn; searched. */
export function TermsPage() {
  const [words, setWords] = useState("");
  const { help } = useSettings();
  const { hash, key } = useLocation();
  const navigate = useNavigate();
  const search = useRef<HTMLInputElement>(null);
  const found = termsFor(words);

  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (e.key !== "/" || e.ctrlKey || e.metaKey || e.target === search.current) return;
      e.preventDefault();
      search.current?.focus();
    };
    addEventListener("keydown", down);
    return () => removeEventListener("keydown", down);
  }, []);
  useEffect(() => {
    document.getElementById(hash.slice(1))?.scrollIntoView({ block: "center" });
  }, [hash]);

  const groups = words.trim()
    ? [{ title: `${found.length} of them`, terms: found }]
    : STATIONS.map((s) => ({ title: s.title, terms: found.filter((t) => t.station === s.id) }));
  return (
    <main className="mx-auto max-w-4xl px-4 py-6 lg:px-6">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-2 border-b border-rule pb-3">
        <Link to="/" className="font-display text-lg font-bold text-oak">
          Oak Drum
        </Link>
        <h1 className="flex-1 font-display text-2xl font-semibold">Terms</h1>
        {key !== "default" && (
          <button type="button" className="text-oak underline" onClick={() => void navigate(-1)}>
            Back to where I was
          </button>
        )}
        <label className="flex items-baseline gap-1.5 text-soft">
          <input
            type="checkbox"
            className="accent-oak"
            checked={help}
            onChange={(e) => change({ help: e.target.checked })}
          />
          explain words where they stand
        </label>
      </header>
      <input
        ref={search}
        type="search"
        data-search
        aria-label="Search the terms"
        placeholder="Search: press /"
        className="my-3 h-9 w-full rounded-sm border border-rule bg-panel px-2"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      {groups
        .filter((g) => g.terms.length)
        .map((g) => (
          <section key={g.title} aria-label={g.title}>
            <h2 className="mt-4 border-b border-ink font-display text-base font-semibold">{g.title}</h2>
            <ul>
              {g.terms.map((t) => (
                <Entry key={t.id} term={t} lit={hash === `#${t.id}`} />
              ))}
            </ul>
          </section>
        ))}
      <p className="mt-4 text-xs text-soft">Works are cited from memory.</p>
      {!found.length && <p className="text-soft">No term is called that, and no sentence says it.</p>}
    </main>
  );
}

function Entry({ term, lit }: { term: Term; lit: boolean }) {
  return (
    <li
      id={term.id}
      style={{ contentVisibility: "auto", containIntrinsicSize: "auto 5rem" }}
      className={`grid gap-x-5 gap-y-1 border-b border-rule py-2.5 md:grid-cols-[minmax(0,1fr)_15rem] ${lit ? "border-l-3 border-l-oak bg-panel pl-2.5" : ""}`}
    >
      <div>
        <h3 className="inline font-display text-base font-semibold">{term.name}</h3>{" "}
        {term.also.length > 0 && <span className="text-xs text-soft">also: {term.also.join(", ")}</span>}
        <p>{term.says}</p>
        <p className="text-xs text-soft">{term.source}</p>
      </div>
      {term.drawing && <TermDrawing drawing={term.drawing} />}
    </li>
  );
}
