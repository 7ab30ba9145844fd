import { Popover as Radix } from "radix-ui";
import {
  cloneElement,
  type HTMLAttributes,
  type ReactElement,
  type ReactNode,
  useId,
  useRef,
  useState,
} from "react";

type TriggerProps = HTMLAttributes<HTMLElement> & { readonly ref?: React.Ref<HTMLElement> };

interface UnfoldingProps {
  /** What is pressed: one element that takes a ref and the properties of a button. */
  readonly trigger: ReactElement<TriggerProps>;
  readonly label: string;
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly align?: "start" | "center" | "end";
  readonly sideOffset?: number;
  readonly className: string;
  readonly onKeyDown?: (e: React.KeyboardEvent<HTMLElement>) => void;
  readonly children: ReactNode;
}

/**
 * Something to press, and what unfolds beside it. A page has dozens of them, in every sentence and at every number, and
 * is drawn again with every key: before it was opened once there is nothing of it but what is pressed.
 */
export function Unfolding({ trigger, label, open, onOpenChange, children, ...look }: UnfoldingProps) {
  const [asked, setAsked] = useState(open);
  if (open && !asked) setAsked(true);
  const pressed = useRef<HTMLElement>(null);
  const left = useRef(false);
  const id = useId();
  return (
    <>
      {cloneElement(trigger, {
        ref: pressed,
        "aria-haspopup": "dialog",
        "aria-expanded": open,
        "aria-controls": open ? id : undefined,
        onClick: (e) => {
          trigger.props.onClick?.(e);
          onOpenChange(!open);
        },
      })}
      {asked && (
        <Radix.Root open={open} onOpenChange={onOpenChange}>
          <Radix.Anchor virtualRef={pressed as React.RefObject<HTMLElement>} />
          <Radix.Portal>
            <Radix.Content
              id={id}
              collisionPadding={8}
              aria-label={label}
              onInteractOutside={(e) => {
                // A press on what opened it closes it by that alone.
                if (pressed.current?.contains(e.target as Node)) e.preventDefault();
                else left.current = true;
              }}
              onCloseAutoFocus={() => {
                // What was chosen may have taken the keys elsewhere before a busy page gets round to this.
                const taken = document.activeElement !== null && document.activeElement !== document.body;
                if (!left.current && !taken) pressed.current?.focus();
                left.current = false;
              }}
              {...look}
            >
              {children}
            </Radix.Content>
          </Radix.Portal>
        </Radix.Root>
      )}
    </>
  );
}

interface PopoverProps extends Pick<UnfoldingProps, "trigger" | "children" | "align" | "label"> {
  readonly open?: boolean;
  readonly onOpenChange?: (open: boolean) => void;
}

/** A card that unfolds where it is asked for; whoever does not say whether it is open leaves that to it. */
export function Popover({ open, onOpenChange, align = "start", ...rest }: PopoverProps) {
  const [own, setOwn] = useState(false);
  return (
    <Unfolding
      open={open ?? own}
      onOpenChange={(next) => {
        setOwn(next);
        onOpenChange?.(next);
      }}
      align={align}
      sideOffset={6}
      className="scroll-quiet z-40 max-h-[80vh] max-w-[94vw] overflow-auto rounded-lg border border-hairline bg-panel p-3 shadow-card"
      {...rest}
    />
  );
}
