import { useEffect, useSyncExternalStore } from "react";
import { useApp } from "../state/store.ts";

const dark = typeof matchMedia === "undefined" ? undefined : matchMedia("(prefers-color-scheme: dark)");
const listen = (changed: () => void) => {
  dark?.addEventListener("change", changed);
  return () => dark?.removeEventListener("change", changed);
};

/** Day or night: what was chosen, else what the system says. */
export function useTheme(): "day" | "night" {
  const chosen = useApp((s) => s.view.theme);
  const system = useSyncExternalStore(listen, () => (dark?.matches ? "night" : "day"));
  const theme = chosen === "system" ? system : chosen;
  // Set while rendering, so that what reads the variables in the same pass sees the new ones.
  if (document.documentElement.dataset.theme !== theme) document.documentElement.dataset.theme = theme;
  return theme;
}

/** The page's title while a part is open. */
export function useTitle(name: string | undefined): void {
  useEffect(() => {
    document.title = name ? `${name} · Hillcrest` : "Hillcrest";
  }, [name]);
}
