import { Box, Flex } from "@chakra-ui/react";
import { type PointerEvent, useRef, useState } from "react";
import type { Asset, Network } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import type { Showing } from "../draft";
import { Slide } from "./Slide";

type Crop = NonNullable<Showing["crop"]>;
type Point = NonNullable<Showing["focus"]>;
type Props = {
  asset: Asset;
  showing: Showing;
  ratios: Network["ratios"];
  set: (more: Partial<Showing>) => void;
};

const WHOLE: Crop = { x: 0, y: 0, w: 1, h: 1 };
const USUAL = [
  { label: "1:1", ratio: 1 },
  { label: "4:5", ratio: 0.8 },
  { label: "4:3", ratio: 4 / 3 },
  { label: "16:9", ratio: 16 / 9 },
];
const clamp = (value: number, most: number) => Math.min(Math.max(value, 0), Math.max(most, 0));

/** Turn, crop to a shape, set the point that matters; by pointer, or by the sliders under it. */
export function CropEditor({ asset, showing, ratios, set }: Props) {
  const { brand } = useBrandContext();
  const frame = useRef<HTMLDivElement>(null);
  const [aim, setAim] = useState<"crop" | "focus">("crop");
  const drag = useRef<{ x: number; y: number; crop: Crop } | null>(null);
  const turn = showing.turn ?? 0;
  const crop = showing.crop ?? WHOLE;
  const focus = showing.focus ?? { x: 0.5, y: 0.5 };
  const [width, height] = turn % 2 ? [asset.height, asset.width] : [asset.width, asset.height];
  const ratio = width / height;

  /** The largest part of this shape, around the focus. */
  function shaped(wanted: number): Crop {
    const [w, h] = wanted < ratio ? [wanted / ratio, 1] : [1, ratio / wanted];
    return { x: clamp(focus.x - w / 2, 1 - w), y: clamp(focus.y - h / 2, 1 - h), w, h };
  }
  const whole = crop.w === 1 && crop.h === 1;
  const present = (crop.w / crop.h) * ratio;
  const largest = whole ? WHOLE : shaped(present);
  function sized(part: number) {
    const w = largest.w * part;
    const h = largest.h * part;
    set({ crop: { x: clamp(crop.x + (crop.w - w) / 2, 1 - w), y: clamp(crop.y + (crop.h - h) / 2, 1 - h), w, h } });
  }
  function at(event: PointerEvent): Point {
    const box = (frame.current as HTMLDivElement).getBoundingClientRect();
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  }
  function down(event: PointerEvent) {
    const point = at(event);
    if (aim === "focus") {
      set({ focus: { x: clamp(point.x, 1), y: clamp(point.y, 1) } });
      return;
    }
    drag.current = { ...point, crop };
    event.currentTarget.setPointerCapture(event.pointerId);
  }
  function moved(event: PointerEvent) {
    if (!drag.current) return;
    const { x, y, crop: from } = drag.current;
    const point = at(event);
    set({ crop: { ...from, x: clamp(from.x + point.x - x, 1 - from.w), y: clamp(from.y + point.y - y, 1 - from.h) } });
  }
  const shapes = ratios.length > 0 ? ratios : USUAL;
  return (
    <Box as="section" aria-label="Crop and focus">
      <Box
        ref={frame}
        position="relative"
        w="100%"
        aspectRatio={`${width} / ${height}`}
        overflow="hidden"
        cursor={aim === "focus" ? "crosshair" : whole ? "default" : "move"}
        touchAction="none"
        onPointerDown={down}
        onPointerMove={moved}
        onPointerUp={() => {
          drag.current = null;
        }}
        data-testid="crop-frame"
      >
        <img
          src={`/media/${brand.slug}/${asset.id}/shown?turn=${turn}&w=900`}
          alt={asset.alt || asset.name}
          style={{ width: "100%", height: "100%", display: "block" }}
          draggable={false}
        />
        <Box
          position="absolute"
          style={{
            left: `${crop.x * 100}%`,
            top: `${crop.y * 100}%`,
            width: `${crop.w * 100}%`,
            height: `${crop.h * 100}%`,
            boxShadow: "0 0 0 2000px rgb(0 0 0 / 55%)",
            outline: "2px solid #ffffff",
          }}
          pointerEvents="none"
        />
        <Box
          position="absolute"
          style={{ left: `${focus.x * 100}%`, top: `${focus.y * 100}%` }}
          w="18px"
          h="18px"
          m="-9px"
          borderRadius="50%"
          borderWidth="2px"
          borderColor="#ffffff"
          boxShadow="0 0 0 2px #000000a0"
          pointerEvents="none"
        />
      </Box>
      <Box fontSize="12px" color="faded" mt="4px" fontVariantNumeric="tabular-nums">
        {Math.max(1, Math.round(width * crop.w))} × {Math.max(1, Math.round(height * crop.h))} of {width} × {height}
      </Box>
      <Flex gap="6px" mt="10px" flexWrap="wrap" role="group" aria-label="Shape">
        <Button aria-pressed={whole} onClick={() => set({ crop: WHOLE })} borderColor={whole ? "ink" : undefined}>
          Whole
        </Button>
        {shapes.map((shape) => {
          const on = !whole && Math.abs(present - shape.ratio) < 0.01;
          return (
            <Button
              key={shape.label}
              aria-pressed={on}
              borderColor={on ? "ink" : undefined}
              onClick={() => set({ crop: shaped(shape.ratio) })}
            >
              {shape.label}
            </Button>
          );
        })}
        <Button
          aria-label="Turn a quarter clockwise"
          onClick={() => set({ turn: (turn + 1) % 4, crop: WHOLE, focus: { x: 1 - focus.y, y: focus.x } })}
        >
          ↻ Turn
        </Button>
      </Flex>
      <Flex gap="6px" mt="8px" role="radiogroup" aria-label="A press on the picture">
        {(["crop", "focus"] as const).map((one) => (
          <Button
            key={one}
            role="radio"
            aria-checked={aim === one}
            borderColor={aim === one ? "ink" : undefined}
            onClick={() => setAim(one)}
          >
            {one === "crop" ? "Press moves the crop" : "Press sets the focus"}
          </Button>
        ))}
      </Flex>
      {!whole && (
        <Box display="grid" gap="4px" mt="10px">
          <Slide label="Size" value={crop.w / largest.w} least={0.2} set={sized} />
          <Slide label="Across" value={crop.x} most={1 - crop.w} set={(x) => set({ crop: { ...crop, x } })} />
          <Slide label="Down" value={crop.y} most={1 - crop.h} set={(y) => set({ crop: { ...crop, y } })} />
        </Box>
      )}
      <Box display="grid" gap="4px" mt="6px">
        <Slide label="Focus across" value={focus.x} set={(x) => set({ focus: { ...focus, x } })} />
        <Slide label="Focus down" value={focus.y} set={(y) => set({ focus: { ...focus, y } })} />
      </Box>
    </Box>
  );
}
