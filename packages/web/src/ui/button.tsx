import type { ComponentProps } from "react";

const BASE =
  "inline-flex items-center justify-center gap-1.5 rounded-md text-[13px] font-semibold whitespace-nowrap select-none disabled:opacity-45";
const KINDS = {
  primary: "bg-moss text-moss-ink px-3.5 h-8 hover:brightness-110",
  plain: "border border-hairline bg-panel text-ink px-3 h-8 hover:bg-moss-soft",
  quiet: "text-quiet hover:text-ink hover:bg-moss-soft px-2 h-7",
  icon: "text-quiet hover:text-ink hover:bg-moss-soft size-8",
  danger: "bg-stop text-panel px-3.5 h-8 hover:brightness-110",
} as const;

type ButtonProps = ComponentProps<"button"> & { readonly kind?: keyof typeof KINDS };

export function Button({ kind = "plain", className = "", type = "button", ...rest }: ButtonProps) {
  return <button type={type} className={`${BASE} ${KINDS[kind]} ${className}`} {...rest} />;
}

/** A key to press, shown beside what it does. */
export function Key({ children }: { children: string }) {
  return <kbd className="num text-[11px] font-medium text-moss">{children}</kbd>;
}
