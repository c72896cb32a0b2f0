import { chakra } from "@chakra-ui/react";

const SHAPES: Record<string, string> = {
  circle: "50%",
  square: "2px",
  diamond: "2px",
  arch: "12px 12px 2px 2px",
  drop: "12px 12px 12px 2px",
  leaf: "2px 10px 2px 10px",
  lozenge: "8px / 50%",
  petal: "50% 50% 2px 50%",
  hexagon: "7px 2px",
  folio: "2px 11px 2px 2px",
};

/** A network's two letters on its own shape, ink on paper. */
export function NetworkTile({ letters, shape, size = 24 }: { letters: string; shape: string; size?: number }) {
  const turned = shape === "diamond";
  return (
    <chakra.span
      aria-hidden
      display="inline-grid"
      placeItems="center"
      flex="none"
      w={`${turned ? size * 0.84 : size}px`}
      h={`${turned ? size * 0.84 : size}px`}
      borderWidth="1.5px"
      borderColor="ink"
      bg="card"
      borderRadius={SHAPES[shape] ?? "2px"}
      transform={turned ? "rotate(45deg)" : undefined}
      fontSize={`${size * 0.44}px`}
      fontWeight="700"
      lineHeight="1"
    >
      <span style={turned ? { transform: "rotate(-45deg)" } : undefined}>{letters}</span>
    </chakra.span>
  );
}
