import { SideSheet } from "../ui/SideSheet";
import { Phrases } from "./Phrases";

/** One's own frequent wordings, and, to be read, the office's. */
export function OwnPhrases({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <SideSheet title="Frequent wordings" open={open} onClose={onClose}>
      <p className="mb-3 text-soft">
        They are offered while you write a note. Three underscores are a blank: Tab goes from one to the next.
      </p>
      <h3 className="label">Yours</h3>
      <Phrases isOffice={false} mayChange />
      <h3 className="label mt-6">The office’s</h3>
      <Phrases isOffice mayChange={false} />
    </SideSheet>
  );
}
