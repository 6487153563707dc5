import { Refusal } from "../api/client";
import { Queries } from "../api/Queries";

/** What was asked of the server, as long as the page is open. */
export const queries = new Queries({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      // A browser that believes itself offline may well reach a server in the same house.
      networkMode: "always",
      retry: (count, error) => count < 2 && !(error instanceof Refusal && error.status >= 400 && error.status < 500),
    },
  },
});
