/** The curves of the chosen layer: one at a time over the comp's frames, its keys dragged, typed, copied. */
import { Copy, Trash2, X } from "lucide-react";
import { useRef, useState, type PointerEvent, type KeyboardEvent } from "react";
import { layerOf, type CompDocument, type Layer } from "../../domain/comp";
import { shifted, valueAt, withMoved, type Curve, type Key } from "../../domain/curve";
import { animatedOf, changePart, partOf, withCurve, type Animated } from "../../domain/parts";
import { trimmed } from "../../domain/words";
import { Button, SignButton } from "../../ui/basics";
import { NumberField } from "../../ui/NumberField";
import { Segments } from "../../ui/Segments";
import { useDesk, useDeskFields } from "./deskState";
import { shownDocument, type DocumentStore } from "./documentStore";
import { text } from "./strings";

const t = text.Curves;

const PLACES: Record<string, string> = { "0": "red", "1": "green", "2": "blue" };

function titleOf(row: Animated, layer: Layer): string {
  const [field = "", place] = row.name.split(".");
  const name = `${field.replaceAll("_", " ")}${place ? ` ${PLACES[place] ?? place}` : ""}`;
  if (row.path.of === "layer" || row.path.of === "transform" || row.path.of === "made") return name;
  if (row.path.of === "card") return t.inTheScene(name);
  if (row.path.of === "matte") {
    const part = row.path.part === null ? "" : t.part(row.path.part + 1);
    return `${row.path.step === null ? "" : row.path.step === "alpha" ? t.alpha : t.step(row.path.step + 1)}matte${part}: ${name}`;
  }
  const kind = layer.steps[row.path.index]?.kind.replaceAll("_", " ") ?? "";
  return `${kind}${row.path.of === "through" ? ", where" : ""}: ${name}`;
}

export function Curves({ store }: { store: DocumentStore }) {
  const document = store(shownDocument);
  const layer = layerOf(
    document,
    useDesk((d) => d.layer),
  );
  const set = useDesk((d) => d.set);
  const [picked, setPicked] = useState(0);
  const rows = layer ? animatedOf(layer) : [];
  const row = rows[Math.min(picked, rows.length - 1)];
  return (
    <section aria-label={t.curves} className="flex h-44 shrink-0 border-t border-line bg-panel">
      <div className="flex w-48 shrink-0 flex-col border-r border-line">
        <div className="flex items-center justify-between px-2 pt-1">
          <h2 className="font-semibold">{t.curves}</h2>
          <SignButton name={t.closeTheCurves} onClick={() => set({ curves: false })}>
            <X className="size-3.5" />
          </SignButton>
        </div>
        <ul className="min-h-0 flex-1 overflow-auto px-1 pb-1">
          {layer &&
            rows.map((r, i) => (
              <li key={JSON.stringify([r.path, r.name])}>
                <button
                  type="button"
                  aria-pressed={r === row}
                  className="w-full truncate rounded px-1.5 py-0.5 text-left hover:bg-well aria-pressed:bg-accent-soft aria-pressed:text-accent"
                  title={titleOf(r, layer)}
                  onClick={() => setPicked(i)}
                >
                  {titleOf(r, layer)}
                </button>
              </li>
            ))}
        </ul>
      </div>
      {layer && row ? (
        <CurveDesk
          key={JSON.stringify([layer.id, row.path, row.name])}
          {...{ store, document, layer, row }}
        />
      ) : (
        <p className="p-3 text-soft">{layer ? t.nothingOfThisLayerChanges : t.chooseALayerToSee}</p>
      )}
    </section>
  );
}

interface DeskProps {
  store: DocumentStore;
  document: CompDocument;
  layer: Layer;
  row: Animated;
}

