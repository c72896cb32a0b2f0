import "./networkTile.css";

/** A network's two letters on its own shape, ink on paper. */
export function NetworkTile({ letters, shape, size = 24 }: { letters: string; shape: string; size?: number }) {
  const side = shape === "diamond" ? size * 0.84 : size;
  return (
    <span
      aria-hidden
      className="network-tile"
      data-shape={shape}
      style={{ width: side, height: side, fontSize: size * 0.44 }}
    >
      <span>{letters}</span>
    </span>
  );
}
