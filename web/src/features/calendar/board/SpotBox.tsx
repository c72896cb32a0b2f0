import { useDroppable } from "@dnd-kit/core";
import { type ComponentProps, useEffect, useState } from "react";
import { type Held, refusal, remark, type Spot, useBoard, useHeld } from "./board";
import "./spot.css";

type Props = Omit<ComponentProps<"div">, "id"> & { spot: Spot; id: string };

/** A place that cards can be set down on; while one hovers it says what stands in the way, or what will happen. There are thousands of
 * them: they listen only while something is held, and their looks are plain classes. */
export function SpotBox({ spot, id, className = "", children, ...rest }: Props) {
  const held = useHeld();
  const [over, setOver] = useState(false);
  return (
    <div {...rest} className={`spot ${className}`} data-over={held && over ? "" : undefined}>
      {held && <DropArea spot={spot} id={id} held={held} tell={setOver} />}
      {children}
    </div>
  );
}

type AreaProps = { spot: Spot; id: string; held: Held; tell: (over: boolean) => void };

function DropArea({ spot, id, held, tell }: AreaProps) {
  const { window, lanes } = useBoard();
  const { setNodeRef, isOver } = useDroppable({ id, data: spot });
  useEffect(() => {
    tell(isOver);
    return () => tell(false);
  }, [isOver, tell]);
  const why = isOver ? refusal(held, spot, window, lanes) : "";
  const words = isOver ? why || remark(held, spot, lanes) : "";
  return (
    <div ref={setNodeRef} className="drop-area" data-hovered={isOver || undefined} data-refused={why ? "" : undefined}>
      {words && (
        <div className="drop-words" data-testid="drop-words">
          {words}
        </div>
      )}
    </div>
  );
}
