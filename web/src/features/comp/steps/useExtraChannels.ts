import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "../../../api/queries";

const COLOUR = new Set(["R", "G", "B", "Y"]);

/** Extra channels of the elements that a source shows, by their keys. */
export function useExtraChannels(keys: readonly string[]): string[] {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const shown = elements.data?.filter((e) => keys.includes(e.key)) ?? [];
  const names = shown.flatMap((e) => {
    const own = e.facts?.channels.map((c) => c.name) ?? [];
    // what holds data by itself has it in R, G, B
    return [...own.filter((n) => e.holds || !COLOUR.has(n)), ...e.parts.map((p) => p.name)];
  });
  return [...new Set(names)].filter((n) => n !== "A");
}
