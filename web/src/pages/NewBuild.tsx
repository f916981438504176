import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useForm, useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import { api, get, Refused, type Design } from "../api/client";
import { builds, woofer as wooferQuery, woofers } from "../api/queries";
import { Lessons } from "../app/Lessons";
import { sheetInUse } from "../lib/shelf";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";

type Fields = { name: string; woofer: string; family: string };

/** A build needs a name and a woofer; the box begins with the program's own suggestion. */
export function NewBuild({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const shelf = useQuery({ ...woofers(), enabled: open }).data ?? [];
  const navigate = useNavigate();
  const client = useQueryClient();
  const form = useForm<Fields>({ defaultValues: { name: "", woofer: "", family: "vented" } });
  const { errors, isSubmitting } = form.formState;
  const wanted = useWatch({ control: form.control });

  const submit = async ({ name, woofer: id, family }: Fields) => {
    const record = shelf.find((w) => w.id === id);
    if (!record) return;
    try {
      const woofer = sheetInUse(await client.fetchQuery(wooferQuery(record.id)));
      const plain: Design = {
        format: "oak-drum-design",
        version: 8,
        name: "First thought",
        woofer,
        enclosure: { family: "sealed", net_volume_l: 50 },
      };
      const { suggestions } = await get(api.POST("/api/suggest", { body: plain }));
      const start =
        suggestions.find((s) => s.enclosure?.family === family)?.enclosure ??
        suggestions.find((s) => s.enclosure)?.enclosure;
      const document = { ...plain, ...(start && { enclosure: start }) };
      const made = await get(api.POST("/api/builds", { body: { name, document } }));
      await client.invalidateQueries(builds());
      await navigate(`/builds/${made.id}/box`);
    } catch (cause) {
      const field = cause instanceof Refused ? cause.problem?.errors?.[0] : undefined;
      form.setError(field?.pointer === "/name" ? "name" : "root", {
        message: cause instanceof Refused ? cause.message : "That did not work.",
      });
    }
  };

  const field = "mt-1 w-full rounded-sm border border-rule bg-ground px-2 py-1.5";
  return (
    <Modal title="A build of your own" open={open} onOpenChange={onOpenChange}>
      <form className="space-y-3" onSubmit={(e) => void form.handleSubmit(submit)(e)} noValidate>
        <label className="block">
          Name
          <input
            {...form.register("name", {
              validate: (v) => v.trim() !== "" || "a name is needed, for example “Attic sub”",
            })}
            aria-invalid={Boolean(errors.name)}
            maxLength={120}
            className={field}
          />
          {errors.name && (
            <span role="alert" className="text-xs text-brick">
              {errors.name.message}
            </span>
          )}
        </label>
        <label className="block">
          Woofer
          <select
            {...form.register("woofer", { required: "pick one; its figures can be changed later" })}
            aria-invalid={Boolean(errors.woofer)}
            className={field}
          >
            <option value="">Pick one from the shelf…</option>
            {shelf.map((w) => (
              <option key={w.id} value={w.id}>
                {w.row.name} — {w.row.size_in} in, {w.row.maker}
              </option>
            ))}
          </select>
          {errors.woofer && (
            <span role="alert" className="text-xs text-brick">
              {errors.woofer.message}
            </span>
          )}
        </label>
        <fieldset>
          <legend>Begin with</legend>
          <div className="mt-1 flex gap-4">
            {[
              ["vented", "a vented box, the flattest"],
              ["sealed", "a sealed box, Qtc 0.707"],
            ].map(([id, words]) => (
              <label key={id} className="flex items-center gap-1.5">
                <input type="radio" value={id} {...form.register("family")} className="accent-oak" /> {words}
              </label>
            ))}
          </div>
        </fieldset>
        <Lessons
          about={{ family: wanted.family, woofer: shelf.find((w) => w.id === wanted.woofer)?.row.name }}
        />
        {errors.root && (
          <p role="alert" className="text-brick">
            {errors.root.message}
          </p>
        )}
        <div className="flex justify-end gap-2 pt-2">
          <Button onClick={() => onOpenChange(false)}>Not now</Button>
          <Button look="strong" type="submit" disabled={isSubmitting}>
            Begin
          </Button>
        </div>
      </form>
    </Modal>
  );
}
