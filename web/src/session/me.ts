import { createContext, useContext } from "react";
import type { Me } from "../api/types";

/** Who is signed in, for everything on the page. */
export const SignedIn = createContext<Me | null>(null);

/** Who is signed in. */
export function useMe(): Me {
  const me = useContext(SignedIn);
  if (!me) throw new Error("Nobody is signed in.");
  return me;
}
