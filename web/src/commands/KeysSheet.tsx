import { SideSheet } from "../ui/SideSheet";
import { keyWords } from "./keys";
import { commandSets } from "./registry";

/** The keys of the place one is in, and those that work everywhere. */
export function KeysSheet({ onClose }: { onClose: () => void }) {
  return (
    <SideSheet title="Keys" open onClose={onClose}>
      {commandSets().map((set) => {
        const keyed = set.commands.filter((c) => c.keys && c.keys.length > 0);
        return (
          keyed.length > 0 && (
            <section key={set.place} className="mb-5" aria-label={set.place}>
              <h3 className="label mb-1">{set.place}</h3>
              <dl>
                {keyed.map((c) => (
                  <div
                    key={c.id}
                    className="flex items-baseline justify-between gap-4 border-b border-dotted border-rule py-1"
                  >
                    <dt className={c.run ? "" : "text-soft"}>{c.words}</dt>
                    <dd className="flex shrink-0 gap-1.5">
                      {c.keys!.map((k) => (
                        <kbd key={keyWords(k)} className="key">
                          {keyWords(k)}
                        </kbd>
                      ))}
                    </dd>
                  </div>
                ))}
              </dl>
            </section>
          )
        );
      })}
      <p className="text-soft">
        Keys wait while you type, and while a sheet like this one is open. Ctrl is Cmd on keyboards that have it.
      </p>
    </SideSheet>
  );
}
