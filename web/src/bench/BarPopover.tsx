import { Popover } from "radix-ui";
import type { ReactNode } from "react";
import { unlessGoneOn } from "../ui/unlessGoneOn";

type Props = {
  icon: ReactNode;
  words: string;
  /** Whether its button is the sign alone, where it is seldom wanted and room is scarce. */
  isSign?: boolean;
  children: ReactNode;
};

/** A button of the place's bar that opens a small sheet below it. */
export function BarPopover({ icon, words, isSign = false, children }: Props) {
  return (
    <Popover.Root>
      {isSign ? (
        <Popover.Trigger
          aria-label={words}
          title={words}
          className="inline-flex h-6 w-6 items-center justify-center bg-raised/85 hover:bg-lit"
        >
          {icon}
        </Popover.Trigger>
      ) : (
        <Popover.Trigger className="inline-flex min-h-8 items-center gap-2 rounded-[5px] border border-edge bg-raised px-2.5 font-medium whitespace-nowrap hover:bg-lit">
          {icon} {words}
        </Popover.Trigger>
      )}
      <Popover.Portal>
        <Popover.Content
          // What is pressed in it is no press on the sheet, wherever its button stands.
          data-on-sheet
          align="end"
          sideOffset={6}
          aria-label={words}
          onCloseAutoFocus={unlessGoneOn}
          // A field in it that Escape leads out of keeps it open.
          onEscapeKeyDown={(e) => {
            if ((e.target as HTMLElement).closest("[data-own-escape]")) e.preventDefault();
          }}
          className="z-50 max-h-[70vh] w-72 overflow-y-auto rounded-md border border-rule bg-raised p-3 shadow-lg"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
