import { useId, useRef, useState, type KeyboardEvent } from "react";
import { useSettings } from "../app/settings";
import { termOfField } from "../lib/glossary";
import { inSystem, nudge, printUnit, readIn, show } from "../lib/quantity";
import { Tip } from "./Tip";

/** What is taken when a field is empty: a value in the field's unit, with words behind it if any, or words alone. */
export type Empty = string | number | { value: number; words: string };

type Props = {
  label: string;
  help?: string | undefined;
  unit: string;
  value: number | undefined;
  empty?: Empty | undefined;
  /** Whether the field may be emptied. */
  optional?: boolean;
  min?: number | undefined;
  max?: number | undefined;
  whole?: boolean;
  large?: boolean;
  problem?: string | undefined;
  pointer?: string;
  /** A run of arrow keys is one gesture. */
  onChange: (value: number | undefined, gesture?: string) => void;
  onDone?: () => void;
};

/**
 * A number with a unit. Takes any unit of its kind and sums ("18+18", "3/4 in"); shows how it was read; arrow keys
 * nudge (Shift coarse, Alt fine); what cannot be read stays as typed, with the reason beside it.
 */
export function QuantityField(props: Props) {
  const { label, help, unit, value, empty, optional, min, max, whole, large, problem, pointer } = props;
  const { system } = useSettings();
  const id = useId();
  const usual = (v: number) => show(v, unit, system, 3).text;
  const placeholder =
    typeof empty === "number"
      ? usual(empty)
      : typeof empty === "object"
        ? `${usual(empty.value)} ${empty.words}`
        : empty;
  const shown =
    value === undefined ? { text: "", unit: inSystem(unit, system).unit } : show(value, unit, system);
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [reading, setReading] = useState<string | null>(null);
  const held = useRef(0);

  const inRange = (v: number): string | null => {
    const low = min !== undefined && v < min;
    const high = max !== undefined && v > max;
    if (low || high) {
      const limit = show((low ? min : max) as number, unit, system);
      return `${low ? "at least" : "at most"} ${limit.text} ${printUnit(limit.unit)}`;
    }
    return whole && !Number.isInteger(v) ? "a whole number, for example 2" : null;
  };

  const commit = (text: string) => {
    if (text.trim() === "") {
      if (optional) {
        setError(null);
        setTyped(null);
        props.onChange(undefined);
      } else if (value !== undefined) setError(`a value is needed here, for example ${shown.text || "12"}`);
      return;
    }
    const found = readIn(text, unit, system);
    if ("error" in found) {
      setError(found.error);
      return;
    }
    const wrong = inRange(found.value);
    if (wrong) {
      setError(`expected: ${wrong}`);
      return;
    }
    setError(null);
    setTyped(null);
    setReading(found.changed ? `= ${show(found.value, unit, system).text}` : null);
    props.onChange(found.value);
  };

  const keys = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") commit(event.currentTarget.value);
    if (event.key === "Escape") {
      setTyped(null);
      setError(null);
    }
    const up = event.key === "ArrowUp";
    if ((up || event.key === "ArrowDown") && value !== undefined && typed === null) {
      event.preventDefault();
      const size = event.shiftKey ? "coarse" : event.altKey ? "fine" : "usual";
      const next = whole ? value + (up ? 1 : -1) : nudge(value, up ? 1 : -1, size);
      if (inRange(next) === null) {
        if (!event.repeat) held.current += 1;
        props.onChange(next, `${pointer ?? label}-keys`);
      }
    }
  };

  const message = error ?? problem;
  return (
    <div className="border-b border-rule/70 py-[3px]">
      <div className="flex items-baseline gap-2">
        <Tip text={help} term={termOfField(pointer)}>
          <label htmlFor={id} className="min-w-0 flex-1 text-soft">
            {label}
          </label>
        </Tip>
        {reading && !message && <span className="font-mono text-[10px] text-verdigris">{reading}</span>}
        <input
          id={id}
          data-pointer={pointer}
          inputMode="text"
          autoComplete="off"
          spellCheck={false}
          aria-invalid={message ? true : undefined}
          aria-describedby={message ? `${id}-m` : undefined}
          placeholder={placeholder}
          value={typed ?? shown.text}
          onChange={(e) => {
            setTyped(e.target.value);
            setReading(null);
          }}
          onFocus={(e) => e.target.select()}
          onBlur={(e) => {
            if (typed !== null) commit(e.target.value);
            props.onDone?.();
          }}
          onKeyDown={keys}
          className={`bg-transparent text-right tabular-nums placeholder:text-xs placeholder:text-soft/80 ${
            large
              ? "w-24 font-display text-xl font-semibold"
              : `font-mono ${(placeholder?.length ?? 0) > 13 && !shown.text ? "w-36" : "w-24"}`
          } ${message ? "text-brick" : ""}`}
        />
        <span className="w-9 shrink-0 text-xs text-soft">{printUnit(shown.unit)}</span>
      </div>
      {message && (
        <p id={`${id}-m`} role="alert" className="text-xs text-brick">
          {message}
        </p>
      )}
    </div>
  );
}
