import { api } from "../api/client";
import { pagesOf, picked, type Get } from "../lists/pages";

/** What the register can be narrowed by, besides its folders. */
export const documentFilters = ["search", "originator", "standing", "kind", "discipline"] as const;

/** What an address of the register asks for. */
export const documentsAsked = (get: Get) => picked(get, ...documentFilters, "folder", "sort");

export const documentsList = (what: ReturnType<typeof documentsAsked>) =>
  pagesOf(["documents", what], (after) => api.get("/documents", { ...what, after }));
