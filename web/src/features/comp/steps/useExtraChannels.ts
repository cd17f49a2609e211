import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "../../../api/queries";

/** Extra channels of the elements that a source shows, by their keys. */
export function useExtraChannels(keys: readonly string[]): string[] {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const shown = elements.data?.filter((e) => keys.includes(e.key)) ?? [];
  const names = shown.flatMap((e) => [
    ...(e.facts?.channels.map((c) => c.name) ?? []),
    ...e.parts.map((p) => p.name),
  ]);
  return [...new Set(names)].filter((n) => !["R", "G", "B", "A", "Y"].includes(n));
}
