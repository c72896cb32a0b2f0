import type { Schemas } from "@/api/client";

type Drawn = Pick<Schemas["PieceOut"], "asset" | "kind" | "turn" | "crop" | "cover" | "cover_at">;

/** The address of a picture (under `media`) as it is shown: the original, turned and cropped; of a video, its thumbnail. */
export function pictureOf(media: string, piece: Drawn, width: number): string {
  if (piece.kind === "video") {
    if (piece.cover) return `${media}/${piece.cover}/thumb`;
    if (piece.cover_at !== null) return `${media}/${piece.asset}/frame?at=${piece.cover_at}&w=${width}`;
    return `${media}/${piece.asset}/thumb`;
  }
  const { x, y, w, h } = piece.crop;
  const whole = x === 0 && y === 0 && w === 1 && h === 1;
  if (piece.turn === 0 && whole) return `${media}/${piece.asset}/thumb`;
  return `${media}/${piece.asset}/shown?turn=${piece.turn}&crop=${[x, y, w, h].join(",")}&w=${width}`;
}
