import { useQuery } from "@tanstack/react-query";
import { lessons } from "../api/queries";

type About = { family?: string; woofer?: string; board?: string; aside?: string };

/** What would be done better, as it was written at other builds that share something with this one; nothing where nothing was. */
export function Lessons({ about }: { about: About }) {
  const list = useQuery({ ...lessons(about), enabled: !!(about.family || about.woofer) }).data ?? [];
  if (!list.length) return null;
  return (
    <section aria-label="What you would do better" className="border-l-3 border-verdigris pl-2.5">
      <h2 className="font-display text-base font-semibold">What you would do better</h2>
      <ul className="space-y-1.5">
        {list.slice(0, 5).map((l, i) => (
          <li key={i}>
            {l.text}
            <span className="block text-xs text-soft">
              {l.build}: the same {l.shares.join(", ")}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
