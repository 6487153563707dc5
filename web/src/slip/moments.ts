import type { Telling } from "../api/types";

export const moments: Record<Telling["at"], string> = {
  arrival: "it arrives",
  passage: "it passes",
  return: "it is returned",
  late: "it is late",
};
