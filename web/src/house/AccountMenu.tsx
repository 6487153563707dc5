import { useQueryClient } from "@tanstack/react-query";
import { CalendarClock, CalendarOff, Check, KeyRound, LogOut, TextQuote } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { api } from "../api/client";
import type { Me } from "../api/types";
import { lazyPart } from "../ui/lazyPart";
import { layTable, tableLook, type TableLook } from "../ui/table";
import { unlessGoneOn } from "../ui/unlessGoneOn";
import { accountLook } from "./looks";

const Absences = lazyPart(async () => (await import("../absences/Absences")).Absences);
const Account = lazyPart(async () => (await import("../session/Account")).Account);
const OwnPhrases = lazyPart(async () => (await import("../notes/OwnPhrases")).OwnPhrases);
const DatesSheet = lazyPart(async () => (await import("../session/DatesSheet")).DatesSheet);

/** The menu of one's own account; it opens as it comes. */
export function AccountMenu({ person, onOut }: { person: Me; onOut: () => void }) {
  const [sheet, setSheet] = useState<"absences" | "account" | "dates" | "phrases" | null>(null);
  const closing = { onClose: () => setSheet(null), onFailed: () => setSheet(null) };
  const [look, setLook] = useState(tableLook);
  const client = useQueryClient();
  const out = async () => {
    await api.delete("/session");
    onOut();
    await client.invalidateQueries({ queryKey: ["session"] });
    // The next person to sign in here must not see what this one could.
    client.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
  };
  return (
    <>
      <DropdownMenu.Root defaultOpen>
        <DropdownMenu.Trigger aria-label={`${person.name}, your account`} className={accountLook}>
          {person.initials}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            side="right"
            align="end"
            sideOffset={8}
            onCloseAutoFocus={unlessGoneOn}
            className="z-50 min-w-52 rounded-md border border-rule bg-raised p-1 shadow-lg"
          >
            <div className="px-3 py-2">
              <div className="font-semibold">{person.name}</div>
              <div className="text-soft">{person.title}</div>
            </div>
            <DropdownMenu.Item
              onSelect={() => setSheet("absences")}
              className="flex cursor-pointer items-center gap-2 rounded px-3 py-2 data-[highlighted]:bg-picked"
            >
              <CalendarOff size={15} /> Absences and deputies
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() => setSheet("account")}
              className="flex cursor-pointer items-center gap-2 rounded px-3 py-2 data-[highlighted]:bg-picked"
            >
              <KeyRound size={15} /> Password and sessions
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() => setSheet("dates")}
              className="flex cursor-pointer items-center gap-2 rounded px-3 py-2 data-[highlighted]:bg-picked"
            >
              <CalendarClock size={15} /> Dates and clock
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() => setSheet("phrases")}
              className="flex cursor-pointer items-center gap-2 rounded px-3 py-2 data-[highlighted]:bg-picked"
            >
              <TextQuote size={15} /> Frequent wordings
            </DropdownMenu.Item>
            <DropdownMenu.Label className="label px-3 pt-2">The table</DropdownMenu.Label>
            <DropdownMenu.RadioGroup
              value={look}
              onValueChange={(value) => {
                layTable(value as TableLook);
                setLook(value as TableLook);
              }}
            >
              {(
                [
                  ["system", "As the system has it"],
                  ["light", "Light, as by day"],
                  ["dark", "Dark, for night work"],
                ] as const
              ).map(([value, words]) => (
                <DropdownMenu.RadioItem
                  key={value}
                  value={value}
                  className="flex cursor-pointer items-center gap-2 rounded px-3 py-1.5 data-[highlighted]:bg-picked"
                  onSelect={(e) => e.preventDefault()}
                >
                  <span className="w-[15px]">
                    <DropdownMenu.ItemIndicator>
                      <Check size={15} />
                    </DropdownMenu.ItemIndicator>
                  </span>
                  {words}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
            <DropdownMenu.Separator className="my-1 border-t border-rule" />
            <DropdownMenu.Item
              onSelect={() => void out()}
              className="flex cursor-pointer items-center gap-2 rounded px-3 py-2 data-[highlighted]:bg-picked"
            >
              <LogOut size={15} /> Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {sheet === "absences" && <Absences open {...closing} />}
      {sheet === "dates" && <DatesSheet open {...closing} />}
      {sheet === "phrases" && <OwnPhrases open {...closing} />}
      {sheet === "account" && <Account open {...closing} />}
    </>
  );
}
