/** Colour spaces and views of OpenColorIO configurations, as lists to choose from. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "../api/queries";
import type { Option } from "../ui/Choose";

export function useSpaces(): { spaces: Option[]; views: Option[] } {
  const found = useQuery(queries.colour(Number(useParams()["project"]))).data;
  const options = (rows: { name: string; title: string; group: string }[] | undefined): Option[] =>
    (rows ?? []).map(({ name, title, group }) => ({ value: name, label: title, group }));
  return { spaces: options(found?.spaces), views: options(found?.views) };
}
