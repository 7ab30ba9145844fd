import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";

interface DialogProps {
  readonly open: boolean;
  readonly onClose?: () => void;
  readonly title: string;
  readonly children: ReactNode;
  readonly actions: ReactNode;
  /** Room for a table. */
  readonly wide?: boolean;
}

/** A question in the middle of the page. Without `onClose` it must be answered. */
export function Dialog({ open, onClose, title, children, actions, wide }: DialogProps) {
  const stay = (e: Event) => {
    if (!onClose) e.preventDefault();
  };
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose?.()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Radix.Content
          onEscapeKeyDown={stay}
          onPointerDownOutside={stay}
          aria-describedby={undefined}
          className={`fixed top-1/2 left-1/2 z-50 ${wide ? "w-[min(860px,94vw)]" : "w-[min(480px,92vw)]"} -translate-x-1/2 -translate-y-1/2 rounded-lg border border-hairline bg-panel p-5 shadow-card`}
        >
          <Radix.Title className="mb-2 text-[16px] font-bold">{title}</Radix.Title>
          <div className="max-h-[50vh] overflow-auto text-[13.5px] leading-relaxed">{children}</div>
          <div className="mt-5 flex flex-wrap justify-end gap-2">{actions}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
