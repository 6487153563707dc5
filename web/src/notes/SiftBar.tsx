import { orders, showings, type Order, type Showing, type Sift } from "./sifting";

/** Finds among the notes of a draft, and says which are listed and how. */
export function SiftBar({ sift, onChange }: { sift: Sift; onChange: (sift: Sift) => void }) {
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
    </div>
  );
}
