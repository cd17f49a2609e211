/** Which of R, G, B and alpha a step changes. */
import { ToggleGroup } from "radix-ui";

const COLOURS: Record<string, string> = { r: "text-red", g: "text-green", b: "text-blue", a: "" };

interface Props {
  name: string;
  help?: string | undefined;
  /** The letters that can be chosen. */
  letters: string;
  value: string;
  onCommit: (value: string) => void;
}

export function Letters({ name, help, letters, value, onCommit }: Props) {
  const all = Array.from(letters);
  return (
    <div className="flex min-h-7 items-center gap-2">
      <span className="w-20 shrink-0 text-soft" title={help}>
        {name}
      </span>
      <ToggleGroup.Root
        type="multiple"
        aria-label={name}
        value={all.filter((c) => value.includes(c))}
        onValueChange={(next) => next.length > 0 && onCommit(all.filter((c) => next.includes(c)).join(""))}
        className="inline-flex overflow-hidden rounded-md border border-line"
      >
        {all.map((letter) => (
          <ToggleGroup.Item
            key={letter}
            value={letter}
            className={`border-r border-line px-2.5 py-0.5 font-medium last:border-r-0 data-[state=off]:opacity-45 data-[state=on]:bg-accent-soft ${COLOURS[letter]}`}
          >
            {letter.toUpperCase()}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
