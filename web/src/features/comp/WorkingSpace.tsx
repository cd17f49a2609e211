/** The space of linear light that a comp's layers are changed and merged in. */
import { useQuery } from "@tanstack/react-query";
import { queries } from "../../api/queries";
import { transferInWords } from "../../domain/encoding";
import { Choose } from "../../ui/Choose";
import { text } from "./strings";

const t = text.WorkingSpace;

/** Its name in words; of a configuration's space that is not offered any more, what stands in the document. */
export function useWorkingSpaces(project: number) {
  const found = useQuery(queries.colour(project)).data;
  const options = (found?.working ?? []).map(({ name, title, group }) => ({
    value: name,
    label: title,
    group,
  }));
  const words = (name: string) => options.find((o) => o.value === name)?.label ?? transferInWords(name);
  return { options, words, ofNewComps: found?.new_comps };
}

interface Props {
  project: number;
  value: string;
  onChange: (name: string) => void;
}

export function WorkingSpace({ project, value, onChange }: Props) {
  const { options, words } = useWorkingSpaces(project);
  return (
    <div>
      <span className="mb-0.5 block text-soft">{t.workingSpace}</span>
      <span className="flex">
        <Choose
          name={t.workingSpace}
          value={value}
          options={options}
          placeholder={words(value)}
          onChange={onChange}
        />
      </span>
      <p className="mt-0.5 text-soft">{t.help}</p>
    </div>
  );
}
