import { useId, useState } from "react";
import { Labelled } from "../ui/kit";

/** A new password, typed twice; gives null until both are alike and long enough. Whether it is among the common ones the server says. */
export function NewPassword({ onChange }: { onChange: (password: string | null) => void }) {
  const hint = useId();
  const [one, setOne] = useState("");
  const [two, setTwo] = useState("");
  const take = (a: string, b: string) => {
    setOne(a);
    setTwo(b);
    onChange(a.length >= 12 && a === b ? a : null);
  };
  const said =
    one.length > 0 && one.length < 12
      ? `${12 - one.length} more ${one.length === 11 ? "character" : "characters"}.`
      : two.length > 0 && one !== two
        ? "The two are not alike."
        : "At least 12 characters. A few words in a row are easy to keep in mind.";
  return (
    <>
      <Labelled label="New password">
        <input
          className="field"
          type="password"
          autoComplete="new-password"
          aria-describedby={hint}
          maxLength={128}
          value={one}
          onChange={(e) => take(e.target.value, two)}
        />
      </Labelled>
      <Labelled label="New password, again">
        <input
          className="field"
          type="password"
          autoComplete="new-password"
          aria-describedby={hint}
          maxLength={128}
          value={two}
          onChange={(e) => take(one, e.target.value)}
        />
      </Labelled>
      <p id={hint} role="status" className="-mt-1 mb-3 text-sm text-soft">
        {said}
      </p>
    </>
  );
}
