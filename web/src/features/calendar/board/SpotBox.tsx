import { Box, type BoxProps } from "@chakra-ui/react";
import { useDroppable } from "@dnd-kit/core";
import { refusal, remark, type Spot, useBoard } from "./board";

type Props = Omit<BoxProps, "id"> & { spot: Spot; id: string };

/** A place that cards can be set down on; while one hovers it says what stands in the way, or what will happen. */
export function SpotBox({ spot, id, children, ...rest }: Props) {
  const { held, window, lanes } = useBoard();
  const { setNodeRef, isOver } = useDroppable({ id, data: spot });
  const over = isOver && held ? held : null;
  const why = over && refusal(over, spot, window, lanes);
  const values = over && (why || remark(over, spot, lanes));
  return (
    <Box
      ref={setNodeRef}
      {...rest}
      data-over={over ? "" : undefined}
      {...(over ? { bg: why ? "pimenton/15" : "anil/15" } : {})}
    >
      {values && (
        <Box
          fontSize="11px"
          lineHeight="13px"
          color={why ? "pimenton" : "anil"}
          fontWeight="600"
          data-testid="drop-words"
        >
          {values}
        </Box>
      )}
      {children}
    </Box>
  );
}
