import type { ButtonHTMLAttributes } from "react";

const looks = {
  plain: "border-rule text-ink hover:bg-selected",
  action: "border-rule text-oak hover:border-oak hover:bg-selected font-medium",
  strong: "border-oak bg-oak text-panel font-medium hover:opacity-90",
};

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof looks }) {
  return (
    <button
      type="button"
      className={`rounded-sm border px-2 py-1 text-left disabled:cursor-default disabled:opacity-40 ${looks[look]} ${className}`}
      {...rest}
    />
  );
}
