import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "../../../api/queries";

/** Extra channels of an element that a source shows. */
export function useExtraChannels(key: string | undefined): string[] {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  const element = elements.data?.find((e) => e.key === key);
  const own = element?.facts?.channels.map((c) => c.name) ?? [];
  return [...own, ...(element?.parts.map((p) => p.name) ?? [])].filter(
    (n) => !["R", "G", "B", "A", "Y"].includes(n),
  );
}
