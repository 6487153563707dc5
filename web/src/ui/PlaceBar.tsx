import type { ReactNode } from "react";

/** The bar over a place: its name and what can be done there. */
export function PlaceBar({ title, beside, children }: { title: ReactNode; beside?: ReactNode; children?: ReactNode }) {
  return (
    <header className="flex h-[46px] shrink-0 items-center gap-3 border-b border-rule px-4">
      <h1 className="truncate text-lg font-semibold">{title}</h1>
      <span className="shrink-0 text-soft">{beside}</span>
      <span className="flex-1" />
      {children}
    </header>
  );
}
