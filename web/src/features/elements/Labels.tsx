/** Labels of elements: chips that filter the list, and that elements are dragged onto; a field for the keyboard. */
import { useMutation } from "@tanstack/react-query";
import { Plus, Tag } from "lucide-react";
import { useState, type DragEvent } from "react";
import { create } from "zustand";
import { asProblem, type ElementOut } from "../../api/client";
import { elementCalls } from "../../api/elements";
import { labelsOf, type Search } from "../../domain/elementSearch";
import { ProblemNote } from "../../ui/basics";
import { text } from "./strings";
import { useRefresh } from "./useRefresh";

const t = text.Labels;

const CARRIED = "application/x-elements";

/** What a card of the list carries when it is dragged: itself, or all that are marked with it. */
export function carry(event: DragEvent, id: number, marked: readonly number[]): void {
  event.dataTransfer.setData(CARRIED, JSON.stringify(marked.includes(id) ? marked : [id]));
  event.dataTransfer.effectAllowed = "move";
}

interface Given {
  elements: number[];
  label: string;
}

/** The labels of before, of what was labelled last: taken back by giving them again. */
const useLast = create<{ before: Given[] }>(() => ({ before: [] }));

/** Elements by the label that they have now. */
function labelsNow(rows: readonly ElementOut[], elements: readonly number[]): Given[] {
  const now = new Map<string, number[]>();
  for (const { id, label } of rows)
    if (elements.includes(id)) now.set(label, [...(now.get(label) ?? []), id]);
  return [...now].map(([label, ids]) => ({ label, elements: ids }));
}

function useLabel(project: number, rows: readonly ElementOut[]) {
  const refresh = useRefresh(project);
  return useMutation({
    mutationFn: async (given: Given[]) => {
      const before = given.flatMap(({ elements }) => labelsNow(rows, elements));
      for (const { elements, label } of given) await elementCalls.label(elements, label);
      return before;
    },
    onSuccess: (before) => {
      useLast.setState({ before });
      return refresh();
    },
  });
}

/** What was labelled last can be taken back, and that too. */
function TakeBackLabel({ give }: { give: ReturnType<typeof useLabel> }) {
  const { before } = useLast();
  const count = before.reduce((sum, { elements }) => sum + elements.length, 0);
  if (count === 0) return null;
  return (
    <button
      type="button"
      className="h-6 text-[12px] underline"
      disabled={give.isPending}
      onClick={() => give.mutate(before)}
    >
      {t.takeBack(count)}
    </button>
  );
}

interface BarProps {
  rows: ElementOut[];
  project: number;
  search: Search;
  onSearch: (search: Search) => void;
}

export function LabelBar({ rows, project, search, onSearch }: BarProps) {
  const labels = labelsOf(rows);
  const give = useLabel(project, rows);
  const [naming, setNaming] = useState<number[] | null>(null);
  const drop = (event: DragEvent, label: string | null) => {
    event.preventDefault();
    const elements = JSON.parse(event.dataTransfer.getData(CARRIED) || "[]") as number[];
    if (elements.length === 0) return;
    if (label === null) setNaming(elements);
    else give.mutate([{ elements, label }]);
  };
  const chip = (label: string | null, words: string, count: number) => (
    <Chip
      key={label ?? ""}
      words={words}
      count={count}
      pressed={search.label === label && label !== null}
      onPress={() => onSearch({ ...search, label: search.label === label ? null : label })}
      onDrop={(event) => drop(event, label)}
    />
  );
  const without = rows.filter((e) => !e.label).length;
  return (
    <div role="group" aria-label={t.labels} className="mt-1.5 flex flex-wrap gap-1">
      {labels.map(([label, count]) => chip(label, label, count))}
      {labels.length > 0 && without > 0 && chip("", t.without, without)}
      {naming ? (
        <NewLabel
          onDone={(label) => {
            if (label) give.mutate([{ elements: naming, label }]);
            setNaming(null);
          }}
        />
      ) : (
        <span
          title={t.dropHereForANewOne}
          className="flex h-6 items-center gap-1 rounded-full border border-dashed border-soft px-2 text-[12px] text-soft"
          onDragOver={(event) => event.preventDefault()}
          onDrop={(event) => drop(event, null)}
        >
          <Plus className="size-3" /> {t.dropHere}
        </span>
      )}
      <TakeBackLabel give={give} />
      {give.error && <ProblemNote problem={asProblem(give.error)} />}
    </div>
  );
}

interface ChipProps {
  words: string;
  count: number;
  pressed: boolean;
  onPress: () => void;
  onDrop: (event: DragEvent) => void;
}

function Chip({ words, count, pressed, onPress, onDrop }: ChipProps) {
  const [over, setOver] = useState(false);
  return (
    <button
      type="button"
      aria-pressed={pressed}
      title={t.showOnlyOrDrop(words)}
      onClick={onPress}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false);
        onDrop(event);
      }}
      className={`flex h-6 max-w-full items-center gap-1 rounded-full border px-2 text-[12px] ${over || pressed ? "border-accent bg-accent-soft text-accent" : "border-line bg-card"}`}
    >
      <Tag aria-hidden className="size-3 shrink-0" />
      <span className="min-w-0 truncate">{words}</span>
      <span className="num text-soft">{count}</span>
    </button>
  );
}

function NewLabel({ onDone }: { onDone: (label: string) => void }) {
  const [label, setLabel] = useState("");
  return (
    <form
      className="w-full"
      onSubmit={(event) => {
        event.preventDefault();
        onDone(label.trim());
      }}
    >
      <input
        autoFocus
        aria-label={t.newLabel}
        placeholder={t.newLabel}
        maxLength={60}
        value={label}
        onChange={(event) => setLabel(event.target.value)}
        onBlur={() => onDone(label.trim())}
        onKeyDown={(event) => {
          if (event.key === "Escape") onDone("");
        }}
        className="h-6 w-full rounded border border-accent bg-card px-1.5 text-[12px]"
      />
    </form>
  );
}

/** The label of some elements, typed; one that is there already is offered. */
export function LabelField({ of, rows, project }: { of: ElementOut[]; rows: ElementOut[]; project: number }) {
  const give = useLabel(project, rows);
  const own = [...new Set(of.map((e) => e.label))];
  const shown = own.length === 1 ? own[0]! : "";
  const list = `labels-${of[0]?.id ?? 0}`;
  return (
    <div>
      <label className="mt-1 flex min-h-7 items-center gap-2">
        <span className="w-20 shrink-0 text-soft">{t.label}</span>
        <input
          key={shown}
          list={list}
          maxLength={60}
          defaultValue={shown}
          placeholder={own.length > 1 ? t.several : t.none}
          onBlur={(event) => {
            const label = event.target.value.trim();
            if (label !== shown) give.mutate([{ elements: of.map((e) => e.id), label }]);
          }}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
          className="mb-1 h-7 min-w-0 flex-1 rounded border border-line bg-card px-1.5"
        />
      </label>
      <datalist id={list}>
        {labelsOf(rows).map(([label]) => (
          <option key={label} value={label} />
        ))}
      </datalist>
      {give.error && <ProblemNote problem={asProblem(give.error)} />}
    </div>
  );
}
