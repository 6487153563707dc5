import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api } from "../api/client";
import { newKey } from "../api/key";
import type { DateManner } from "../api/types";
import { Fault, Labelled } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { clockOf, exactlyThere, keepClock, when } from "../ui/time";
import { useMe } from "./me";

/** Languages that dates are offered in; any other tag that somebody has stays theirs. */
const LANGUAGES = [
  ...["en-GB", "en-US", "en-CA", "cs", "da", "de", "de-AT", "de-CH", "el", "es", "et", "fi", "fr", "fr-CH", "hr", "hu"],
  ...[
    "is",
    "it",
    "ja",
    "ko",
    "lt",
    "lv",
    "nb",
    "nl",
    "nn",
    "pl",
    "pt",
    "pt-BR",
    "ro",
    "sk",
    "sl",
    "sv",
    "tr",
    "uk",
    "zh",
  ],
];

const nameOf = (tag: string) =>
  new Intl.DisplayNames("en-GB", { type: "language", languageDisplay: "standard" }).of(tag) ?? tag;

/** How one reads dates: their language, the clock, and the day that weeks begin with. */
export function DatesSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { dates, timeZone } = useMe();
  const client = useQueryClient();
  // What is chosen holds at once, and is kept one choice after another: none is lost to the one before it.
  const [chosen, setChosen] = useState(dates);
  const [fault, setFault] = useState<string | null>(null);
  const keeping = useRef<Promise<unknown>>(Promise.resolve());
  const set = (patch: Partial<DateManner>) => {
    const next = { ...chosen, ...patch };
    setChosen(next);
    setFault(null);
    keepClock(timeZone, next);
    keeping.current = keeping.current
      .then(() => api.once(newKey()).put("/session/dates", next))
      .then(() => client.invalidateQueries({ queryKey: ["session"] }))
      .catch((e: unknown) => setFault((e as Error).message));
  };
  const now = new Date().toISOString();
  const offered = [...new Set([...LANGUAGES, ...(chosen.language ? [chosen.language] : [])])]
    .map((tag) => [tag, nameOf(tag)] as const)
    .sort((a, b) => a[1].localeCompare(b[1], "en"));
  return (
    <SideSheet title="Dates and clock" open={open} onClose={onClose}>
      <p role="status" className="mb-4 border-l-[3px] border-rule pl-3">
        <b className="font-semibold">{exactlyThere(now)}</b>
        <span className="block text-soft">
          As lists have it: {when(now)}. A day of work: {clockOf(450)} to {clockOf(990)}.
        </span>
      </p>
      <Labelled label="Language of dates">
        <select className="field" value={chosen.language} onChange={(e) => set({ language: e.target.value })}>
          <option value="">as the pages</option>
          {offered.map(([tag, name]) => (
            <option key={tag} value={tag}>
              {name}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="Clock">
        <select
          className="field"
          value={chosen.hours}
          onChange={(e) => set({ hours: e.target.value as DateManner["hours"] })}
        >
          <option value="byLanguage">as the language has it</option>
          <option value="twentyFour">24 hours</option>
          <option value="twelve">12 hours</option>
        </select>
      </Labelled>
      <Labelled label="Weeks begin on">
        <select
          className="field"
          value={chosen.weekBegins}
          onChange={(e) => set({ weekBegins: e.target.value as DateManner["weekBegins"] })}
        >
          <option value="byLanguage">the day of the language</option>
          <option value="monday">Monday</option>
          <option value="saturday">Saturday</option>
          <option value="sunday">Sunday</option>
        </select>
      </Labelled>
      <p className="text-soft">Your time zone is {timeZone.replaceAll("_", " ")}; the office keeps it.</p>
      <Fault>{fault}</Fault>
    </SideSheet>
  );
}
