/** What the Elements desk exchanges with the server. */
import { client, take, takePicture, type ElementOut, type Sent } from "./client";
import type { components } from "./schema";

export type BroughtOut = Sent<"BroughtOut">;
export type LibraryOut = Sent<"LibraryOut">;
export type FolderOut = Sent<"FolderOut">;
export type MatchOut = Sent<"MatchOut">;
export type RuleOut = Sent<"RuleOut">;
export type TranscodeOut = Sent<"TranscodeOut">;
export type LossesOut = Sent<"LossesOut">;
export type TranscodeFormatOut = Sent<"TranscodeFormatOut">;
export type TrialOut = Sent<"TrialOut">;
export type Suggestion = Sent<"Suggestion">;
export type MeasureOut = Sent<"MeasureOut">;
export type ProfileOut = Sent<"ProfileOut">;
export type FlickerOut = Sent<"FlickerOut">;
export type PartOut = Sent<"CarriedOut">;
export type Place = Sent<"TrialPlace">;
export type PartIn = components["schemas"]["PartIn"];
type ReadingOut = TrialOut["readings"][number];

const of = (element: number) => ({ params: { path: { element_id: element } } });
const inProject = (project: number) => ({ params: { path: { project_id: project } } });

export const elementCalls = {
  rename: (element: number, name: string) =>
    take<ElementOut>(client.PATCH("/api/elements/{element_id}", { ...of(element), body: { name } })),
  label: (elements: number[], label: string) =>
    take(client.POST("/api/elements/label", { body: { elements, label } })),
  remove: (elements: number[]) => take(client.POST("/api/elements/remove", { body: { elements } })),
  trial: (element: number) => take<TrialOut>(client.POST("/api/elements/{element_id}/trial", of(element))),
  accept: (element: number) =>
    take<ElementOut>(client.POST("/api/elements/{element_id}/accept", of(element))),
  /** The project's own elements for those of another project. */
  bringOver: (project: number, elements: number[]) =>
    take<BroughtOut[]>(
      client.POST("/api/projects/{project_id}/elements/bring-over", {
        ...inProject(project),
        body: { elements },
      }),
    ),
  takeOver: (element: number, by: number) =>
    take<ElementOut>(client.POST("/api/elements/{element_id}/take-over", { ...of(element), body: { by } })),
  carry: (element: number, body: PartIn) =>
    take<ElementOut>(client.POST("/api/elements/{element_id}/parts", { ...of(element), body })),
  drop: (element: number, name: string) =>
    take<ElementOut>(
      client.DELETE("/api/elements/{element_id}/parts", {
        params: { path: { element_id: element }, query: { name } },
      }),
    ),
  remarks: (element: number, source: number) =>
    take<Sent<"RemarksOut">>(
      client.GET("/api/elements/{element_id}/parts/remarks", {
        params: { path: { element_id: element }, query: { source } },
      }),
    ),
  partInTwo: (element: number) =>
    take<ElementOut[]>(client.POST("/api/elements/{element_id}/part-in-two", of(element))),
  holds: (element: number, holds: string) =>
    take<ElementOut>(client.POST("/api/elements/{element_id}/holds", { ...of(element), body: { holds } })),
  coarseUV: (element: number) =>
    take<Sent<"CoarseOut">>(client.GET("/api/elements/{element_id}/coarse-uv", of(element))),
  join: (project: number, pairs: { element: number; source: number }[]) =>
    take<ElementOut[]>(
      client.POST("/api/projects/{project_id}/pairs/join", {
        ...inProject(project),
        body: { pairs, ends: "hold" },
      }),
    ),
  folders: (project: number, inside: string) =>
    take<FolderOut[]>(
      client.GET("/api/projects/{project_id}/folders", {
        params: { path: { project_id: project }, query: { inside } },
      }),
    ),
  register: (project: number, path: string) =>
    take<LibraryOut>(
      client.POST("/api/projects/{project_id}/libraries", { ...inProject(project), body: { path } }),
    ),
  unregister: (library: number) =>
    take<undefined>(
      client.DELETE("/api/libraries/{library_id}", { params: { path: { library_id: library } } }),
    ),
  giveUp: (arrival: number) =>
    take<undefined>(
      client.DELETE("/api/arrivals/{arrival_id}", { params: { path: { arrival_id: arrival } } }),
    ),
  finish: (arrival: number) =>
    take<ElementOut[]>(
      client.POST("/api/arrivals/{arrival_id}/finish", { params: { path: { arrival_id: arrival } } }),
    ),
  rule: (project: number, body: components["schemas"]["RuleIn"]) =>
    take<RuleOut>(client.POST("/api/projects/{project_id}/reading-rules", { ...inProject(project), body })),
  dropRule: (rule: number) =>
    take<undefined>(client.DELETE("/api/reading-rules/{rule_id}", { params: { path: { rule_id: rule } } })),
  losses: (elements: number[], format: string) =>
    take<LossesOut[]>(client.POST("/api/transcodes/losses", { body: { elements, format } })),
  transcode: (body: components["schemas"]["TranscodeIn"]) =>
    take<TranscodeOut[]>(client.POST("/api/transcodes", { body })),
  measure: (element: number, body: components["schemas"]["ElementBox"], signal: AbortSignal) =>
    take<MeasureOut>(client.POST("/api/elements/{element_id}/measure", { ...of(element), body, signal })),
  profile: (element: number, body: components["schemas"]["ElementLine"], signal: AbortSignal) =>
    take<ProfileOut>(client.POST("/api/elements/{element_id}/profile", { ...of(element), body, signal })),
  flicker: (element: number, frame: number, signal: AbortSignal) =>
    take<FlickerOut>(
      client.GET("/api/elements/{element_id}/flicker", {
        params: { path: { element_id: element }, query: { frame } },
        signal,
      }),
    ),
};

/** The sheet of one place: an address of a PNG, to be given back when it is not shown any more. */
export const trialSheet = (element: number, readings: ReadingOut[], place: Place): Promise<string> =>
  takePicture(`/api/elements/${element}/trial/sheet`, { readings, place });
