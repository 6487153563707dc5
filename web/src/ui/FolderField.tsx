import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import { api } from "../api/client";
import { useSettled } from "./useSettled";

/** A folder's path, typed with the register's folders to choose from: those that hold the words typed so far. */
export function FolderField({
  value,
  onChange,
  label,
  placeholder = "Mount / Released",
  filing = false,
}: {
  value: string;
  onChange: (path: string) => void;
  label?: string;
  placeholder?: string;
  /** Only folders that who types may file into. */
  filing?: boolean;
}) {
  const list = useId();
  const words = useSettled(value.replaceAll("/", " ").trim());
  const { data } = useQuery({
    queryKey: ["folders", "found", words, filing],
    queryFn: () => api.get("/folders/found", { words, filing: filing ? "true" : undefined }),
    placeholderData: (before) => before,
  });
  return (
    <>
      <datalist id={list}>
        {data
          ?.filter((p) => p !== "")
          .map((p) => (
            <option key={p} value={p} />
          ))}
      </datalist>
      <input
        className="field"
        list={list}
        aria-label={label}
        placeholder={placeholder}
        maxLength={400}
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </>
  );
}
