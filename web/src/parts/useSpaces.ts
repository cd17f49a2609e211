/** Colour spaces and views of OpenColorIO configurations, as lists to choose from. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "../api/queries";
import type { Option } from "../ui/Choose";

interface Spaces {
  spaces: Option[];
  views: Option[];
  /** Those that comps can work in, and the one that new comps begin with. */
  working: Option[];
  ofNewComps: string;
}

export function useSpaces(): Spaces {
  const found = useQuery(queries.colour(Number(useParams()["project"]))).data;
  const options = (rows: { name: string; title: string; group: string }[] | undefined): Option[] =>
    (rows ?? []).map(({ name, title, group }) => ({ value: name, label: title, group }));
  return {
    spaces: options(found?.spaces),
    views: options(found?.views),
    working: options(found?.working),
    ofNewComps: found?.new_comps ?? "linear",
  };
}
