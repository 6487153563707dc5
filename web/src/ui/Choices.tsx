import { RadioGroup } from "radix-ui";
import type { ReactNode } from "react";

type Props<Value extends string> = {
  label: string;
  /** What is chosen; empty where nothing is. */
  value: Value | "";
  onChange: (value: Value) => void;
  options: readonly { value: Value; shown: ReactNode; title?: string }[];
  /** How one that is chosen looks, and one that is not. */
  look?: readonly [chosen: string, other: string];
};

/** One of a few, side by side: the arrows choose, Tab goes past all of them. */
export function Choices<Value extends string>({ label, value, onChange, options, look }: Props<Value>) {
  const [chosen, other] = look ?? ["bg-ink text-raised", "hover:bg-picked"];
  return (
    <RadioGroup.Root
      aria-label={label}
      orientation="horizontal"
      value={value}
      onValueChange={(v) => onChange(v as Value)}
      className="flex border border-ink"
    >
      {options.map((o) => (
        <RadioGroup.Item
          key={o.value}
          value={o.value}
          title={o.title}
          className={`flex min-h-7 flex-auto items-center justify-center gap-1 whitespace-nowrap border-l border-ink px-1 font-medium first:border-l-0 ${o.value === value ? chosen : other}`}
        >
          {o.shown}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
