/** What the comp desk exchanges with the server besides its document and pictures. */
import type { Card, CompDocument, Step } from "../domain/comp";
import { client, take, type Sent } from "./client";
import type { components } from "./schema";
import type { CompAsk } from "./pictures";

export type StateOut = Sent<"StateOut">;
export type EdgesOut = Sent<"EdgesOut">;
export type CompMeasure = Sent<"CompMeasure">;
export type CompProfile = Sent<"CompProfile">;
export type Candidate = Sent<"CandidateOut">;
export type MatteFigures = Sent<"FiguresOut">;
export type Difference = Sent<"DifferenceOut">;
export type PlaceOut = Sent<"PlaceOut">;
export type ValueCounts = Sent<"ValuesOut">;
export type SlotOut = Sent<"SlotOut">;
export type CellProblem = Sent<"CellProblemOut">;
type Body<Name extends keyof components["schemas"]> = components["schemas"][Name];

const of = (comp: number) => ({ params: { path: { comp_id: comp } } });

export const compCalls = {
  states: (comp: number) => take<StateOut[]>(client.GET("/api/comps/{comp_id}/states", of(comp))),
  nameState: (comp: number, name: string) =>
    take<StateOut>(client.POST("/api/comps/{comp_id}/states", { ...of(comp), body: { name } })),
  /** Edges of mattes that were found ahead, or are being. */
  edges: (comp: number) => take<EdgesOut[]>(client.GET("/api/comps/{comp_id}/edges", of(comp))),
  findEdges: (comp: number, body: Body<"EdgesIn">) =>
    take<EdgesOut>(client.POST("/api/comps/{comp_id}/edges", { ...of(comp), body })),
  forgetState: (comp: number, revision: number) =>
    take(
      client.DELETE("/api/comps/{comp_id}/states/{revision}", {
        params: { path: { comp_id: comp, revision } },
      }),
    ),
  profile: (comp: number, ask: CompAsk, line: [number, number, number, number], signal: AbortSignal) =>
    take<CompProfile>(
      client.POST("/api/comps/{comp_id}/profile", { ...of(comp), body: { ...ask, line }, signal }),
    ),
  measure: (
    comp: number,
    ask: CompAsk,
    within: [number, number, number, number] | null,
    signal: AbortSignal,
  ) =>
    take<CompMeasure>(
      client.POST("/api/comps/{comp_id}/measure", { ...of(comp), body: { ...ask, within }, signal }),
    ),
  board: (comp: number, body: Body<"BoardIn">, signal: AbortSignal) =>
    take<Candidate[]>(client.POST("/api/comps/{comp_id}/matte/board", { ...of(comp), body, signal })),
  screenColour: (comp: number, body: Body<"ScreenIn">) =>
    take<Sent<"ScreenOut">>(client.POST("/api/comps/{comp_id}/matte/screen", { ...of(comp), body })),
  matteFigures: (comp: number, body: Body<"FiguresIn">, signal: AbortSignal) =>
    take<MatteFigures>(client.POST("/api/comps/{comp_id}/matte/figures", { ...of(comp), body, signal })),
  alternatives: (comp: number, body: Body<"AlternativesIn">, signal: AbortSignal) =>
    take<Difference>(client.POST("/api/comps/{comp_id}/alternatives", { ...of(comp), body, signal })),
  match: (comp: number, body: Body<"MatchIn">) =>
    take<Step>(client.POST("/api/comps/{comp_id}/match", { ...of(comp), body })),
  /** The canvas of a layer made here, and the one that what it draws fits on. */
  canvas: (comp: number, body: Body<"MatteAsk">, signal: AbortSignal) =>
    take<Sent<"CanvasOut">>(client.POST("/api/comps/{comp_id}/canvas", { ...of(comp), body, signal })),
  /** Where a layer is seen. */
  place: (comp: number, body: Body<"MatteAsk">, signal: AbortSignal) =>
    take<PlaceOut>(client.POST("/api/comps/{comp_id}/place", { ...of(comp), body, signal })),
  /** What a layer becomes that stands in a scene. */
  stand: (comp: number, body: Body<"StandIn">) =>
    take<Card>(client.POST("/api/comps/{comp_id}/stand", { ...of(comp), body })),
  /** The layer that is seen at a point, the nearest first; null where none is. */
  pick: (comp: number, body: Body<"PickIn">) =>
    take<Sent<"PickOut">>(client.POST("/api/comps/{comp_id}/pick", { ...of(comp), body })),
  /** How far away something is, by the depth that a step goes by. */
  distance: (comp: number, body: Body<"DistanceIn">) =>
    take<Sent<"DistanceOut">>(client.POST("/api/comps/{comp_id}/distance", { ...of(comp), body })),
  /** The same over the comp's frame, parted into cells; 0 where nothing is. */
  distances: (comp: number, body: Body<"DistancesIn">) =>
    take<ArrayBuffer>(
      client.POST("/api/comps/{comp_id}/distances", { ...of(comp), body, parseAs: "arrayBuffer" }),
    ).then((bytes) => new Float32Array(bytes)),
  /** Rows of a pasted table. */
  readList: (comp: number, table: string) =>
    take<Record<string, string>[]>(
      client.POST("/api/comps/{comp_id}/list/read", { ...of(comp), body: { text: table } }),
    ),
  checkList: (comp: number, document: CompDocument) =>
    take<Sent<"ListOut">>(
      client.POST("/api/comps/{comp_id}/list/check", { ...of(comp), body: { document } }),
    ),
  /** The document with a row's values in its slots. */
  fillRow: (comp: number, document: CompDocument, row: number) =>
    take<components["schemas"]["Comp"]>(
      client.POST("/api/comps/{comp_id}/list/row", { ...of(comp), body: { document, row } }),
    ),
  partValues: (comp: number, body: Body<"ValuesIn">, signal: AbortSignal) =>
    take<ValueCounts>(client.POST("/api/comps/{comp_id}/matte/values", { ...of(comp), body, signal })),
};
