import { Popover } from "radix-ui";
import { useState, type ReactNode } from "react";
import { unlessGoneOn } from "../ui/unlessGoneOn";
import { panel, trigger } from "./looks";

/** A button of a list's tools, and what it opens. It is made when it is first pressed: a closed one has the page drawn twice before it is seen. */
export function ToolPopover({
  button,
  label,
  look,
  isOpen = false,
  onOpenChange,
  children,
}: {
  button: ReactNode;
  label: string;
  /** Width and padding. */
  look: string;
  /** Whether it opens as it comes. */
  isOpen?: boolean;
  onOpenChange?: () => void;
  children: ReactNode;
}) {
  const [isMade, setMade] = useState(isOpen);
  if (!isMade)
    return (
      <button
        type="button"
        aria-haspopup="dialog"
        aria-expanded={false}
        className={trigger}
        onClick={() => setMade(true)}
      >
        {button}
      </button>
    );
  return (
    <Popover.Root defaultOpen onOpenChange={onOpenChange}>
      <Popover.Trigger className={trigger}>{button}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label={label}
          onCloseAutoFocus={unlessGoneOn}
          className={`${panel} ${look}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
