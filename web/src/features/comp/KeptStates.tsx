/** What is done with a comp's named states: gone back to, forgotten, and one more named. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Undo2, X } from "lucide-react";
import { compCalls, type StateOut } from "../../api/comps";
import { documentOf } from "../../domain/comp";
import { SignButton } from "../../ui/basics";
import type { DocumentStore } from "./documentStore";
import { NameIt } from "./NameIt";
import { text } from "./strings";

const t = text.KeptStates;

interface Props {
  comp: number;
  project: number;
}

function useAgain(project: number) {
  const cache = useQueryClient();
  return () => cache.invalidateQueries({ queryKey: ["comps", project] });
}

export function StateButtons({
  store,
  state,
  comp,
  project,
}: Props & { store: DocumentStore; state: StateOut }) {
  const again = useAgain(project);
  const forget = useMutation({
    mutationFn: () => compCalls.forgetState(comp, state.revision),
    onSuccess: again,
  });
  return (
    <>
      <SignButton
        name={t.goBackTo(state.name)}
        onClick={() => store.getState().commit(() => documentOf(state.document), t.backTo(state.name))}
      >
        <Undo2 className="size-3.5" />
      </SignButton>
      <SignButton name={t.forgetTheName(state.name)} onClick={() => forget.mutate()}>
        <X className="size-3.5" />
      </SignButton>
    </>
  );
}

export function NameState({ comp, project }: Props) {
  return (
    <NameIt
      button={t.nameThisState}
      help={t.theCompAsItIs}
      work={(name) => compCalls.nameState(comp, name)}
      onDone={useAgain(project)}
    />
  );
}
