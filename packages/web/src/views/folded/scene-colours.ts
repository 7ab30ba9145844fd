import { useMemo } from "react";
import { Color } from "three";
import { useTheme } from "../../ui/theme.ts";

/** Colours of the page's theme for the canvas, which cannot read CSS variables itself. */
export function useSceneColours() {
  const theme = useTheme();
  return useMemo(() => {
    const style = getComputedStyle(document.documentElement);
    const read = (name: string) => new Color(style.getPropertyValue(name).trim());
    return {
      theme,
      a: read("--metal-a"),
      b: read("--metal-b"),
      edge: read("--metal-edge"),
      ink: read("--ink"),
      quiet: read("--quiet"),
      amber: read("--amber"),
      moss: read("--moss"),
      stop: read("--stop"),
      ground: read("--ground"),
    };
  }, [theme]);
}

export type SceneColours = ReturnType<typeof useSceneColours>;
