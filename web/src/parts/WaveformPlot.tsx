/** Codes by place: across is the picture's width, up is the sRGB code; the three channels side by side. */
import { useEffect, useRef } from "react";
import { text } from "./strings";

const t = text.WaveformPlot;

const SHOWN: [string, [number, number, number]][] = [
  ["R", [230, 80, 70]],
  ["G", [70, 170, 90]],
  ["B", [80, 120, 240]],
];

export function WaveformPlot({ rows }: { rows: Record<string, number[][]> }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const node = canvas.current;
    const first = rows["R"];
    if (!node || !first) return;
    const [height, width] = [first.length, first[0]?.length ?? 1];
    node.width = width * SHOWN.length;
    node.height = height;
    const context = node.getContext("2d")!;
    const image = context.createImageData(node.width, height);
    SHOWN.forEach(([name, colour], k) => {
      const counts = rows[name] ?? [];
      const most = Math.max(1, ...counts.flat());
      counts.forEach((row, y) =>
        row.forEach((count, x) => {
          const share = Math.sqrt(count / most);
          const at = (y * node.width + k * width + x) * 4;
          colour.forEach((c, i) => {
            image.data[at + i] = 20 + share * (c - 20) + (share > 0 ? 30 : 0);
          });
          image.data[at + 3] = 255;
        }),
      );
    });
    context.putImageData(image, 0, 0);
  }, [rows]);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex text-[12px] text-soft">
        {SHOWN.map(([name]) => (
          <span key={name} className="flex-1 text-center">
            {name}
          </span>
        ))}
      </div>
      <div className="relative min-h-0 flex-1">
        <canvas
          ref={canvas}
          role="img"
          aria-label={t.waveformOfRGAnd}
          className="h-full w-full rounded border border-line [image-rendering:auto]"
        />
        <span className="num absolute top-0.5 left-1 text-[12px] text-white">255</span>
        <span className="num absolute bottom-0.5 left-1 text-[12px] text-white">0</span>
      </div>
    </div>
  );
}
