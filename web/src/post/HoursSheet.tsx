import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import type { PostHours } from "../api/types";
import { Button, Fault, Labelled, Tick, TimeField } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { hearing, keepHearing, type Hearing } from "./hearing";

/** How messages reach a person besides in the app. */
export function HoursSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { data } = useQuery({
    queryKey: ["post-hours"],
    queryFn: () => api.get("/post-hours"),
    enabled: open,
  });
  return (
    <SideSheet title="Messages and mail" open={open} onClose={onClose}>
      {data && <Form key={JSON.stringify(data)} hours={data} onClose={onClose} />}
      <InThisBrowser />
    </SideSheet>
  );
}

/** A line on the screen comes always; the rest is as the person wants it, browser by browser. */
function InThisBrowser() {
  const [kept, setKept] = useState(hearing);
  const [refused, setRefused] = useState(false);
  const keep = async (wanted: Hearing) => {
    const now = await keepHearing(wanted);
    setKept(now);
    setRefused(wanted.browser && !now.browser);
  };
  return (
    <section aria-label="In this browser" className="mt-6 border-t border-rule pt-4">
      <h3 className="label mb-1">In this browser</h3>
      <p className="mb-2">A new message shows as a line at the foot of the page. Besides:</p>
      <Tick words="the browser's own notices" on={kept.browser} set={(browser) => void keep({ ...kept, browser })} />
      {refused && (
        <p className="text-rust">The browser does not allow it. Allow notices for this page in its settings.</p>
      )}
      <Tick words="a short sound" on={kept.sound} set={(sound) => void keep({ ...kept, sound })} />
    </section>
  );
}

function Form({ hours, onClose }: { hours: PostHours; onClose: () => void }) {
  const client = useQueryClient();
  const [wanted, setWanted] = useState(hours);
  const [quiet, setQuiet] = useState(hours.quietFrom !== hours.quietTo);
  const saving = useAct(async (key) => {
    await api.once(key).put("/post-hours", quiet ? wanted : { ...wanted, quietFrom: 0, quietTo: 0 });
    await client.invalidateQueries({ queryKey: ["post-hours"] });
    onClose();
  });
  const time = (key: "digestAt" | "quietFrom" | "quietTo", label: string) => (
    <Labelled label={label}>
      <TimeField
        label={label}
        minute={wanted[key]}
        onChange={(minute) => setWanted({ ...wanted, [key]: minute % 1440 })}
      />
    </Labelled>
  );
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void saving.run();
      }}
    >
      <p className="mb-3">In the app you hear at once, always. By mail:</p>
      <div role="radiogroup" aria-label="By mail" className="mb-4">
        {(
          [
            ["atOnce", "at once, one mail for each message"],
            ["daily", "once a day, all messages in one mail"],
            ["none", "not at all"],
          ] as const
        ).map(([mode, words]) => (
          <label key={mode} className="flex items-center gap-2 py-0.5">
            <input
              type="radio"
              name="mode"
              className="accent-spruce"
              checked={wanted.mode === mode}
              onChange={() => setWanted({ ...wanted, mode })}
            />
            {words}
          </label>
        ))}
      </div>
      {wanted.mode === "daily" && time("digestAt", "The day's mail goes out at")}
      {wanted.mode === "atOnce" && (
        <>
          <label className="mb-2 flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-spruce"
              checked={quiet}
              onChange={(e) => {
                setQuiet(e.target.checked);
                if (e.target.checked && wanted.quietFrom === wanted.quietTo)
                  setWanted({ ...wanted, quietFrom: 19 * 60, quietTo: 7 * 60 });
              }}
            />
            quiet hours, in which mail waits
          </label>
          {quiet && (
            <div className="grid grid-cols-2 gap-3">
              {time("quietFrom", "From")}
              {time("quietTo", "To")}
            </div>
          )}
        </>
      )}
      <Fault>{saving.fault}</Fault>
      <Button look="main" type="submit">
        Keep this
      </Button>
    </form>
  );
}
