import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { queries } from "../../../api/queries";
import { extraChannelsOf } from "../../../domain/extraChannels";

/** Extra channels of the elements that a source shows, by their keys. */
export function useExtraChannels(keys: readonly string[]): string[] {
  const project = Number(useParams()["project"]);
  const elements = useQuery(queries.elements(project));
  return extraChannelsOf(elements.data?.filter((e) => keys.includes(e.key)) ?? []);
}
