import { orders, showings, type Order, type Showing, type Sift } from "./sifting";

type Props = {
  sift: Sift;
  onChange: (sift: Sift) => void;
  /** Overlays on which places of the notes lie, by name. */
  overlays: readonly { id: string; name: string }[];
  /** The rounds the notes are of. */
  rounds: readonly number[];
};

/** Finds among the notes of a draft, and says which are listed and how. */
export function SiftBar({ sift, onChange, ...p }: Props) {
  const select = "field min-w-0 flex-1 py-0.5 text-sm";
  return (
    <div className="flex flex-wrap gap-1.5 px-3.5 pb-2">
      <input
        type="search"
        className="field basis-full py-0.5"
        aria-label="Find among the notes"
        placeholder="Words, number, person or zone"
        maxLength={200}
        value={sift.words}
        onChange={(e) => onChange({ ...sift, words: e.target.value })}
      />
      <select
        className={select}
        aria-label="Which notes"
        value={sift.show}
        onChange={(e) => onChange({ ...sift, show: e.target.value as Showing })}
      >
        {showings.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      <select
        className={select}
        aria-label="In which order"
        value={sift.order}
        onChange={(e) => onChange({ ...sift, order: e.target.value as Order })}
      >
        {orders.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      {p.overlays.length > 1 && (
        <select
          className={select}
          aria-label="On which overlay"
          value={sift.overlay ?? ""}
          onChange={(e) => onChange({ ...sift, overlay: e.target.value || null })}
        >
          <option value="">any overlay</option>
          {p.overlays.map((o) => (
            <option key={o.id} value={o.id}>
              {o.name}
            </option>
          ))}
        </select>
      )}
      {p.rounds.length > 1 && (
        <select
          className={select}
          aria-label="Of which round"
          value={sift.round ?? ""}
          onChange={(e) => onChange({ ...sift, round: e.target.value === "" ? null : Number(e.target.value) })}
        >
          <option value="">any round</option>
          {p.rounds.map((round) => (
            <option key={round} value={round}>
              {round === 0 ? "from earlier packages" : `round ${round}`}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
