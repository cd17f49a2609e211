/** The list of steps by family, from which one is added. */
import { Plus } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { Button } from "../../../ui/basics";
import type { StepTable } from "./table";
import { text } from "../strings";

const t = text.AddStep;

const FAMILIES: [string, string][] = [
  ["colour", t.colour],
  ["edges", t.edgesAndSoftness],
  ["place", t.placeAndShape],
  ["light", t.lightAndGrain],
  ["channels", t.channels],
];

export function AddStep({ steps, onAdd }: { steps: StepTable[]; onAdd: (table: StepTable) => void }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button>
          <Plus className="size-3.5" />
          {t.addAStep}
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          collisionPadding={8}
          className="z-50 max-h-[min(70vh,var(--radix-dropdown-menu-content-available-height))] w-[30rem] overflow-auto rounded-md border border-line bg-card p-1 shadow-lg"
        >
          {FAMILIES.map(([family, title]) => {
            const rows = steps.filter((s) => s.family === family);
            return (
              rows.length > 0 && (
                <DropdownMenu.Group key={family}>
                  <DropdownMenu.Label className="px-2 pt-1.5 pb-0.5 text-soft">{title}</DropdownMenu.Label>
                  {rows.map((t) => (
                    <DropdownMenu.Item
                      key={t.kind}
                      onSelect={() => onAdd(t)}
                      className="flex gap-2 rounded px-2 py-0.5 data-[highlighted]:bg-accent-soft data-[highlighted]:outline-none"
                    >
                      <span className="w-28 shrink-0 font-medium">{t.title}</span>
                      <span className="min-w-0 text-soft">{t.help}</span>
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.Group>
              )
            );
          })}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
