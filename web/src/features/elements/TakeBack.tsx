/** One press that takes back the last change of how an element is read. */
import { Undo2 } from "lucide-react";
import type { ElementOut } from "../../api/client";
import type { useReading } from "../../parts/useReading";
import { Button } from "../../ui/basics";
import { text } from "./strings";

interface Props {
  element: ElementOut;
  undo: ReturnType<typeof useReading>["undo"];
}

export function TakeBack({ element, undo }: Props) {
  if (element.changes === 0) return null;
  return (
    <Button title={text.TakeBack.key} onClick={() => undo.mutate(element.id)} disabled={undo.isPending}>
      <Undo2 className="size-3.5" />
      {text.TakeBack.takeBack}
    </Button>
  );
}
