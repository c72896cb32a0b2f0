import { Box, chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Column, Profile, Schemas } from "@/api/client";
import { Play } from "@/ui/Marks";
import { useProofFrom } from "./from";
import { pictureOf } from "./src";

type Proof = Column["proof"];
type Piece = Schemas["PieceOut"];

/** The pictures of a proof: in rows that keep every true shape, or one after another. */
export function Pieces({ proof }: { proof: Proof }) {
  const [at, setAt] = useState(0);
  const row = proof.rows[0] ?? [];
  if (proof.one_by_one && row.length > 0) {
    const now = Math.min(at, row.length - 1);
    return (
      <Box position="relative">
        <OnePiece piece={row[now] as Piece} />
        <Flex position="absolute" bottom="6px" left="0" right="0" justify="center" gap="4px">
          {row.map((piece, n) => (
            <chakra.button
              key={piece.asset}
              type="button"
              aria-label={`Picture ${n + 1} of ${row.length}`}
              aria-current={n === now}
              onClick={() => setAt(n)}
              w="24px"
              h="24px"
              display="grid"
              placeItems="center"
            >
              <Box
                w="9px"
                h="9px"
                borderRadius="50%"
                bg={n === now ? "#ffffff" : "#ffffff80"}
                borderWidth="1px"
                borderColor="#000000a0"
              />
            </chakra.button>
          ))}
        </Flex>
      </Box>
    );
  }
  return proof.rows.map((pieces) => (
    <Flex
      key={pieces.map((piece) => piece.asset).join()}
      gap="4px"
      mt={proof.layout === "feed" || proof.layout === "listing" ? "6px" : "0"}
    >
      {pieces.map((piece) => (
        <Box key={piece.asset} w={`${piece.share * 100}%`} minW="0">
          <OnePiece piece={piece} />
        </Box>
      ))}
    </Flex>
  ));
}

/** One picture in the shape it is seen in; where the network cuts, the focus stays in sight. */
function OnePiece({ piece }: { piece: Piece }) {
  const { media } = useProofFrom();
  return (
    <Box
      position="relative"
      w="100%"
      aspectRatio={`${piece.width} / ${piece.height}`}
      data-proof-picture={`${piece.width}x${piece.height}`}
    >
      <img
        src={pictureOf(media, piece, 720)}
        alt={piece.alt}
        style={{
          width: "100%",
          height: "100%",
          objectFit: "cover",
          objectPosition: `${piece.focus.x * 100}% ${piece.focus.y * 100}%`,
          display: "block",
        }}
      />
      {piece.kind === "video" && <Plays seconds={piece.seconds} />}
      {piece.people.map((person) => (
        <Box
          key={`${person.who}${person.x}`}
          position="absolute"
          style={{ left: `${person.x * 100}%`, top: `${person.y * 100}%`, transform: "translate(-50%, 4px)" }}
          bg="#000000b0"
          color="#ffffff"
          borderRadius="4px"
          px="6px"
          fontSize="11px"
          lineHeight="17px"
          whiteSpace="nowrap"
        >
          {person.who}
        </Box>
      ))}
    </Box>
  );
}

function Plays({ seconds }: { seconds: number | null }) {
  const whole = Math.round(seconds ?? 0);
  return (
    <>
      <Box
        position="absolute"
        inset="0"
        m="auto"
        w="40px"
        h="40px"
        borderRadius="50%"
        bg="#000000a0"
        color="#ffffff"
        display="grid"
        placeItems="center"
        aria-hidden
      >
        <Play />
      </Box>
      <Box position="absolute" right="6px" bottom="6px" bg="#000000c0" color="#ffffff" px="5px" fontSize="11px">
        {Math.floor(whole / 60)}:{String(whole % 60).padStart(2, "0")}
      </Box>
    </>
  );
}

const PLACES = { top: "10%", middle: "45%", foot: "82%" } as Record<string, string>;

/** A story's frames in their order, each with its words over it. */
export function StoryFrames({ proof, profile }: { proof: Proof; profile: Pick<Profile, "name"> }) {
  const { media } = useProofFrom();
  const frames = proof.rows[0] ?? [];
  if (frames.length === 0)
    return (
      <Box p="14px">
        <i>A story needs a picture or a video.</i>
      </Box>
    );
  return (
    <Flex gap="6px" overflowX="auto" p="8px" tabIndex={0} role="group" aria-label={`Story of ${profile.name}`}>
      {frames.map((piece, n) => (
        <Box
          key={piece.asset}
          position="relative"
          flex="0 0 124px"
          aspectRatio={`${piece.width} / ${piece.height}`}
          borderRadius="8px"
          overflow="hidden"
          bg="#000000"
          data-story-frame={n + 1}
        >
          <img
            src={pictureOf(media, piece, 480)}
            alt={piece.alt}
            style={{
              width: "100%",
              height: "100%",
              objectFit: "cover",
              objectPosition: `${piece.focus.x * 100}% ${piece.focus.y * 100}%`,
            }}
          />
          <Flex position="absolute" top="5px" left="5px" right="5px" gap="2px" aria-hidden>
            {frames.map((other, m) => (
              <Box key={other.asset} flex="1" h="2px" bg={m <= n ? "#ffffff" : "#ffffff70"} />
            ))}
          </Flex>
          {piece.words && (
            <Box
              position="absolute"
              left="6px"
              right="6px"
              style={{ top: PLACES[piece.words_at] ?? PLACES.foot }}
              bg="#000000b0"
              color="#ffffff"
              borderRadius="5px"
              p="3px 6px"
              textAlign="center"
              fontSize="11px"
              lineHeight="14px"
              overflowWrap="anywhere"
            >
              {piece.words}
            </Box>
          )}
          {piece.kind === "video" && <Plays seconds={piece.seconds} />}
        </Box>
      ))}
    </Flex>
  );
}
