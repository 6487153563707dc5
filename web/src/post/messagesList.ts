import { api } from "../api/client";
import { pagesOf, picked, type Get } from "../lists/pages";

/** What an address of the post asks for. */
export const messagesAsked = (get: Get) => picked(get, "search", "unread");

export const messagesList = (what: ReturnType<typeof messagesAsked>) =>
  pagesOf(["messages", what], (after) => api.get("/messages", { ...what, after }));
