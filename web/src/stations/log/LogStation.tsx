import { useEffect, useRef, useState } from "react";
import { Button } from "../../ui/Button";
import { useCurrentPart, useDocument, usePart, useWorkbench } from "../../workbench/context";
import { newKey, outbox } from "../../workbench/outbox";
import { useBuilding } from "../cabinet/useCabinet";
import { Lessons } from "../../app/Lessons";
import { useSay } from "../../app/settings";
import { chosen } from "./photos";
import { KINDS, type Kind } from "./kinds";
import { Preview } from "./Preview";
import { WentWrong } from "./WentWrong";
import type { MistakeCure, Text } from "../../api/client";

/** Where an entry is written: one hand, large keys, words and photos. */
export function LogStation() {
  const build = usePart((b) => b.build.id);
  const letter = useCurrentPart((r) => r.letter);
  const steps = useBuilding()?.steps ?? [];
  const say = useSay();
  const draftKey = `oak-drum.log-draft.${build}`;
  const [text, setText] = useState(() => localStorage.getItem(draftKey) ?? "");
  const [kind, setKind] = useState<Kind>("note");
  const [step, setStep] = useState("");
  const [part, setPart] = useState("");
  const [photos, setPhotos] = useState<File[]>([]);
  const [wrong, setWrong] = useState<string[]>([]);
  const [said, setSaid] = useState("");
  const workbench = useWorkbench();
  // what went wrong as the program says it, and what is done about it
  const [cured, setCured] = useState<{ said: Text; cure: MistakeCure }>();
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (text) localStorage.setItem(draftKey, text);
    else localStorage.removeItem(draftKey);
  }, [text, draftKey]);
  const add = (files: File[]) => {
    const taken = chosen(files, 12 - photos.length);
    setPhotos([...photos, ...taken.photos]);
    setWrong(taken.wrong);
  };
  const document = useDocument();
  const about = {
    family: document.enclosure.family,
    woofer: document.woofer.name || undefined,
    board: document.cabinet?.board,
    aside: build,
  };
  const nothing = !text.trim() && !photos.length && !cured;
  /** The words as they are written: what went wrong, what is done, and what was typed. */
  const words = () => {
    const told = cured ? [say(cured.said), `${say(cured.cure.title)}: ${say(cured.cure.text)}`] : [];
    return [...told, text.trim()].filter(Boolean).join("\n");
  };
  const write = async () => {
    const tied = { revision: letter, ...(step && { step }), ...(part.trim() && { part: part.trim() }) };
    await outbox.put({
      id: newKey(),
      build,
      base_version: 0,
      entry: { ...(kind !== "note" && { kind }), text: words(), tied },
      photos,
    });
    if (cured?.cure.changes.length) workbench.take(cured.cure.title, cured.cure.changes);
    setCured(undefined);
    setText("");
    setPhotos([]);
    setWrong([]);
    setStep("");
    setPart("");
    setKind("note");
    setSaid("Written down.");
  };
  return (
    <form
      aria-label="Write an entry"
      className="space-y-2.5"
      onSubmit={(e) => {
        e.preventDefault();
        if (!nothing) void write();
      }}
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        add([...e.dataTransfer.files]);
      }}
    >
      <div role="radiogroup" aria-label="What it is" className="flex flex-wrap gap-1">
        {KINDS.map(([id, title]) => (
          <button
            key={id}
            type="button"
            role="radio"
            aria-checked={kind === id}
            className={`min-h-9 rounded-sm border px-2.5 ${
              kind === id ? "border-oak bg-selected font-medium" : "border-rule text-soft hover:text-ink"
            }`}
            onClick={() => {
              setKind(id);
              setCured(undefined);
            }}
          >
            {title}
          </button>
        ))}
      </div>
      {kind === "mistake" && (
        <WentWrong
          chosen={cured?.cure}
          choose={(what, cure) => setCured(what && cure ? { said: what, cure } : undefined)}
        />
      )}
      <textarea
        aria-label="What happened"
        className="w-full rounded-sm border border-rule bg-panel px-2 py-1.5 text-base lg:text-sm"
        rows={kind === "mistake" ? 3 : 6}
        maxLength={20000}
        placeholder={KINDS.find(([id]) => id === kind)?.[2]}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setSaid("");
        }}
      />
      <div className="grid grid-cols-2 gap-2">
        <label className="min-w-0">
          <span className="block text-xs text-soft">Step</span>
          <select
            className="h-9 w-full rounded-sm border border-rule bg-panel px-1 lg:h-7"
            value={step}
            onChange={(e) => setStep(e.target.value)}
          >
            <option value="">none</option>
            {steps.map((s) => (
              <option key={s.id} value={s.id}>
                {say(s.title)}
              </option>
            ))}
          </select>
        </label>
        <label className="min-w-0">
          <span className="block text-xs text-soft">Part</span>
          <input
            className="h-9 w-full rounded-sm border border-rule bg-panel px-2 lg:h-7"
            maxLength={60}
            placeholder="C, left side"
            value={part}
            onChange={(e) => setPart(e.target.value)}
          />
        </label>
      </div>
      {photos.length > 0 && (
        <ul className="flex flex-wrap gap-2" aria-label="Photos of this entry">
          {photos.map((photo, i) => (
            <li key={`${photo.name}${i}`}>
              <Preview photo={photo} />
              <button
                type="button"
                className="block text-xs text-oak underline decoration-dotted"
                onClick={() => setPhotos(photos.filter((p) => p !== photo))}
              >
                leave out
              </button>
            </li>
          ))}
        </ul>
      )}
      <input
        ref={input}
        type="file"
        multiple
        // named one by one: then a phone hands its own kind over as JPEG
        accept="image/jpeg,image/png,image/webp"
        className="sr-only"
        aria-label="Choose photos"
        tabIndex={-1}
        onChange={(e) => {
          add([...(e.target.files ?? [])]);
          e.target.value = "";
        }}
      />
      <div className="flex gap-2">
        <Button className="min-h-11 flex-1 text-center! lg:min-h-8" onClick={() => input.current?.click()}>
          Add a photo
        </Button>
        <Button
          type="submit"
          look="strong"
          disabled={nothing}
          className="min-h-11 flex-1 text-center! lg:min-h-8"
        >
          Write it down
        </Button>
      </div>
      {wrong.length > 0 && (
        <ul role="alert" className="border-l-2 border-brick pl-2 text-brick">
          {wrong.map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
      )}
      <p role="status" className="min-h-4 text-xs text-soft">
        {said}
      </p>
      <Lessons about={about} />
      <p className="text-xs text-soft">
        Photos may be dropped here. They are turned upright, made at most 2000 pixels long, and nothing but
        the picture is kept: no place, no time, no camera.
      </p>
    </form>
  );
}