function CurveDesk({ store, document, layer, row }: DeskProps) {
  const { sketch, commit } = store.getState();
  const { frame, set, copiedCurve } = useDeskFields("frame", "set", "copiedCurve");
  const [chosen, setChosen] = useState(0);
  const { curve } = row;
  const at = Math.min(chosen, curve.keys.length - 1);
  const key = curve.keys[at]!;
  const title = titleOf(row, layer);
  const edit = (next: Curve | undefined) => (d: CompDocument) => {
    const now = layerOf(d, layer.id);
    const part = now && partOf(now, row.path);
    return part ? changePart(d, layer.id, row.path, withCurve(part, row.name, next, frame)) : d;
  };
  const save = (next: Curve | undefined, what = t.curveOf2(title)) => commit(edit(next), what);
  const change = (part: Partial<Key>) =>
    save({ ...curve, keys: curve.keys.map((k, i) => (i === at ? { ...k, ...part } : k)) });
  return (
    <>
      <Graph
        {...{ curve, at, frame, document, title }}
        onChoose={(i) => {
          setChosen(i);
          set({ frame: curve.keys[i]!.frame, playing: false });
        }}
        onDraft={(next) => sketch(edit(next))}
        onMove={save}
        onRemove={() => save({ ...curve, keys: curve.keys.filter((_, i) => i !== at) })}
      />
      <div className="w-60 shrink-0 space-y-0.5 overflow-auto border-l border-line px-2 py-1">
        <NumberField
          name={t.frame}
          value={key.frame}
          step={1}
          digits={0}
          onCommit={(v) => save(withMoved(curve, at, v, key.value))}
        />
        <NumberField name={t.value} value={key.value} onCommit={(value) => change({ value })} />
        <Segments<Key["way"]>
          name={t.fromThisKeyOn}
          small
          value={key.way}
          choices={[
            { value: "smooth", label: t.smooth, tip: t.passesEveryKeyWithoutOvershooting },
            { value: "eased", label: t.eased, tip: t.restsAtBothKeysSlow },
            { value: "linear", label: t.linear, tip: t.aStraightLineToThe },
            { value: "hold", label: t.hold, tip: t.keepsItsValueUntilThe },
          ]}
          onChange={(way) => change({ way })}
        />
        <div className="flex items-center gap-1.5 pt-0.5">
          <span className="text-soft">{t.beyond}</span>
          <Segments<Curve["beyond"]>
            name={t.beyondTheKeys}
            small
            value={curve.beyond}
            choices={[
              { value: "hold", label: t.hold },
              { value: "loop", label: t.loop },
              { value: "ping-pong", label: t.pingPong },
            ]}
            onChange={(beyond) => save({ ...curve, beyond })}
          />
        </div>
        <div className="flex items-center gap-1 pt-0.5">
          <Button className="!px-1.5" title={t.allKeysAFrameEarlier} onClick={() => save(shifted(curve, -1))}>
            −1
          </Button>
          <Button className="!px-1.5" title={t.allKeysAFrameLater} onClick={() => save(shifted(curve, 1))}>
            +1
          </Button>
          <SignButton name={t.copyThisCurve} onClick={() => set({ copiedCurve: curve })}>
            <Copy className="size-3.5" />
          </SignButton>
          {copiedCurve && (
            <Button className="!px-1.5" onClick={() => save(copiedCurve, t.copiedCurveFor(title))}>
              {t.putCopied}
            </Button>
          )}
          <SignButton name={t.takeTheWholeCurveOff} onClick={() => save(undefined, t.curveOff(title))}>
            <Trash2 className="size-3.5" />
          </SignButton>
        </div>
      </div>
    </>
  );
}

interface GraphProps {
  curve: Curve;
  at: number;
  frame: number;
  document: CompDocument;
  title: string;
  onChoose: (index: number) => void;
  onDraft: (curve: Curve) => void;
  onMove: (curve: Curve) => void;
  onRemove: () => void;
}

const WIDE = 1000;
const HIGH = 150;

