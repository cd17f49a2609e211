/** A layer laid by hand in the picture: dragged, scaled by its corners, turned, nudged; a click chooses another. */
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { compCalls } from "../../../api/comps";
import { asProblem, type ElementOut, type Problem } from "../../../api/client";
import { seenAlone, shownAlone } from "../../../domain/alone";
import { besideOf, type Layer } from "../../../domain/comp";
import { levelFor, outOfLayer, type Laid } from "../../../domain/geometry";
import {
  boxOf,
  intoHolders,
  outOfHolders,
  placedBy,
  snapOf,
  type Handle,
  type Placed,
  type Snap,
} from "../../../domain/placing";
import { holdersOf } from "../../../domain/tree";
import { ProblemNote } from "../../../ui/basics";
import { useDesk } from "../deskState";
import { numbersEdit } from "../numberEdit";
import { text } from "../strings";
import type { Ground } from "./ground";
import { Sign } from "./ShapeGrips";
import { laidAt, sizeOf } from "./sizes";
import { stepOf } from "../../../ui/arrows";
import { hold } from "../../../ui/hold";

const t = text.PlaceOver;

/** Pixels of the screen: a press that moves less is a click, and a line that is nearer draws. */
const CLICK = 3;
const REACH = 7;

interface Held {
  handle: Handle;
  /** In the frame of what holds the layer, and on the screen. */
  from: [number, number];
  pressed: [number, number];
  begun: Laid;
  moved: boolean;
}

