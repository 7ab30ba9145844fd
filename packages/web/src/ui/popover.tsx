import { Popover as Radix } from "radix-ui";
import type { ReactNode } from "react";

interface PopoverProps {
  readonly trigger: ReactNode;
  readonly children: ReactNode;
  readonly align?: "start" | "center" | "end";
  readonly label: string;
  readonly open?: boolean;
  readonly onOpenChange?: (open: boolean) => void;
}

export function Popover({ trigger, children, align = "start", label, open, onOpenChange }: PopoverProps) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          align={align}
          sideOffset={6}
          collisionPadding={8}
          aria-label={label}
          className="scroll-quiet z-40 max-h-[80vh] max-w-[94vw] overflow-auto rounded-lg border border-hairline bg-panel p-3 shadow-card"
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
