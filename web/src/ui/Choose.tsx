/** A choice out of a list that is too long for a row. */
import { Select } from "radix-ui";
import { Check, ChevronDown } from "lucide-react";

export interface Option {
  value: string;
  label: string;
  help?: string;
  group?: string;
}

interface Props {
  name: string;
  value: string;
  options: Option[];
  onChange: (value: string) => void;
  /** ↑ and ↓ take the option before and after at once, without opening the list. */
  live?: boolean;
  /** Stands there while the value is none of the options. */
  placeholder?: string;
}

export function Choose({ name, value, options, onChange, live, placeholder }: Props) {
  const groups = [...new Set(options.map((o) => o.group ?? ""))];
  return (
    <Select.Root value={value} onValueChange={onChange}>
      <Select.Trigger
        aria-label={name}
        onKeyDown={(event) => {
          const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
          if (!live || !by) return;
          event.preventDefault();
          const next = options[options.findIndex((o) => o.value === value) + by];
          if (next) onChange(next.value);
        }}
        className="inline-flex h-7 min-w-0 flex-1 items-center justify-between gap-1 rounded-md border border-line bg-card px-2"
      >
        <span className="truncate">
          <Select.Value placeholder={placeholder} />
        </span>
        <ChevronDown aria-hidden className="size-3.5 shrink-0 text-soft" />
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={4}
          className="z-50 max-h-96 max-w-md overflow-auto rounded-md border border-line bg-card p-1 shadow-lg"
        >
          <Select.Viewport>
            {groups.map((group) => (
              <Select.Group key={group}>
                {group && <Select.Label className="px-2 pt-2 pb-1 text-soft">{group}</Select.Label>}
                {options
                  .filter((o) => (o.group ?? "") === group)
                  .map((option) => (
                    <Select.Item
                      key={option.value}
                      value={option.value}
                      className="flex items-baseline gap-2 rounded px-2 py-1 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none"
                    >
                      <Select.ItemText>{option.label}</Select.ItemText>
                      {option.help && <span className="truncate text-soft">{option.help}</span>}
                      <Select.ItemIndicator className="ml-auto">
                        <Check className="size-3.5" />
                      </Select.ItemIndicator>
                    </Select.Item>
                  ))}
              </Select.Group>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
}