export function PlaceOver({ ground, elements }: { ground: Ground; elements: ElementOut[] }) {
  const { store, comp, layer, frame } = ground;
  const number = useDesk((d) => d.frame);
  const held = useRef<Held | null>(null);
  const nudged = useRef<Placed | null>(null);
  const [snap, setSnap] = useState<Snap | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const { document } = store.getState();
  const holders = holdersOf<Layer>(document.layers, layer.id)
    .reverse()
    .map((g) => laidAt(g, number, frame));
  const own = laidAt(layer, number, ground.transform.size);
  const inHolder = (event: PointerEvent): [number, number] => {
    const box = event.currentTarget.closest("[data-tool]")!.getBoundingClientRect();
    return intoHolders(holders, frame, ground.toComp(event.clientX - box.left, event.clientY - box.top));
  };
  const onScreen = (x: number, y: number) => ground.toScreen(...outOfHolders(holders, frame, [x, y]));

  const apply = (placed: Placed) => numbersEdit(layer.id, { of: "transform" }, placed);

  const begin = (event: PointerEvent, handle: Handle) => {
    if (event.button !== 0) return; // the middle one pans
    event.stopPropagation();
    hold(event.currentTarget.closest("[data-tool]")!, event.pointerId);
    held.current = {
      handle,
      from: inHolder(event),
      pressed: [event.clientX, event.clientY],
      begun: own,
      moved: false,
    };
  };
  const placed = (event: PointerEvent, now: Held): Placed => {
    const how = { fine: event.altKey, even: event.shiftKey };
    const next = placedBy(now.begun, frame, now.handle, now.from, inHolder(event), how);
    if (now.handle !== "whole" || event.ctrlKey || event.altKey) return next;
    const { alone } = useDesk.getState();
    const others = besideOf(document, layer.id)
      .layers.filter((l) => l.id !== layer.id && l.shown && !l.card)
      .filter((l) => seenAlone(document, alone, l.id))
      .map((l) => boxOf(laidAt(l, number, sizeOf(l, document, elements)), frame));
    const found = snapOf(boxOf({ ...now.begun, ...next }, frame), frame, others, REACH / ground.view.zoom);
    setSnap(found);
    // on whole pixels all the same: a third of the frame may lie between two
    return { x: Math.round((next.x ?? 0) + found.dx), y: Math.round((next.y ?? 0) + found.dy) };
  };
  const move = (event: PointerEvent) => {
    const now = held.current;
    if (!now) return;
    const far = Math.hypot(event.clientX - now.pressed[0], event.clientY - now.pressed[1]);
    if (!now.moved && far < CLICK) return;
    now.moved = true;
    store.getState().sketch(apply(placed(event, now)));
  };
  const end = (event: PointerEvent) => {
    const now = held.current;
    held.current = null;
    setSnap(null);
    if (!now) return;
    if (now.moved) {
      const next = placed(event, now);
      setSnap(null);
      store.getState().commit(apply(next), t.place(layer.name));
      return;
    }
    void choose(event);
  };
  const choose = async (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const point = ground.toComp(event.clientX - box.left, event.clientY - box.top);
    try {
      const seen = shownAlone(store.getState().document, useDesk.getState().alone);
      const body = { document: seen, frame: number, point };
      const found = await compCalls.pick(comp, { ...body, level: Math.max(1, levelFor(ground.view.zoom)) });
      setProblem(null);
      if (found.layer)
        useDesk.setState({
          layer: found.layer,
          also: [],
          tool: { kind: "place", owner: { layer: found.layer, step: null } },
        });
    } catch (error) {
      setProblem(asProblem(error));
    }
  };
  const nudge = (event: KeyboardEvent) => {
    const step = stepOf(event);
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const from = nudged.current ?? { x: own.x, y: own.y };
    const next = { x: tenth((from.x ?? 0) + step[0]), y: tenth((from.y ?? 0) + step[1]) };
    nudged.current = next;
    store.getState().sketch(apply(next));
  };
  const rest = () => {
    if (nudged.current) store.getState().commit(apply(nudged.current), t.place(layer.name));
    nudged.current = null;
  };

  const { width, height } = own.size ?? frame;
  const inLayer = (u: number, v: number) =>
    onScreen(...outOfLayer(own, frame, [(u * width) / 2, (v * height) / 2]));
  const corners = [inLayer(-1, -1), inLayer(1, -1), inLayer(1, 1), inLayer(-1, 1)];
  const [top, middle] = [inLayer(0, -1), inLayer(0, 0)];
  const far = Math.hypot(top[0] - middle[0], top[1] - middle[1]) || 1;
  const turn: [number, number] = [
    top[0] + ((top[0] - middle[0]) / far) * 22,
    top[1] + ((top[1] - middle[1]) / far) * 22,
  ];
  return (
    <div
      data-tool="place"
      role="application"
      aria-label={t.layByHand(layer.name)}
      tabIndex={0}
      className="group/place absolute inset-0 cursor-move touch-none outline-none"
      onPointerDown={(event) => begin(event, "whole")}
      onPointerMove={move}
      onPointerUp={end}
      onPointerCancel={() => {
        held.current = null;
        setSnap(null);
        store.setState({ draft: null });
      }}
      onKeyDown={nudge}
      onKeyUp={rest}
      onDoubleClick={(event) => event.stopPropagation()}
    >
      {layer.card ? (
        <p className="absolute inset-x-4 bottom-4 rounded-md border border-line bg-card p-2">
          {t.standsInAScene}
        </p>
      ) : (
        <svg className="absolute inset-0 h-full w-full opacity-0 group-focus-within/place:opacity-100 group-hover/place:opacity-100 group-data-keyed/picture:opacity-100">
          <polygon
            points={corners.join(" ")}
            fill="none"
            stroke="black"
            strokeOpacity={0.6}
            strokeWidth={3}
          />
          <polygon points={corners.join(" ")} fill="none" stroke="white" strokeWidth={1.5} />
          <line x1={top[0]} y1={top[1]} x2={turn[0]} y2={turn[1]} stroke="white" strokeWidth={1} />
          {corners.map((at, i) => (
            <Sign key={i} at={at} name={t.corner(i + 1)} onPress={(e) => begin(e, "scale")} onKey={nudge} />
          ))}
          <Sign at={turn} round name={t.rotation} onPress={(e) => begin(e, "rotation")} onKey={nudge} />
          {snap && <Guides snap={snap} frame={frame} onScreen={onScreen} />}
        </svg>
      )}
      {problem && (
        <div className="absolute inset-x-4 bottom-4">
          <ProblemNote problem={problem} />
        </div>
      )}
    </div>
  );
}

const tenth = (value: number) => Math.round(value * 10) / 10;

interface GuideProps {
  snap: Snap;
  frame: { width: number; height: number };
  onScreen: (x: number, y: number) => [number, number];
}

/** The lines that the layer is drawn to while it is dragged. */
function Guides({ snap, frame, onScreen }: GuideProps) {
  const lines: [[number, number], [number, number]][] = [];
  if (snap.x !== null) lines.push([onScreen(snap.x, 0), onScreen(snap.x, frame.height)]);
  if (snap.y !== null) lines.push([onScreen(0, snap.y), onScreen(frame.width, snap.y)]);
  return lines.map(([a, b]) => (
    <line
      key={[a, b].join()}
      x1={a[0]}
      y1={a[1]}
      x2={b[0]}
      y2={b[1]}
      stroke="var(--accent)"
      strokeWidth={1.5}
    />
  ));
}
