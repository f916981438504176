import { useQuery } from "@tanstack/react-query";
import { Fragment, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api, get, Refused, type BuildSummary, type Card } from "../api/client";
import { card } from "../api/queries";
import { useSettings, useSize } from "../app/settings";
import { inSystem, printUnit, show, tidy } from "../lib/quantity";
import { FamilyMark } from "../stations/enclosure/FamilyMark";
import { tagsIn } from "./cards";

type Props = {
  build: BuildSummary;
  copying: boolean;
  busy: boolean;
  onCopy: () => void;
  onAway: () => void;
  onChanged: () => void;
  /** Told when one of its tags is pressed. */
  onTag: (tag: string) => void;
};

/** A build at a glance: its name, woofer and tags, its level as a small curve, the figures it is known by. */
export function BuildCard({ build: b, copying, busy, onCopy, onAway, onChanged, onTag }: Props) {
  const place = useRef<HTMLLIElement>(null);
  const seen = useSeen(place);
  const glance = useQuery({ ...card(b.id, b.updated_at), enabled: seen }).data;
  const [tagging, setTagging] = useState(false);
  const tagIt = b.tags.length ? "change tags" : "tag it";
  return (
    <li
      ref={place}
      data-card
      // of many only those in view are laid out
      style={{ contentVisibility: "auto", containIntrinsicHeight: "auto 10rem" }}
      className="relative flex flex-col border border-rule bg-panel p-4 hover:border-oak"
    >
      <div className="flex items-start gap-3">
        <span className="mt-0.5 text-oak">
          <FamilyMark id={b.family} />
        </span>
        <div className="min-w-0 flex-1">
          <Link
            to={`/builds/${b.id}/box`}
            className="font-display text-lg font-semibold after:absolute after:inset-0"
          >
            {b.name}
          </Link>
          <p className="text-soft">
            {b.woofer_name || "own figures"} · {b.family.replaceAll("_", " ")} ·{" "}
            {b.letters.length === 1 ? "revision" : "revisions"} {b.letters.join(", ")}
          </p>
        </div>
        <SmallCurve of={glance} />
      </div>
      {glance && <Figures of={glance} />}
      {b.purpose && <p className="mt-1 line-clamp-2">{b.purpose}</p>}
      <span className="flex-1" />
      <div className="relative z-10 mt-2 flex flex-wrap items-baseline gap-x-2.5 gap-y-1 text-xs">
        {tagging ? (
          <Tags
            build={b}
            done={(changed) => {
              setTagging(false);
              if (changed) onChanged();
            }}
          />
        ) : (
          <>
            {b.tags.map((tag) => (
              <button
                key={tag}
                type="button"
                title={`Only those tagged ${tag}`}
                className="rounded-sm border border-rule px-1.5 text-soft hover:border-oak hover:text-ink"
                onClick={() => onTag(tag)}
              >
                {tag}
              </button>
            ))}
            <button
              type="button"
              aria-label={`${tagIt}: ${b.name}`}
              className="text-soft hover:text-ink"
              onClick={() => setTagging(true)}
            >
              {tagIt}
            </button>
            <span className="flex-1" />
            <button
              type="button"
              aria-label={`Copy ${b.name}`}
              disabled={busy}
              className="text-soft hover:text-ink"
              onClick={onCopy}
            >
              {copying ? "copying…" : "copy"}
            </button>
            <button
              type="button"
              aria-label={`Put away ${b.name}`}
              className="text-soft hover:text-brick"
              onClick={onAway}
            >
              put away
            </button>
          </>
        )}
      </div>
    </li>
  );
}

/** Whether something has come into view, once and for all: of five hundred builds only those that are looked at are worked out. */
function useSeen(place: React.RefObject<Element | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const element = place.current;
    if (!element || seen) return;
    const watch = new IntersectionObserver(
      (entries) => entries.some((e) => e.isIntersecting) && setSeen(true),
      { rootMargin: "200px" },
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, [place, seen]);
  return seen;
}

const WIDE = 132;
const HIGH = 40;
/** What is drawn below the highest, dB. */
const DEEP = 30;

/** Level over a logarithmic axis, in strokes: what it looks like, not what it measures. */
export function curvePath({
  frequency_hz: hz,
  level_db: db,
}: Pick<Card, "frequency_hz" | "level_db">): string {
  const [first = 10, last = 300] = [hz[0], hz.at(-1)];
  const top = Math.max(...db);
  const points = hz.map((f, i) => {
    const x = (WIDE * Math.log(f / first)) / Math.log(last / first);
    const y = (HIGH * Math.min(top - (db[i] ?? top), DEEP)) / DEEP;
    return `${x.toFixed(1)} ${(y + 1).toFixed(1)}`;
  });
  return `M${points.join("L")}`;
}

function SmallCurve({ of }: { of: Card | undefined }) {
  if (!of) return <span style={{ width: WIDE, height: HIGH + 2 }} className="shrink-0" />;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH + 2}`}
      width={WIDE}
      height={HIGH + 2}
      role="img"
      aria-label={of.f3_hz ? `Level: falls off below ${tidy(of.f3_hz, 2)} Hz` : "Level"}
      className="shrink-0 border-b border-rule"
    >
      <path d={curvePath(of)} fill="none" stroke="var(--verdigris)" strokeWidth="1.5" />
    </svg>
  );
}

function Figures({ of: { f3_hz, compared, outside_mm } }: { of: Card }) {
  const size = useSize();
  const { system } = useSettings();
  const sides = outside_mm?.map((side) => show(side, "mm", system).text).join(" x ");
  const told = [
    f3_hz ? `f3 ${tidy(f3_hz, 3)} Hz` : "",
    compared.air_l ? size(compared.air_l, "L", 3) : "",
    compared.highest_db ? `${compared.highest_db.toFixed(0)} dB at ${tidy(compared.note_hz, 3)} Hz` : "",
    sides ? `${sides} ${printUnit(inSystem("mm", system).unit)}` : "no cabinet yet",
  ];
  return (
    <p className="mt-1 font-mono text-xs tabular-nums">
      {told.filter(Boolean).map((figure, i) => (
        <Fragment key={figure}>
          {i > 0 && " · "}
          <span className="whitespace-nowrap">{figure}</span>
        </Fragment>
      ))}
    </p>
  );
}

/** Typed by commas; kept when it is left. */
function Tags({ build, done }: { build: BuildSummary; done: (changed: boolean) => void }) {
  const [text, setText] = useState(build.tags.join(", "));
  const [wrong, setWrong] = useState("");
  const keep = async () => {
    const tags = tagsIn(text);
    if (JSON.stringify(tags) === JSON.stringify(build.tags)) return done(false);
    try {
      await get(api.PATCH("/api/builds/{id}", { params: { path: { id: build.id } }, body: { tags } }));
      done(true);
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "That did not work; nothing was changed.");
    }
  };
  return (
    <span className="min-w-0 flex-1">
      <input
        autoFocus
        aria-label={`Tags of ${build.name}, by commas`}
        aria-invalid={wrong ? true : undefined}
        placeholder="hall, for sale"
        value={text}
        className="h-7 w-full rounded-sm border border-rule bg-ground px-2"
        onChange={(e) => {
          setText(e.target.value);
          setWrong("");
        }}
        onBlur={() => void keep()}
        onKeyDown={(e) => {
          if (e.key === "Enter") e.currentTarget.blur();
          if (e.key === "Escape") done(false);
        }}
      />
      {wrong && (
        <span role="alert" className="text-brick">
          {wrong}
        </span>
      )}
    </span>
  );
}
