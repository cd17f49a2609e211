/** Colour spaces and views of the OpenColorIO configurations, as lists to choose from. */
import { useQuery } from "@tanstack/react-query";
import { queries } from "../api/queries";
import type { Option } from "../ui/Choose";

export function useSpaces(): { spaces: Option[]; views: Option[] } {
  const found = useQuery(queries.colourSpaces()).data;
  const options = (rows: { name: string; title: string; group: string }[] | undefined): Option[] =>
    (rows ?? []).map(({ name, title, group }) => ({ value: name, label: title, group }));
  return { spaces: options(found?.spaces), views: options(found?.views) };
}
