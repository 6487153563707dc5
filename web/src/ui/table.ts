import { habitOf, keepHabit } from "./habit";

/** What the table looks like: as the system has it, light, or dark for night work. */
export type TableLook = "system" | "light" | "dark";

const KEPT = "froe.table";

/** What this browser was asked for. */
export function tableLook(): TableLook {
  const kept = habitOf(KEPT);
  return kept === "light" || kept === "dark" ? kept : "system";
}

/** Lays the table so, and keeps it for the next time. */
export function layTable(look: TableLook) {
  if (look === "system") delete document.documentElement.dataset.table;
  else document.documentElement.dataset.table = look;
  keepHabit(KEPT, look === "system" ? null : look);
}
