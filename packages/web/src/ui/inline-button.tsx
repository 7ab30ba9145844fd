import type { ComponentProps } from "react";

/** A button that breaks across lines like the words around it, which a real one cannot. */
export function InlineButton({ className = "", onKeyDown, ...rest }: ComponentProps<"span">) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a button element is laid out as a block and tears sentences apart
    <span
      role="button"
      tabIndex={0}
      className={`cursor-pointer ${className}`}
      onKeyDown={(e) => {
        onKeyDown?.(e);
        if (e.key !== "Enter" && e.key !== " ") return;
        e.preventDefault();
        e.stopPropagation();
        e.currentTarget.click();
      }}
      {...rest}
    />
  );
}
