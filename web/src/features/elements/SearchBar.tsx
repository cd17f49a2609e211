/** Over the list of elements: words to find, kinds to keep, and in which order. */
import { Search as Glass, X } from "lucide-react";
import { EVERYTHING, KINDS, ORDERS, type Kind, type Order, type Search } from "../../domain/elementSearch";
import { Choose } from "../../ui/Choose";
import { text } from "./strings";

const t = text.SearchBar;

export function SearchBar({ search, onSearch }: { search: Search; onSearch: (search: Search) => void }) {
  return (
    <div role="search" className="mt-2 space-y-1.5">
      <span className="flex h-7 items-center gap-1.5 rounded-md border border-line bg-card px-2 focus-within:border-accent">
        <Glass aria-hidden className="size-3.5 shrink-0 text-soft" />
        <input
          type="text"
          aria-label={t.find}
          placeholder={t.find}
          value={search.words}
          onChange={(event) => onSearch({ ...search, words: event.target.value })}
          onKeyDown={(event) => {
            if (event.key === "Escape") onSearch({ ...search, words: "" });
          }}
          className="min-w-0 flex-1 bg-transparent !outline-none"
        />
        {search.words !== "" && (
          <button type="button" aria-label={t.clear} onClick={() => onSearch({ ...search, words: "" })}>
            <X className="size-3.5 text-soft" />
          </button>
        )}
      </span>
      <span className="flex gap-1.5">
        <Choose
          name={t.kind}
          value={search.kind}
          options={KINDS.map((value) => ({ value, label: t.kinds[value] }))}
          onChange={(kind) => onSearch({ ...search, kind: kind as Kind })}
        />
        <Choose
          name={t.order}
          value={search.order}
          options={ORDERS.map((value) => ({ value, label: t.orders[value] }))}
          onChange={(order) => onSearch({ ...search, order: order as Order })}
        />
      </span>
    </div>
  );
}

/** Where nothing is found. */
export function NothingFound({ onSearch }: { onSearch: (search: Search) => void }) {
  return (
    <p className="p-3 text-soft">
      {t.nothing}{" "}
      <button type="button" className="underline" onClick={() => onSearch(EVERYTHING)}>
        {t.showAll}
      </button>
    </p>
  );
}
