import { Moon, Sun } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { useSend } from "../state/store.ts";
import { viewActions } from "../state/view-slice.ts";
import { Button } from "./button.tsx";
import { Logo } from "./logo.tsx";
import { useTheme } from "./theme.ts";

const PLACES = [
  { to: "/", name: "Shelf" },
  { to: "/stock", name: "Stock" },
  { to: "/study", name: "Bend study" },
] as const;

interface PageHeadProps {
  readonly here: (typeof PLACES)[number]["name"] | "Bin" | "History";
  readonly children?: ReactNode;
}

/** The head of every page but the Bench: where one is, where one can go, and what the page does. */
export function PageHead({ here, children }: PageHeadProps) {
  return (
    <header className="sticky top-0 z-20 flex h-12 shrink-0 items-center gap-4 border-b border-hairline bg-panel px-4">
      <Logo />
      <nav aria-label="Places" className="flex items-baseline gap-4">
        {PLACES.map(({ to, name }) => {
          const current = name === here || (here === "Bin" && name === "Shelf");
          return current ? (
            <h1 key={to} className="text-[16px] font-bold">
              {here}
            </h1>
          ) : (
            <Link key={to} to={to} className="rounded text-quiet hover:text-ink">
              {name}
            </Link>
          );
        })}
        {here === "History" && <h1 className="text-[16px] font-bold">History</h1>}
      </nav>
      {children}
      <ThemeSwitch />
    </header>
  );
}

export function ThemeSwitch() {
  const send = useSend();
  const theme = useTheme();
  return (
    <Button
      kind="icon"
      aria-label={theme === "day" ? "Night theme" : "Day theme"}
      title={theme === "day" ? "Night theme" : "Day theme"}
      onClick={() => send(viewActions.themeChosen(theme === "day" ? "night" : "day"))}
    >
      {theme === "day" ? <Moon size={16} /> : <Sun size={16} />}
    </Button>
  );
}
