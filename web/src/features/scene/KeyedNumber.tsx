/** A number of a set-up that may have keys: of the camera, a lamp, the environment. */
import { numberAt, toggledKey, withNumber, type Part } from "../../domain/parts";
import { KeyToggle } from "../../parts/KeyToggle";
import { NumberField, type NumberProps } from "../../ui/NumberField";

interface Props<T> extends Omit<NumberProps, "value" | "onDraft" | "onCommit" | "after"> {
  part: T;
  field: keyof T & string;
  frame: number;
  /** Sketched while it is dragged, an entry of undo when it is let go. */
  put: (next: T, how: "sketch" | "commit") => void;
}

export function KeyedNumber<T extends { keys: Part["keys"] }>({
  part,
  field,
  frame,
  put,
  ...shown
}: Props<T>) {
  const own = part as unknown as Part;
  const changed = (change: Partial<Part>) => ({ ...part, ...change });
  const curve = own.keys[field];
  const here = curve?.keys.some((k) => k.frame === frame) ?? false;
  return (
    <NumberField
      {...shown}
      value={numberAt(own, field, frame)}
      onDraft={(value) => put(changed(withNumber(own, field, value, frame)), "sketch")}
      onCommit={(value) => put(changed(withNumber(own, field, value, frame)), "commit")}
      after={
        <KeyToggle
          name={shown.name}
          curve={!!curve}
          here={here}
          onToggle={() => put(changed(toggledKey(own, field, frame)), "commit")}
        />
      }
    />
  );
}