/** Least and most that the graph shows, with room above and below. */
export function rangeOf(curve: Curve): [number, number] {
  const values = curve.keys.map((k) => k.value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = high > low ? (high - low) * 0.15 : Math.max(1, Math.abs(high) * 0.5);
  return [low - room, high + room];
}

function Graph(props: GraphProps) {
  const { curve, at, frame, document, title, onChoose, onDraft, onMove, onRemove } = props;
  const box = useRef<SVGSVGElement>(null);
  // while a key is dragged the scale stays, or the curve would run away from the pointer
  const [held, setHeld] = useState<[number, number] | null>(null);
  const begun = useRef<{ x: number; y: number; far: boolean } | null>(null);
  const [low, high] = held ?? rangeOf(curve);
  const first = Math.min(document.first, curve.keys[0]!.frame);
  const last = Math.max(document.last, curve.keys[curve.keys.length - 1]!.frame, first + 1);
  const x = (f: number) => ((f - first + 0.5) / (last - first + 1)) * WIDE;
  const y = (v: number) => (1 - (v - low) / (high - low)) * HIGH;
  const points = Array.from({ length: 241 }, (_, i) => first + ((last - first) * i) / 240);
  const path = points
    .map((f, i) => `${i ? "L" : "M"}${x(f).toFixed(1)} ${y(valueAt(curve, f)).toFixed(1)}`)
    .join("");
  const moved = (event: PointerEvent, i: number): Curve => {
    const r = box.current!.getBoundingClientRect();
    const f = first + ((event.clientX - r.left) / r.width) * (last - first + 1) - 0.5;
    const v = low + (1 - (event.clientY - r.top) / r.height) * (high - low);
    return withMoved(curve, i, f, Number(v.toPrecision(4)));
  };
  /** Whether the press has become a drag: a click leaves the key where it is. */
  const drags = (event: PointerEvent): boolean => {
    const from = begun.current;
    if (!from || !event.currentTarget.hasPointerCapture(event.pointerId)) return false;
    from.far ||= Math.hypot(event.clientX - from.x, event.clientY - from.y) > 3;
    return from.far;
  };
  const onKey = (event: KeyboardEvent, i: number) => {
    const k = curve.keys[i]!;
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (event.key === "Delete" && curve.keys.length > 1) onRemove();
    else if (by) onMove(withMoved(curve, i, k.frame + by[0]!, k.value + (by[1]! * (high - low)) / 50));
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="relative min-w-0 flex-1 px-1 py-2">
      <svg
        ref={box}
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="none"
        role="group"
        aria-label={t.curveOf(title)}
        className="size-full touch-none rounded border border-line bg-card"
      >
        <path
          d={`M${x(frame)} 0V${HIGH}`}
          className="stroke-ink"
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        />
        {low < 0 && high > 0 && (
          <path d={`M0 ${y(0)}H${WIDE}`} className="stroke-line" vectorEffect="non-scaling-stroke" />
        )}
        <path
          d={path}
          className="fill-none stroke-accent"
          strokeWidth={1.75}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      {curve.keys.map((k, i) => (
        <button
          key={k.frame}
          type="button"
          aria-label={t.keyAtFrame(k.frame, trimmed(k.value))}
          aria-pressed={i === at}
          className={`absolute size-2.5 -translate-1/2 cursor-grab touch-none rounded-[2px] border border-ink ${i === at ? "bg-accent" : "bg-card"}`}
          style={{
            left: `calc(4px + (100% - 8px) * ${x(k.frame) / WIDE})`,
            top: `calc(8px + (100% - 16px) * ${y(k.value) / HIGH})`,
          }}
          onClick={() => onChoose(i)}
          onPointerDown={(event) => {
            setHeld([low, high]);
            begun.current = { x: event.clientX, y: event.clientY, far: false };
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={(event) => drags(event) && onDraft(moved(event, i))}
          onPointerUp={(event) => {
            if (drags(event)) onMove(moved(event, i));
            begun.current = null;
            setHeld(null);
          }}
          onPointerCancel={() => setHeld(null)}
          onKeyDown={(event) => onKey(event, i)}
        />
      ))}
      <span className="num pointer-events-none absolute top-2.5 left-2.5 text-[12px] text-soft">
        {trimmed(high, 2)}
      </span>
      <span className="num pointer-events-none absolute bottom-2.5 left-2.5 text-[12px] text-soft">
        {trimmed(low, 2)}
      </span>
    </div>
  );
}
