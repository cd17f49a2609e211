/** What is asked of the server, with the keys it is kept under. */
import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import {
  client,
  take,
  type CameraRow,
  type CompOut,
  type CompRow,
  type DeletedCompRow,
  type DeliveryOut,
  type ElementOut,
  type ColourOut,
  type FormatOut,
  type ListedProject,
  type ProjectOut,
  type SessionOut,
  type Tables,
} from "./client";

import { unfinished } from "./importFiles";
import { compCalls } from "./comps";
import type { FontFileOut } from "./fonts";
import type { DeliveryFolder, DeliveryPreset } from "./orders";
import type { PresetOut } from "./presets";
import type { LibraryOut, MatchOut, RuleOut, TranscodeFormatOut, TranscodeOut } from "./elements";
import type { PassOut, RenderOut, SceneOut, SetUpOut } from "./scenes";

const id = (value: number) => ({ params: { path: { project_id: value } } });

export const queries = {
  session: () =>
    queryOptions({
      queryKey: ["session"],
      queryFn: () => take<SessionOut>(client.GET("/api/session")),
      staleTime: 60_000,
    }),
  projects: () =>
    queryOptions({
      queryKey: ["projects"],
      queryFn: () => take<ListedProject[]>(client.GET("/api/projects")),
    }),
  project: (project: number) =>
    queryOptions({
      queryKey: ["project", project],
      queryFn: () => take<ProjectOut>(client.GET("/api/projects/{project_id}", id(project))),
    }),
  states: (comp: number, project: number) =>
    queryOptions({ queryKey: ["comps", project, "states", comp], queryFn: () => compCalls.states(comp) }),
  presets: (project: number) =>
    queryOptions({
      queryKey: ["comps", project, "presets"],
      queryFn: () => take<PresetOut[]>(client.GET("/api/projects/{project_id}/presets", id(project))),
    }),
  elements: (project: number) =>
    queryOptions({
      queryKey: ["elements", project],
      queryFn: () => take<ElementOut[]>(client.GET("/api/projects/{project_id}/elements", id(project))),
    }),
  // kept under the elements' key: whatever changes of them asks for these again
  libraries: (project: number) =>
    queryOptions({
      queryKey: ["elements", project, "libraries"],
      queryFn: () => take<LibraryOut[]>(client.GET("/api/projects/{project_id}/libraries", id(project))),
    }),
  arrivals: (project: number) =>
    queryOptions({
      queryKey: ["elements", project, "arrivals"],
      queryFn: () => unfinished(project),
    }),
  pairs: (project: number) =>
    queryOptions({
      queryKey: ["elements", project, "pairs"],
      queryFn: () => take<MatchOut[]>(client.GET("/api/projects/{project_id}/pairs", id(project))),
    }),
  unused: (project: number) =>
    queryOptions({
      queryKey: ["elements", project, "unused"],
      queryFn: () => take<number[]>(client.GET("/api/projects/{project_id}/elements/unused", id(project))),
      // a comp that changes is not told of here
      refetchOnMount: "always",
    }),
  rules: (project: number) =>
    queryOptions({
      queryKey: ["elements", project, "rules"],
      queryFn: () => take<RuleOut[]>(client.GET("/api/projects/{project_id}/reading-rules", id(project))),
    }),
  /** Whether they are of now changes with the comp. */
  edges: (project: number, comp: number, revision: number) =>
    queryOptions({
      queryKey: ["jobs", project, "edges", comp, revision],
      queryFn: () => compCalls.edges(comp),
      placeholderData: keepPreviousData,
    }),
  transcodes: (project: number) =>
    queryOptions({
      queryKey: ["jobs", project, "transcodes"],
      queryFn: () => take<TranscodeOut[]>(client.GET("/api/projects/{project_id}/transcodes", id(project))),
    }),
  transcodeFormats: () =>
    queryOptions({
      queryKey: ["transcode-formats"],
      queryFn: () => take<TranscodeFormatOut[]>(client.GET("/api/transcode-formats")),
      staleTime: Infinity,
    }),
  comps: (project: number) =>
    queryOptions({
      queryKey: ["comps", project],
      queryFn: () => take<CompRow[]>(client.GET("/api/projects/{project_id}/comps", id(project))),
    }),
  // under the key of the comps: whatever changes them asks for these again
  deletedComps: (project: number) =>
    queryOptions({
      queryKey: ["comps", project, "deleted"],
      queryFn: () =>
        take<DeletedCompRow[]>(client.GET("/api/projects/{project_id}/deleted-comps", id(project))),
    }),
  cameras: (project: number) =>
    queryOptions({
      queryKey: ["cameras", project],
      queryFn: () => take<CameraRow[]>(client.GET("/api/projects/{project_id}/cameras", id(project))),
    }),
  comp: (comp: number) =>
    queryOptions({
      queryKey: ["comp", comp],
      queryFn: () =>
        take<CompOut>(client.GET("/api/comps/{comp_id}", { params: { path: { comp_id: comp } } })),
    }),
  delivery: (delivery: number) =>
    queryOptions({
      queryKey: ["delivery", delivery],
      queryFn: () =>
        take<DeliveryOut>(
          client.GET("/api/deliveries/{delivery_id}", { params: { path: { delivery_id: delivery } } }),
        ),
    }),
  deliveries: (project: number) =>
    queryOptions({
      queryKey: ["jobs", project, "deliveries"],
      queryFn: () => take<DeliveryOut[]>(client.GET("/api/projects/{project_id}/deliveries", id(project))),
    }),
  deliveryPresets: (project: number) =>
    queryOptions({
      queryKey: ["jobs", project, "delivery-presets"],
      queryFn: () =>
        take<DeliveryPreset[]>(client.GET("/api/projects/{project_id}/delivery-presets", id(project))),
    }),
  scenes: (project: number) =>
    queryOptions({
      queryKey: ["scenes", project],
      queryFn: () => take<SceneOut[]>(client.GET("/api/projects/{project_id}/scenes", id(project))),
    }),
  setups: (scene: number) =>
    queryOptions({
      queryKey: ["setups", scene],
      queryFn: () =>
        take<SetUpOut[]>(
          client.GET("/api/scenes/{scene_id}/setups", { params: { path: { scene_id: scene } } }),
        ),
    }),
  renders: (project: number) =>
    queryOptions({
      queryKey: ["jobs", project, "renders"],
      queryFn: () => take<RenderOut[]>(client.GET("/api/projects/{project_id}/renders", id(project))),
    }),
  passes: () =>
    queryOptions({
      queryKey: ["passes"],
      queryFn: () => take<PassOut[]>(client.GET("/api/passes")),
      staleTime: Infinity,
    }),
  deliveryFormats: () =>
    queryOptions({
      queryKey: ["delivery-formats"],
      queryFn: () => take<FormatOut[]>(client.GET("/api/delivery-formats")),
      staleTime: Infinity,
    }),
  deliveryFolders: () =>
    queryOptions({
      queryKey: ["delivery-folders"],
      queryFn: () => take<DeliveryFolder[]>(client.GET("/api/delivery-folders")),
    }),
  colour: (project: number) =>
    queryOptions({
      queryKey: ["colour", project],
      queryFn: () => take<ColourOut>(client.GET("/api/projects/{project_id}/colour", id(project))),
      staleTime: 60_000,
    }),
  fonts: (project: number) =>
    queryOptions({
      queryKey: ["fonts", project],
      queryFn: () => take<FontFileOut[]>(client.GET("/api/projects/{project_id}/fonts", id(project))),
      staleTime: 60_000,
    }),
  tables: () =>
    queryOptions({
      queryKey: ["tables"],
      queryFn: () => take<Tables>(client.GET("/api/tables")),
      staleTime: Infinity,
    }),
};
